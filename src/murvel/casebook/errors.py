"""The one error of the casebook layer."""

from __future__ import annotations

from murvel.errors import MurvelError


class CasebookError(MurvelError):
    """A casebook that cannot be opened or written. Its message is one sentence that says what to do."""
