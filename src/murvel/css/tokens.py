"""CSS text into tokens (CSS Syntax 3 §4, §5): the one way to the tokenizer.

Python refuses to read a number of more than 4,300 digits, so longer runs of digits become shorter ones, with spaces
behind them.
"""

from __future__ import annotations

from typing import Any

import tinycss2

from murvel.patterns import pattern

_MOST_DIGITS = 4_000
_TOO_MANY_DIGITS = pattern(rf"(\d{{{_MOST_DIGITS}}})\d+")


def component_values(text: str, *, skip_comments: bool = False) -> list[Any]:
    """Return the tokens of a text (parse a list of component values)."""
    return list(tinycss2.parse_component_value_list(_readable(text), skip_comments=skip_comments))


def block_contents(given: object) -> list[Any]:
    """Return the declarations and rules of a block, from its text or its tokens; comments and spaces left out."""
    return list(tinycss2.parse_blocks_contents(_readable(given), skip_comments=True, skip_whitespace=True))


def one_declaration(given: object) -> Any:
    """Return the declaration that a text or tokens are, or the error that they are none."""
    return tinycss2.parse_one_declaration(_readable(given))


def _readable(given: Any) -> Any:
    """What the tokenizer can read: tokens as they are, and text without endless numbers."""
    if isinstance(given, str) and len(given) > _MOST_DIGITS:
        return _TOO_MANY_DIGITS.sub(lambda found: found[1].ljust(len(found[0])), given)  # places stay what they are
    return given
