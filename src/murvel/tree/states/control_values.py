"""Values of controls (HTML-AAM 1.0 §3.5, Core-AAM 1.2 aria-valuenow and aria-valuetext)."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.dom.document import Element, Text
from murvel.dom.html.controls import field_value
from murvel.dom.html.facts import is_editing_host, select_is_list
from murvel.dom.html.inputs import control_type
from murvel.dom.html.options import chosen_options, option_text
from murvel.text import collapse
from murvel.tree.focus import is_focusable
from murvel.tree.roles.aria_roles import RANGES
from murvel.tree.states.ranges import range_of, written
from murvel.tree.states.states import State

NO_FILE = "No file chosen"
"""What a file field says before anything is chosen; Chromium's words."""

_TEXT_ROLES = frozenset({"textbox", "searchbox", "spinbutton", "datefield", "combobox", "colorwell"})


VALUED = RANGES | _TEXT_ROLES | {"listbox", "filebutton"}
"""Roles that may have a value."""


def value_of(element: Element, role: str) -> str:
    """Return the value a node has, as text; empty if it has none or its role knows none."""
    if role in RANGES or role == "spinbutton":
        return range_value(element, role) or ""
    if element.tag == "select" and role in ("combobox", "listbox"):
        return "" if select_is_list(element) else ", ".join(option_text(option) for option in chosen_options(element))
    if role in _TEXT_ROLES:
        is_field = element.tag in ("input", "textarea", "select") or is_editing_host(element)
        return text_value(element) if is_field or role != "combobox" else ""
    return NO_FILE if role == "filebutton" else ""


def text_value(element: Element) -> str:
    """Return the text in a text field: its value, or what an editable element contains. A password is not told."""
    if element.tag in ("input", "textarea"):
        value = field_value(element)
        return "•" * len(value) if control_type(element) == "password" else value
    if element.tag == "select":
        return ""
    return collapse("".join(_lines_of(element)))


def _lines_of(element: Element) -> Iterator[str]:
    """Yield the texts in an element, with a space for each line break."""
    for node in element.descendants():
        if isinstance(node, Text):
            yield node.data
        elif node.tag == "br":
            yield " "


def range_value(element: Element, role: str) -> str | None:
    """Return the value of a range as it is said: its text, else its number, None if it has none."""
    found = range_of(element, role, is_focusable=is_focusable(element))
    if found is None:
        return None
    return found.text or (written(found.now) if found.now is not None else None)


def properties_of(element: Element, role: str) -> dict[str, State]:
    """Return the properties of an element beside its states: bounds, and how it is worked (WAI-ARIA 1.2 §6.6)."""
    told: dict[str, State] = {}
    takes_focus = is_focusable(element)
    found = range_of(element, role, is_focusable=takes_focus)
    if found is not None:
        for name, number in (("valuenow", found.now), ("valuemin", found.low), ("valuemax", found.high)):
            if number is not None:
                told[name] = written(number)
        if found.text:
            told["valuetext"] = found.text
    for name, attribute in (("autocomplete", "aria-autocomplete"), ("keyshortcuts", "aria-keyshortcuts")):
        text = collapse(element.attributes[attribute]) if attribute in element.attributes else ""
        if text:
            told[name] = text
    if role == "combobox" and element.tag == "input" and "list" in element.attributes:
        told.setdefault("autocomplete", "list")  # HTML-AAM 1.0 §3.5, list
    if takes_focus:
        told["focusable"] = True
    return told
