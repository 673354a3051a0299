"""What can go wrong while reading: a sentence a person can act on."""

from __future__ import annotations

from murvel.errors import MurvelError


class ReaderError(MurvelError):
    """A voice, cue file or move that cannot be used."""
