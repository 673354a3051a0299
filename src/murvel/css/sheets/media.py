"""Media queries (Media Queries 4), answered for a screen of a given width with every preference at its default."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import tinycss2

from murvel.css.sheets.conditions import ConditionError, holds, significant, split, word
from murvel.css.values.lengths import length

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
    "display-state": "normal",
    "dynamic-range": "standard",
    "video-dynamic-range": "standard",
    "overflow-block": "scroll",
    "overflow-inline": "scroll",
    "scan": "progressive",
    "environment-blending": "opaque",
    "nav-controls": "none",
    "horizontal-viewport-segments": "1",
    "vertical-viewport-segments": "1",
    "-webkit-transform-3d": "1",
    "grid": "0",
}
_AT_LEAST = {"color-gamut": ("srgb",)}
"""Features that answer to several values (§6.4)."""

_FALSE_IN_BOOLEAN_CONTEXT = {"none", "no-preference", "0"}

HEIGHT = 800
"""The height of the viewport in CSS pixels."""


@dataclass(frozen=True, slots=True)
class Screen:
    """The viewport that queries are answered for, in CSS pixels."""

    width: float
    height: float = HEIGHT

    def measures(self) -> dict[str, float]:
        """Return the features that are ranges (§4, §5.1, §6), each with its value."""
        sizes = {"width": self.width, "height": self.height, "aspect-ratio": self.width / self.height}
        return {
            **sizes,
            **{f"device-{name}": value for name, value in sizes.items()},
            "resolution": 1.0,
            "-webkit-device-pixel-ratio": 1.0,
            "color": 8.0,
            "color-index": 0.0,
            "monochrome": 0.0,
        }


def matches(prelude: Sequence[Any], screen: Screen) -> bool:
    """Whether a media query list holds; an empty one does, one that cannot be parsed does not.

    Args:
        prelude: tinycss2's tokens of the list.
        screen: the viewport.
    """
    queries = split(significant(prelude), ",")
    return not significant(prelude) or any(_query(query, screen) for query in queries)


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
    try:
        condition = holds(tokens, lambda part: feature(part, screen)) if tokens else True
    except ConditionError:
        return False
    return condition is not None and (held and condition) != negated


def feature(tokens: list[Any], screen: Screen) -> bool | None:
    """Return what a media feature answers (§2.4): boolean, plain (`name: value`) or a range; None for an unknown one.

    Args:
        tokens: what stands in its parentheses, without white space.
        screen: the viewport.
    """
    if not tokens:
        return None
    if len(tokens) == 1 and tokens[0].type == "ident":
        return _boolean(word(tokens[0]), screen)
    sides = split(tokens, ":")
    if len(sides) == 2 and len(sides[0]) == 1:
        return _plain(word(sides[0][0]), sides[1], screen)
    return _range(tokens, screen)


def _boolean(name: str, screen: Screen) -> bool | None:
    measures = screen.measures()
    if name in measures:
        return measures[name] != 0
    if name in ("orientation", *_AT_LEAST):
        return True
    return _DISCRETE[name] not in _FALSE_IN_BOOLEAN_CONTEXT if name in _DISCRETE else None


def _plain(name: str, value: list[Any], screen: Screen) -> bool | None:
    bare = name.replace("min-", "", 1).replace("max-", "", 1)
    measure = screen.measures().get(bare)
    if measure is not None:
        asked = _asked(bare, value, screen)
        if asked is None:
            return None
        if bare != name:
            return measure >= asked if "min-" in name else measure <= asked
        return abs(measure - asked) < _NEAR
    given = str(tinycss2.serialize(value)).strip().lower()
    if name == "orientation":
        return bool(given == ("landscape" if screen.width > screen.height else "portrait"))
    if name in _AT_LEAST:
        return given in _AT_LEAST[name]
    return _DISCRETE.get(name) == given if name in _DISCRETE else None


_NEAR = 1e-6


def _asked(name: str, value: list[Any], screen: Screen) -> float | None:
    """The value that a feature is compared with, None if it is of another kind."""
    if name.endswith("aspect-ratio"):
        return _ratio(value)
    if len(value) != 1:
        return None
    (token,) = value
    if name == "resolution":
        dots = _DOTS.get(token.lower_unit) if token.type == "dimension" else None
        return None if dots is None else float(token.value * dots)
    if name in ("-webkit-device-pixel-ratio", "color", "color-index", "monochrome"):
        return float(token.value) if token.type == "number" else None
    return length(token, screen.width, screen.height)


def _ratio(value: list[Any]) -> float | None:
    """CSS Values 4 §5.7: a number, or two with a slash between them."""
    numbers = [float(token.value) for token in value if token.type == "number"]
    if len(value) == 1 and numbers:
        return numbers[0]
    is_ratio = len(value) == 3 and len(numbers) == 2 and value[1].type == "literal" and value[1].value == "/"
    return numbers[0] / numbers[1] if is_ratio and numbers[1] else None


_DOTS = {"dppx": 1.0, "x": 1.0, "dpi": 1 / 96, "dpcm": 2.54 / 96}
"""Units of resolution in dots per pixel (CSS Values 4 §7.4)."""


def _range(tokens: list[Any], screen: Screen) -> bool | None:
    """§2.4.3: `400px <= width < 900px` and its shorter forms."""
    sides: list[list[Any]] = [[]]
    operators: list[str] = []
    for token in tokens:
        if token.type == "literal" and token.value in ("<", ">", "=", "<=", ">="):
            if sides[-1]:
                operators.append(token.value)
                sides.append([])
            elif operators:
                operators[-1] += token.value
        else:
            sides[-1].append(token)
    measures = screen.measures()
    name = next((word(side[0]) for side in sides if len(side) == 1 and word(side[0]) in measures), None)
    if name is None or not operators or not set(operators) <= _COMPARE.keys():
        return None
    values = [
        measures[name] if len(side) == 1 and word(side[0]) == name else _asked(name, side, screen) for side in sides
    ]
    known = [value for value in values if value is not None]
    if len(known) < len(values):
        return None
    return all(_COMPARE[operator](known[at], known[at + 1]) for at, operator in enumerate(operators))


_COMPARE: dict[str, Callable[[float, float], bool]] = {
    "<": lambda a, b: a < b,
    "<=": lambda a, b: a <= b + _NEAR,
    ">": lambda a, b: a > b,
    ">=": lambda a, b: a >= b - _NEAR,
    "=": lambda a, b: abs(a - b) < _NEAR,
}
