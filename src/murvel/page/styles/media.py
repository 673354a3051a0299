"""Media queries (Media Queries 4), answered for a screen of a given width with every preference at its default."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import tinycss2

from murvel.page.styles.conditions import holds, significant, word

_PIXELS = {
    "px": 1.0,
    "em": 16.0,
    "rem": 16.0,
    "cm": 96 / 2.54,
    "mm": 96 / 25.4,
    "in": 96.0,
    "pt": 96 / 72,
    "pc": 16.0,
}

# What a plain desktop screen answers to the discrete features (§5 to §7, Media Queries 5 §11); a query for any other
# value, or of an unknown feature, is not matched.
_DISCRETE = {
    "hover": "hover",
    "any-hover": "hover",
    "pointer": "fine",
    "any-pointer": "fine",
    "prefers-color-scheme": "light",
    "prefers-contrast": "no-preference",
    "prefers-reduced-motion": "no-preference",
    "prefers-reduced-transparency": "no-preference",
    "prefers-reduced-data": "no-preference",
    "forced-colors": "none",
    "inverted-colors": "none",
    "scripting": "none",
    "update": "fast",
    "display-mode": "browser",
    "grid": "0",
}
_FALSE_IN_BOOLEAN_CONTEXT = {"none", "no-preference", "0"}

HEIGHT = 800
"""The height of the viewport in CSS pixels."""


@dataclass(frozen=True, slots=True)
class Screen:
    """The viewport that queries are answered for, in CSS pixels."""

    width: float
    height: float = HEIGHT


def matches(prelude: Sequence[Any], screen: Screen) -> bool:
    """Whether a media query list holds; an empty one does, one that cannot be parsed does not.

    Args:
        prelude: tinycss2's tokens of the list.
        screen: the viewport.
    """
    queries = _split(significant(prelude), ",")
    return not significant(prelude) or any(_query(query, screen) for query in queries)


def _split(tokens: Sequence[Any], separator: str) -> list[list[Any]]:
    parts: list[list[Any]] = [[]]
    for token in tokens:
        if token.type == "literal" and token.value == separator:
            parts.append([])
        else:
            parts[-1].append(token)
    return parts


def _query(tokens: list[Any], screen: Screen) -> bool:
    """§3 <media-query>: an optional modifier, an optional type, conditions."""
    negated = False
    if tokens and word(tokens[0]) in ("not", "only") and len(tokens) > 1 and tokens[1].type == "ident":
        negated = word(tokens[0]) == "not"
        tokens = tokens[1:]
    held = True
    if tokens and tokens[0].type == "ident" and word(tokens[0]) != "not":
        held = word(tokens[0]) in ("all", "screen")
        tokens = tokens[1:]
        if tokens:
            if word(tokens[0]) != "and" or len(tokens) == 1:
                return False
            tokens = tokens[1:]
    condition = holds(tokens, lambda part: _feature(part, screen)) if tokens else True
    if condition is None:
        return False
    return (held and condition) != negated


def _feature(tokens: list[Any], screen: Screen) -> bool | None:
    """§2.4 <media-feature>: boolean, plain (`name: value`) or a range."""
    if not tokens:
        return None
    if len(tokens) == 1 and tokens[0].type == "ident":
        name = word(tokens[0])
        return name in ("width", "height") or _DISCRETE.get(name, "none") not in _FALSE_IN_BOOLEAN_CONTEXT
    sides = _split(tokens, ":")
    if len(sides) == 2 and len(sides[0]) == 1:
        return _plain(word(sides[0][0]), sides[1], screen)
    return _range(tokens, screen)


def _plain(name: str, value: list[Any], screen: Screen) -> bool | None:
    measure = {"width": screen.width, "height": screen.height}
    bare = name.removeprefix("min-").removeprefix("max-")
    if bare in measure and len(value) == 1:
        length = _length(value[0])
        if length is None:
            return None
        if name.startswith("min-"):
            return measure[bare] >= length
        return measure[bare] <= length if name.startswith("max-") else measure[bare] == length
    if name == "orientation" and value:
        return word(value[0]) == ("landscape" if screen.width > screen.height else "portrait")
    given = tinycss2.serialize(value).strip().lower()
    return _DISCRETE.get(name) == given if name in _DISCRETE else None


def _range(tokens: list[Any], screen: Screen) -> bool | None:
    """§2.4.3: `400px <= width < 900px` and its shorter forms."""
    values: list[float] = []
    operators: list[str] = []
    for token in tokens:
        if token.type == "literal" and token.value in "<>=":
            if operators and len(operators) > len(values) - 1:
                operators[-1] += token.value
            else:
                operators.append(token.value)
            continue
        length = {"width": screen.width, "height": screen.height}.get(word(token), _length(token))
        if length is None:
            return None
        values.append(length)
    if not operators or len(values) != len(operators) + 1:
        return None
    compare = {
        "<": lambda a, b: a < b,
        "<=": lambda a, b: a <= b,
        ">": lambda a, b: a > b,
        ">=": lambda a, b: a >= b,
        "=": lambda a, b: a == b,
    }
    if not set(operators) <= compare.keys():
        return None
    return all(compare[operator](values[i], values[i + 1]) for i, operator in enumerate(operators))


def _length(token: Any) -> float | None:
    if token.type == "number":
        return 0.0 if token.value == 0 else None
    if token.type == "dimension" and token.lower_unit in _PIXELS:
        return float(token.value * _PIXELS[token.lower_unit])
    return None
