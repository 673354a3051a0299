"""The types of input elements and what applies to each (HTML §4.10.5, the two tables of states and of what applies)."""

from __future__ import annotations

from murvel.dom.document import Element
from murvel.patterns import pattern

TYPED = frozenset({"email", "number", "password", "search", "tel", "text", "url"})
"""Types that characters are typed into; the placeholder attribute applies to them."""

WITH_PATTERN = TYPED - {"number"}
"""Types that the pattern attribute applies to."""

WITH_LIST = WITH_PATTERN - {"password"}
"""Types that a datalist turns into a combobox (HTML-AAM 1.0 §3.4, input type=text with list)."""

STEPPED = frozenset({"date", "datetime-local", "month", "number", "range", "time", "week"})
"""Types whose value goes up and down by steps."""

CHECKED = frozenset({"checkbox", "radio"})
"""Types that the checked attribute applies to."""

SUBMITTING = frozenset({"image", "submit"})
"""Types that submit their form."""

BUTTONS = SUBMITTING | {"button", "reset"}
"""Types that are buttons."""

ACTIVATED = BUTTONS | {"color", "file"}
"""Types that Enter activates; in the others it submits the form."""

TYPES = TYPED | STEPPED | CHECKED | ACTIVATED | {"hidden"}
"""All types."""


_DATE, _TIME = (
    r"\d{4,}-(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\d|3[01])",
    r"(?:[01]\d|2[0-3]):[0-5]\d(?::[0-5]\d(?:\.\d{1,3})?)?",
)
_NUMBER = pattern(r"-?(?:\d+(?:\.\d+)?|\.\d+)(?:[eE][+-]?\d+)?")
_KEPT = {
    "color": pattern(r"#[0-9a-fA-F]{6}"),
    "date": pattern(_DATE),
    "datetime-local": pattern(f"{_DATE}[T ]{_TIME}"),
    "month": pattern(r"\d{4,}-(?:0[1-9]|1[0-2])"),
    "number": _NUMBER,
    "range": _NUMBER,
    "time": pattern(_TIME),
    "week": pattern(r"\d{4,}-W(?:0[1-9]|[1-4]\d|5[0-3])"),
}
"""The values that types keep; any other is emptied (HTML §4.10.5.1, value sanitization algorithm)."""


def sanitized(kind: str, value: str) -> str:
    """Return the value that an input of a type has where an author states one."""
    kept = _KEPT.get(kind)
    if kept is None or (len(value) <= _LONGEST_KEPT and kept.fullmatch(value)):
        return value
    return "#000000" if kind == "color" else ""


_LONGEST_KEPT = 100


def input_type(element: Element) -> str:
    """Return the type of an input element; a type that is absent or unknown is text."""
    kind = element.attributes.get("type", "text").strip().lower()
    return kind if kind in TYPES else "text"


def control_type(element: Element) -> str:
    """Return the type of an input or button (HTML §4.10.6: submit, reset or button); empty for other elements."""
    if element.tag == "input":
        return input_type(element)
    if element.tag == "button":
        kind = element.attributes.get("type", "").strip().lower()
        return kind if kind in ("button", "reset") else "submit"
    return ""
