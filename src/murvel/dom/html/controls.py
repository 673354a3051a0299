"""What controls are at the moment: their state where a person or script set it, else what the attributes say."""

from __future__ import annotations

from murvel.dom.document import Element
from murvel.dom.html.inputs import input_type, sanitized


def is_checked(control: Element) -> bool:
    """Whether a checkbox or radio button is checked (HTML §4.10.5, checkedness)."""
    checkedness = control.state.checkedness
    return "checked" in control.attributes if checkedness is None else checkedness


def is_marked_selected(option: Element) -> bool:
    """Whether an option is selected by itself, before its select has a say (HTML §4.10.10, selectedness)."""
    selectedness = option.state.selectedness
    return "selected" in option.attributes if selectedness is None else selectedness


def field_value(field: Element) -> str:
    """Return the value of an input or textarea (HTML §4.10.5, §4.10.11); empty if it has none."""
    value = field.state.value
    if value is not None:
        return value
    if field.tag == "textarea":
        return field.text()
    stated = field.attributes.get("value", "")
    return sanitized(input_type(field), stated) if field.tag == "input" else stated


def is_open(element: Element) -> bool:
    """Whether a details or dialog is open: HTML keeps that in the attribute itself (§4.11.1, §4.11.4)."""
    return "open" in element.attributes
