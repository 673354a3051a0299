"""How much of a style sheet is followed: a few bytes of one can ask for more than any machine has."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

DEEPEST = 32
"""How deep blocks, functions and at-rules may stand in each other."""

LONGEST_SELECTOR = 10_000
"""How many characters a selector may have, with those of the rules it is nested in."""

MOST_SELECTORS = 2_000_000
"""How many characters all selectors of a page may have together."""

LONGEST_CONTENT = 4_000
"""How many characters generated content may have: it stands in each element that its rule matches."""

MOST_COMPOUNDS = 60
"""How many compound selectors may be joined by combinators."""


def may_be_deep(text: str) -> bool:
    """Whether tokens of a text may stand in each other deeper than is followed: a quick look."""
    return text.count("(") + text.count("[") + text.count("{") > DEEPEST


def is_deep(tokens: Iterable[Any]) -> bool:
    """Whether tokens stand in each other deeper than is followed; this itself goes down without recursion."""
    level = list(tokens)
    for _ in range(DEEPEST):
        level = [inner for token in level for inner in _inside(token)]
        if not level:
            return False
    return True


def _inside(token: Any) -> Iterable[Any]:
    if token.type == "function":
        return list(token.arguments)
    return list(token.content) if token.type.endswith(" block") else ()
