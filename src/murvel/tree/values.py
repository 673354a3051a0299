"""Values of controls (HTML-AAM 1.0 §3.5, Core-AAM 1.2 aria-valuenow and aria-valuetext)."""

from __future__ import annotations

from murvel.page.document import Element
from murvel.page.html.controls import field_value
from murvel.page.html.facts import select_is_list
from murvel.page.html.inputs import control_type
from murvel.page.html.options import chosen_options, option_text
from murvel.page.text import collapse
from murvel.tree.roles import RANGES

NO_FILE = "No file chosen"
"""What a file field says before anything is chosen; Chromium's words."""

_TEXT_ROLES = frozenset({"textbox", "searchbox", "spinbutton", "datefield", "combobox", "colorwell"})


VALUED = RANGES | _TEXT_ROLES | {"listbox", "filebutton"}
"""Roles that may have a value."""


def value_of(element: Element, role: str) -> str:
    """Return the value a node has, as text; empty where it has none or its role knows none."""
    if role in RANGES or role == "spinbutton":
        return range_value(element, role) or ""
    if element.tag == "select" and role in ("combobox", "listbox"):
        return "" if select_is_list(element) else ", ".join(option_text(option) for option in chosen_options(element))
    if role in _TEXT_ROLES:
        return text_value(element)
    return NO_FILE if role == "filebutton" else ""


def text_value(element: Element) -> str:
    """Return the text in a text field: its value, or what an editable element contains. A password is not told."""
    if element.tag in ("input", "textarea"):
        value = field_value(element)
        return "•" * len(value) if control_type(element) == "password" else value
    if element.tag == "select":
        return ""
    return collapse(element.text())


def range_value(element: Element, role: str) -> str | None:
    """Return the value of a range as it is said: its text, else its number, None where it has none."""
    attributes = element.attributes
    text = collapse(attributes.get("aria-valuetext", ""))
    if text:
        return text
    if "aria-valuenow" in attributes:
        return _number(attributes["aria-valuenow"])
    if element.tag == "input":
        value = _number(field_value(element))
        return value or (_middle(attributes) if role == "slider" else None)
    if element.tag in ("meter", "progress"):
        return _number(attributes.get("value", "")) or ("0" if element.tag == "meter" else None)
    return None


def _number(text: str) -> str:
    """A number as browsers write it, with a digit before the point; what is no number stays as it is."""
    text = text.strip()
    return "0" + text if text[:1] == "." and text[1:].isdecimal() else text


def _middle(attributes: dict[str, str]) -> str:
    """The default of a range input: midway between its bounds (HTML §4.10.5.1.13)."""
    try:
        low, high = float(attributes.get("min") or 0), float(attributes.get("max") or 100)
    except ValueError:
        low, high = 0.0, 100.0
    return f"{low if high < low else low + (high - low) / 2:g}"
