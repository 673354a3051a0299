"""The one error of the browser layer."""

from __future__ import annotations

from murvel.errors import MurvelError


class BrowserError(MurvelError):
    """A browser that cannot be started or asked. Its message is one sentence that says what to do."""


class NoBrowserError(BrowserError):
    """There is no browser, or nothing to drive one with."""
