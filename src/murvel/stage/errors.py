"""What can go wrong on the stage: a sentence a person can act on."""

from __future__ import annotations

from murvel.errors import MurvelError


class StageError(MurvelError):
    """A cue file that cannot be used."""
