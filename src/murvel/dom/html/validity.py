"""Whether a control's value is invalid as the page arrives (HTML §4.10.20.2, constraint validation).

Browsers expose that as invalid, except for text fields that are merely empty though required.
"""

from __future__ import annotations

import re

from murvel.dom.document import Document, Element
from murvel.dom.html.controls import field_value, is_checked
from murvel.dom.html.facts import is_disabled
from murvel.dom.html.forms import SUBMITTABLE, controls_of, radio_group
from murvel.dom.html.inputs import BUTTONS, STEPPED, TYPED, WITH_PATTERN, control_type, input_type
from murvel.dom.html.options import chosen_options
from murvel.patterns import pattern

_EMAIL = pattern(
    r"[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?"
    r"(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*"
)
"""A valid email address (HTML §4.10.5.1.5)."""

_LONGEST_TRIED, _MOST_REPEATED = 100, 3
_REPEATED = pattern(r"[*+]|\{\d*,\d*\}")
_PIECE = pattern(r"\\.|\[\^?\]?(?:\\.|[^\]\\])*\]|\{\d+\}|.", re.DOTALL)
"""A piece of a regular expression: an escape, a class, a repetition of a fixed number, or a character."""

_ABSOLUTE_URL = pattern(r"[a-zA-Z][a-zA-Z0-9+.-]*:.+")


def is_invalid(element: Element) -> bool:
    """Whether a control fails its constraints, or a script has set an error of its own on it."""
    attributes = element.attributes
    if element.state.has_custom_error:
        return True
    if element.tag not in ("input", "select"):
        return False
    if element.tag == "select":
        return "required" in attributes and not any(_option_value(option) for option in chosen_options(element))
    kind = input_type(element)
    if kind == "checkbox":
        return "required" in attributes and not is_checked(element)
    value = field_value(element)
    if not value:
        return False
    if kind == "email" and not _EMAIL.fullmatch(value.strip()):
        return True
    if kind == "url" and not _ABSOLUTE_URL.fullmatch(value.strip()):
        return True
    if kind in WITH_PATTERN and "pattern" in attributes and not _fits(attributes["pattern"], value):
        return True
    return kind == "number" and _out_of_range(attributes, value)


def may_be_validated(control: Element) -> bool:
    """Whether a control is a candidate for constraint validation (§4.10.20.1, barred from constraint validation)."""
    kind = control_type(control)
    if control.tag == "button" and kind != "submit":
        return False
    if kind in ("hidden", "button", "reset") or is_disabled(control):
        return False
    if any(above.tag == "datalist" for above in control.ancestors()):
        return False
    return "readonly" not in control.attributes or (control.tag == "input" and kind not in TYPED | STEPPED)


def is_missing(document: Document, control: Element) -> bool:
    """Whether a control that asks for a value has none (§4.10.20.2, suffering from being missing)."""
    kind = control_type(control)
    if kind == "radio":
        group = radio_group(document, control)
        return any("required" in each.attributes for each in group) and not any(map(is_checked, group))
    if "required" not in control.attributes or control.tag == "button" or kind in BUTTONS | {"color", "range"}:
        return False
    if kind == "checkbox":
        return not is_checked(control)
    if control.tag == "select":
        return not any(_option_value(option) for option in chosen_options(control))
    return not field_value(control)


def is_validated(document: Document, element: Element) -> bool:
    """Whether :valid or :invalid is asked of an element: a candidate, or what holds controls (HTML §4.16.3)."""
    return element.tag in ("form", "fieldset") or (element.tag in SUBMITTABLE and may_be_validated(element))


def is_valid(document: Document, element: Element) -> bool:
    """Whether a control satisfies its constraints, or all controls of a form or fieldset do (HTML §4.16.3)."""
    if element.tag == "form":
        return all(_satisfies(document, control) for control in controls_of(document, element))
    if element.tag == "fieldset":
        inside = (each for each in element.descendants() if isinstance(each, Element) and each.tag in SUBMITTABLE)
        return all(_satisfies(document, control) for control in inside)
    return _satisfies(document, element)


def _satisfies(document: Document, control: Element) -> bool:
    if not may_be_validated(control):
        return True
    return not is_missing(document, control) and not is_invalid(control)


def has_range(element: Element) -> bool:
    """Whether an input has a range limitation (§4.10.5.3.7)."""
    kind = control_type(element)
    if is_disabled(element) or "readonly" in element.attributes:
        return False
    return kind == "range" or (kind in STEPPED and bool({"min", "max"} & element.attributes.keys()))


def is_out_of_range(element: Element) -> bool:
    """Whether the value of an input lies outside its range; a range input's never does."""
    if not has_range(element) or control_type(element) == "range":
        return False
    value, attributes = field_value(element), element.attributes
    if control_type(element) == "number":
        return _out_of_range(attributes, value)
    low, high = attributes.get("min", ""), attributes.get("max", "")
    return bool(value) and ((bool(low) and value < low) or (bool(high) and value > high))  # dates sort as text


def _fits(pattern: str, value: str) -> bool:
    """Whether a value fits a pattern attribute (HTML §4.10.5.3.6); a pattern that might run for ever is not tried.

    A search takes long where a group is repeated that can match in several ways, or where much can be divided.
    """
    if len(value) > _LONGEST_TRIED or len(_REPEATED.findall(pattern)) > _MOST_REPEATED or _is_risky(pattern):
        return True
    try:
        return re.fullmatch(pattern, value) is not None
    except (re.error, OverflowError, RecursionError):
        return True  # a browser ignores what is no regular expression


def _is_risky(pattern: str) -> bool:
    """Whether a group is repeated that has repetition or alternatives in it, or whether there is a back reference."""
    pieces = _PIECE.findall(pattern)
    groups: list[bool] = []
    for piece, following in zip(pieces, [*pieces[1:], ""], strict=True):
        if piece == "(":
            groups.append(False)
        elif piece == ")" and groups:
            varies = groups.pop()
            if varies and following[:1] in ("*", "+", "{"):
                return True
            if varies and groups:
                groups[-1] = True
        elif piece in ("*", "+", "?", "{", "|"):
            groups = [True] * len(groups)
        elif piece[0] == "\\" and piece[1:].isdecimal() and piece != "\\0":
            return True
    return False


def _option_value(option: Element) -> str:
    value = option.attributes.get("value")
    return option.text().strip() if value is None else value


def _out_of_range(attributes: dict[str, str], value: str) -> bool:
    number = _number(value)
    low, high = _number(attributes.get("min", "")), _number(attributes.get("max", ""))
    if number is None:
        return False
    return (low is not None and number < low) or (high is not None and number > high)


def _number(text: str) -> float | None:
    try:
        return float(text)
    except ValueError:
        return None
