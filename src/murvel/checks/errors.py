"""What goes wrong with checks."""

from __future__ import annotations

from murvel.errors import MurvelError
from murvel.text import visible


class CheckError(MurvelError):
    """A check, a configuration or a baseline cannot be used; the message is one sentence that says what to do."""


def error_words(error: BaseException) -> str:
    """Return what went wrong in code that anybody may have written, in words that are safe to show."""
    return visible(f"{type(error).__name__}: {' '.join(str(error).split())}")[:200]
