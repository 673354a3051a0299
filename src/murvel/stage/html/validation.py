"""Constraint validation (HTML §4.10.20), with what a browser's own message says."""

from __future__ import annotations

from murvel.page.controls import field_value, is_checked
from murvel.page.document import Document, Element
from murvel.page.inputs import BUTTONS, control_type
from murvel.tree.forms import radio_group
from murvel.tree.html import is_disabled
from murvel.tree.validity import is_invalid
from murvel.tree.values import chosen_options


def problem_of(document: Document, control: Element) -> str | None:
    """Return why a control's value is not valid, in words for the person; None where it is valid (§4.10.20.1)."""
    kind = control_type(control) or control.tag
    if kind in BUTTONS or kind == "hidden" or is_disabled(control) or "readonly" in control.attributes:
        return None
    if _is_missing(document, control, kind):
        return _MISSING.get(kind, "please fill in this field")
    if is_invalid(control):
        return _INVALID.get(kind, "please match the format that is asked for")
    return None


def _is_missing(document: Document, control: Element, kind: str) -> bool:
    if kind == "radio":
        group = radio_group(document, control)
        return any("required" in each.attributes for each in group) and not any(map(is_checked, group))
    if "required" not in control.attributes:
        return False
    if kind == "checkbox":
        return not is_checked(control)
    if control.tag == "select":
        return not any(option.attributes.get("value", option.text().strip()) for option in chosen_options(control))
    return not field_value(control)


_MISSING = {
    "checkbox": "please tick this to go on",
    "radio": "please choose one of these",
    "select": "please choose from the list",
    "file": "please choose a file",
}
_INVALID = {
    "email": "please enter an email address",
    "url": "please enter an address that begins with its scheme",
    "number": "please enter a number in the range that is asked for",
}
"""What the browser's own message says, in our words: browsers word them as they like (§4.10.20.3)."""
