"""States that an element has from others: what it stands in, what it shows or hides, what belongs to its group."""

from __future__ import annotations

from murvel.dom.document import Element
from murvel.dom.html.inputs import TYPED, control_type
from murvel.dom.html.validity import is_missing
from murvel.tree.focus import is_focusable
from murvel.tree.roles.semantics import Semantics
from murvel.tree.states.states import State

_POPOVER_COMMANDS = frozenset({"hide-popover", "show-popover", "toggle-popover"})
_CELLS_OF_GRIDS = frozenset({"columnheader", "gridcell", "rowheader"})


def states_around(semantics: Semantics, element: Element, role: str) -> dict[str, State]:
    """Return the states that come before those of the element itself.

    Args:
        semantics: answers for other elements.
        element: the element.
        role: its role.
    """
    states: dict[str, State] = {}
    attributes = element.attributes
    popover = _invoked_popover(semantics, element) if role == "button" and attributes else None
    if popover is not None:
        states["expanded"] = popover.state.is_showing
    if role in _CELLS_OF_GRIDS and "aria-readonly" not in attributes and semantics.is_read_only_around(element):
        states["readonly"] = True
    if element.tag == "input" and "aria-invalid" not in attributes and _is_missing(semantics, element):
        states["invalid"] = True
    if semantics.is_disabled_around(element) and is_focusable(element):
        states["disabled"] = True
    return states


def _is_missing(semantics: Semantics, field: Element) -> bool:
    """Whether a field that asks for a value has none; browsers tell it of text fields only once they were left."""
    kind = control_type(field)
    if kind == "radio":
        return semantics.is_choice_missing(field)
    return "required" in field.attributes and kind not in TYPED and is_missing(semantics.document, field)


def _invoked_popover(semantics: Semantics, button: Element) -> Element | None:
    """The popover that a button shows or hides (HTML §6.12.1, popovertarget; §4.10.6, commandfor)."""
    attributes = button.attributes
    name = attributes.get("popovertarget") if button.tag in ("button", "input") else None
    if "commandfor" in attributes and button.tag == "button":
        is_popovers = attributes.get("command", "").strip().lower() in _POPOVER_COMMANDS
        name = attributes["commandfor"] if is_popovers else None
    found = semantics.document.ids_around(button).get(name) if name else None
    return found if found is not None and "popover" in found.attributes else None
