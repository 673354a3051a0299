"""Right-to-left text as it is seen: most terminals put characters from left to right, whatever they are.

Speech and everything that is kept have the logical order; only what is drawn is put into the order of sight (Unicode
Standard Annex 9). Terminals that do so themselves get the text as it is.
"""

from __future__ import annotations

import os
from collections.abc import Mapping
from functools import cache

from murvel.patterns import pattern

_RIGHT_TO_LEFT = pattern("[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff\U00010800-\U00010fff\U0001e800-\U0001efff]")
_REORDERING = ("VTE_VERSION", "KONSOLE_VERSION")
"""Variables that terminals set which reorder text themselves."""

_REORDERING_PROGRAMS = frozenset({"Apple_Terminal", "iTerm.app", "mlterm"})


def in_sight(text: str) -> str:
    """Return one line of text with its characters in the order in which they are seen, from left to right."""
    if text.isascii() or _RIGHT_TO_LEFT.search(text) is None or _terminal_reorders():
        return text
    from bidi import get_display

    return str(get_display(text))


@cache
def _terminal_reorders() -> bool:
    return reorders(os.environ)


def reorders(variables: Mapping[str, str]) -> bool:
    """Return whether a terminal puts right-to-left text into the order of sight itself, by its variables."""
    if any(variables.get(name) for name in _REORDERING):
        return True
    return variables.get("TERM_PROGRAM", "") in _REORDERING_PROGRAMS or variables.get("TERM", "").startswith("mlterm")
