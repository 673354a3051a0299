"""Ranges: where a slider, meter, scrollbar or the like stands between its bounds.

WAI-ARIA 1.2 §5.2.8.2 and §6.6 (aria-valuenow and its bounds); HTML §4.10.5.1.13 (range), §4.10.13 (progress), §4.10.14
(meter); Core-AAM 1.2 §4.3 (author errors).
"""

from __future__ import annotations

from typing import NamedTuple

from murvel.dom.document import Element
from murvel.dom.html.controls import field_value
from murvel.dom.html.inputs import input_type
from murvel.patterns import pattern
from murvel.text import collapse
from murvel.tree.roles.aria_roles import RANGES

_NUMBER = pattern(r"\s*([+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?)")
_MIDWAY = frozenset({"scrollbar", "slider"})
"""Roles that stand midway where no value is stated."""

_OF_SEPARATORS = 50.0
"""Where browsers take a separator to stand that states no value, whatever its bounds; an hr stands nowhere."""

_FROM_ZERO = frozenset({"meter", "spinbutton"})
_LONGEST = 40
"""How many characters of a number are read."""


class Range(NamedTuple):
    """Where a range stands; None if that is not known.

    Attributes:
        now, low, high: the value and its bounds.
        text: the value in the author's words, empty if there are none.
    """

    now: float | None = None
    low: float | None = None
    high: float | None = None
    text: str = ""


def range_of(element: Element, role: str, *, is_focusable: bool) -> Range | None:
    """Return where an element stands; None for what is no range.

    Args:
        element: the element.
        role: its role.
        is_focusable: whether it can have the focus: only then is a separator one that moves.
    """
    if role not in RANGES and role != "spinbutton":
        return None
    text = collapse(element.attributes.get("aria-valuetext", ""))
    if element.tag == "input" and "aria-valuenow" not in element.attributes:
        return _of_input(element)._replace(text=text)
    if element.tag in ("meter", "progress"):
        return _of_gauge(element)._replace(text=text)
    if role == "separator" and not is_focusable:
        return None
    return _stated(element, role)._replace(text=text)


def written(number: float) -> str:
    """Return a number as browsers write it: without a point where it is whole."""
    return str(int(number)) if number == int(number) and abs(number) < 1e15 else f"{number:.6g}"


def _stated(element: Element, role: str) -> Range:
    attributes = element.attributes
    bounded = role != "spinbutton"
    low = _read(attributes.get("aria-valuemin"), 0.0 if bounded else None)
    high = _read(attributes.get("aria-valuemax"), 100.0 if bounded else None)
    if "aria-valuenow" in attributes:
        now = _read(attributes["aria-valuenow"], 0.0)
    elif role == "separator":
        return Range(None if element.tag == "hr" else _OF_SEPARATORS, low, high)
    elif role in _MIDWAY and low is not None and high is not None:
        now = low if high < low else low + (high - low) / 2
    else:
        now = 0.0 if role in _FROM_ZERO else None
    return Range(_within(now, low, high), low, high)


def _of_input(element: Element) -> Range:
    """HTML §4.10.5.1.12 and .13: a number as it is written, a range within its bounds and on its steps."""
    attributes, value = element.attributes, field_value(element).strip()
    is_slider = input_type(element) == "range"
    low = _read(attributes.get("min"), 0.0 if is_slider else None)
    high = _read(attributes.get("max"), 100.0 if is_slider else None)
    now = _read(value, None)
    if not is_slider or low is None or high is None:
        return Range(now, low, high)
    high = max(low, high)
    now = low + (high - low) / 2 if now is None else min(max(now, low), high)
    step = 0.0 if attributes.get("step", "").strip().lower() == "any" else _read(attributes.get("step"), 1.0) or 1.0
    if step > 0:
        now = low + int((now - low) / step + 0.5 + 1e-9) * step
        now = now if now <= high + 1e-9 else now - step
    return Range(now, low, high)


def _of_gauge(element: Element) -> Range:
    attributes = element.attributes
    if element.tag == "progress":
        high = _read(attributes.get("max"), 1.0) or 1.0
        high = high if high > 0 else 1.0
        now = _within(_read(attributes["value"], 0.0), 0.0, high) if "value" in attributes else None
        return Range(now, 0.0, high)
    low = _read(attributes.get("min"), 0.0) or 0.0
    high = max(low, _read(attributes.get("max"), 1.0) or 0.0)
    return Range(_within(_read(attributes.get("value"), 0.0), low, high), low, high)


def _within(now: float | None, low: float | None, high: float | None) -> float | None:
    if now is not None and low is not None:
        now = max(now, low)
    if now is not None and high is not None and (low is None or high >= low):
        now = min(now, high)
    return now


def _read(text: str | None, default: float | None) -> float | None:
    """Read a number as HTML does (§2.3.4.3): what follows it is passed over; `default` if there is none."""
    found = _NUMBER.match(text[:_LONGEST]) if text else None
    number = float(found.group(1)) if found is not None else None
    return default if number is None or abs(number) == float("inf") else number
