"""Constraint validation (HTML §4.10.20), with what a browser's own message says."""

from __future__ import annotations

from murvel.dom.document import Document, Element
from murvel.dom.html.inputs import BUTTONS, control_type
from murvel.dom.html.validity import is_invalid, is_missing, may_be_validated


def problem_of(document: Document, control: Element) -> str | None:
    """Return why a control's value is not valid, in words for the person; None if it is valid (§4.10.20.1)."""
    kind = control_type(control) or control.tag
    if not may_be_validated(control) or kind in BUTTONS:
        return None
    if is_missing(document, control):
        return _MISSING.get(kind, "please fill in this field")
    if is_invalid(control):
        return _INVALID.get(kind, "please match the format that is asked for")
    return None


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
