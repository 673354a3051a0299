"""Lengths as media and container queries have them, with mathematical functions (CSS Values 4 §5, §6, §10)."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from murvel.css.sheets.conditions import split

_PIXELS = {
    "px": 1.0, "em": 16.0, "rem": 16.0, "ex": 8.0, "ch": 8.0, "cap": 16.0, "ic": 16.0, "lh": 18.0, "rlh": 18.0,
    "cm": 96 / 2.54, "mm": 96 / 25.4, "q": 96 / 101.6, "in": 96.0, "pt": 96 / 72, "pc": 16.0,
}  # fmt: skip
"""Units in CSS pixels; those of fonts for the browser's default font."""

_OF_VIEWPORT = {"vw": 0, "vi": 0, "vh": 1, "vb": 1}
_SIZES = [f"{size}{unit}" for size in ("", "s", "l", "d") for unit in (*_OF_VIEWPORT, "vmin", "vmax")]
UNITS = frozenset(
    [*_PIXELS, *_SIZES, *"cqw cqh cqi cqb cqmin cqmax deg grad rad turn s ms hz khz dpi dpcm dppx x fr".split()]
)
"""All units that a browser knows (§6, §7; Grid 1 §7.2.4)."""

_MATH: dict[str, Callable[[list[float]], float | None]] = {
    "calc": lambda values: values[0] if len(values) == 1 else None,
    "min": min,
    "max": max,
    "clamp": lambda values: max(values[0], min(values[1], values[2])) if len(values) == 3 else None,
}


def length(token: Any, width: float, height: float) -> float | None:
    """Return a length in CSS pixels, None if a token is none.

    Args:
        token: tinycss2's token: a dimension, a zero, or a mathematical function.
        width, height: the viewport's, in CSS pixels.
    """
    if token.type == "number":
        return 0.0 if token.value == 0 else None
    return _value([token], width, height)


def _value(tokens: Sequence[Any], width: float, height: float) -> float | None:
    """A sum of products (§10.9, <calc-sum>); numbers and lengths are not told apart."""
    terms = [token for token in tokens if token.type not in ("whitespace", "comment")]
    if len(terms) % 2 == 0:
        return None
    found = _atom(terms[0], width, height)
    total, product = 0.0, found
    for sign, term in zip(terms[1::2], terms[2::2], strict=True):
        value = _atom(term, width, height)
        operator = sign.value if sign.type == "literal" else ""
        if product is None or value is None or operator not in ("+", "-", "*", "/") or (operator == "/" and not value):
            return None
        if operator in ("*", "/"):
            product = product * value if operator == "*" else product / value
        else:
            total, product = total + product, value if operator == "+" else -value
    return None if product is None else total + product


def _atom(token: Any, width: float, height: float) -> float | None:
    if token.type == "number":
        return float(token.value)
    if token.type == "dimension":
        return _dimension(float(token.value), token.lower_unit, width, height)
    if token.type == "() block":
        return _value(token.content, width, height)
    if token.type == "function" and token.lower_name in _MATH:
        values = [_value(part, width, height) for part in split(token.arguments, ",")]
        known = [value for value in values if value is not None]
        return _MATH[token.lower_name](known) if len(known) == len(values) else None
    return None


def _dimension(value: float, unit: str, width: float, height: float) -> float | None:
    if unit in _PIXELS:
        return value * _PIXELS[unit]
    bare = unit[1:] if unit[:1] in ("s", "l", "d") else unit
    sizes = (width, height)
    if bare in _OF_VIEWPORT:
        return value * sizes[_OF_VIEWPORT[bare]] / 100
    if bare in ("vmin", "vmax"):
        return value * (min(sizes) if bare == "vmin" else max(sizes)) / 100
    return None
