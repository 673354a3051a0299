"""What can go wrong while reading: a sentence a person can act on."""

from __future__ import annotations

from murvel.errors import MurvelError


class ReaderError(MurvelError):
    """A move or a voice that cannot be used. Its message is one sentence that says what to do."""
