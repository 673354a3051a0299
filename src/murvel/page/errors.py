"""The one error of the page layer."""

from __future__ import annotations

from murvel.errors import MurvelError


class PageError(MurvelError):
    """A page that cannot be opened. Its message is one sentence that says what to do."""
