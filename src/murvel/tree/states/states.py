"""States and properties (WAI-ARIA 1.2 §6; HTML-AAM 1.0 §3.5 for their native equivalents).

A state is in the result where it says something: a checkbox always says whether it is checked, while "not required"
and "not disabled" are said by absence. Names are ARIA's without the prefix.
"""

from __future__ import annotations

from collections.abc import Callable

from murvel.dom.document import Element
from murvel.dom.html.controls import is_checked, is_open
from murvel.dom.html.facts import is_disabled, is_editing_host, select_is_list
from murvel.dom.html.inputs import CHECKED, STEPPED, TYPED, input_type
from murvel.dom.html.options import is_chosen
from murvel.dom.html.validity import is_invalid
from murvel.patterns import pattern
from murvel.tree.roles.aria_roles import DIALOGS

State = bool | int | str
"""A boolean, a number, or a token; "mixed" is the third value of a tri-state."""

_CHECKABLE = frozenset({"checkbox", "radio", "switch", "menuitemcheckbox", "menuitemradio"})
_SELECTABLE = frozenset({"option", "tab", "gridcell", "row", "columnheader", "rowheader", "treeitem"})
_EXPANDABLE = frozenset(
    [
        "application",
        "button",
        "checkbox",
        "combobox",
        "disclosure",
        "gridcell",
        "link",
        "listbox",
        "menuitem",
        "row",
        "rowheader",
        "columnheader",
        "tab",
        "treeitem",
        "switch",
        "menuitemcheckbox",
        "menuitemradio",
    ]
)
DISABLEABLE = frozenset(
    [
        "application",
        "button",
        "checkbox",
        "combobox",
        "gridcell",
        "group",
        "link",
        "listbox",
        "menuitem",
        "option",
        "radio",
        "radiogroup",
        "scrollbar",
        "searchbox",
        "separator",
        "slider",
        "spinbutton",
        "switch",
        "tab",
        "tablist",
        "textbox",
        "toolbar",
        "treeitem",
        "grid",
        "menu",
        "menubar",
        "tree",
        "treegrid",
        "columnheader",
        "rowheader",
        "menuitemcheckbox",
        "menuitemradio",
        "disclosure",
        "datefield",
        "colorwell",
        "filebutton",
    ]
)
_ENTRIES = frozenset(
    ["checkbox", "combobox", "listbox", "radiogroup", "searchbox", "spinbutton", "textbox", "datefield", "filebutton"]
)
_READ_ONLY = _ENTRIES | {"columnheader", "grid", "gridcell", "rowheader", "slider", "switch", "treegrid"}
_INVALID = _ENTRIES | {"slider", "switch", "radio"}
_EDITED = TYPED | STEPPED - {"range"}
"""Types of input elements that the attribute readonly applies to (HTML §4.10.5.3.3)."""

_MOST_LEVELS = 9
_TRUE_FALSE = ("true", "false")


_TWO_STATES = frozenset({"radio", "switch", "menuitemradio"})


def _true(value: str) -> State | None:
    return True if value == "true" else None


def _boolean(value: str) -> State | None:
    return value == "true" if value in _TRUE_FALSE else None


def _tristate(value: str) -> State | None:
    return "mixed" if value == "mixed" else _boolean(value)


def _token(*tokens: str) -> Callable[[str], State | None]:
    return lambda value: value if value in tokens else None


def _leading(value: str) -> int | None:
    """The whole number that a value begins with, as browsers read it: "2.7" is 2; None if it begins with none."""
    found = _NUMBER.match(value)
    return int(found[0]) if found is not None else None


_NUMBER = pattern(r"-?[0-9]{1,9}(?![0-9])")


def _positive(value: str) -> State | None:
    return max(0, _leading(value) or 0) or None


def _level(value: str) -> State | None:
    """A level below 1, or that is no number, is 1, as browsers have it."""
    return max(1, _leading(value) or 0) if value else None


def _current(value: str) -> State | None:
    """§6.6 aria-current: a token, and any other non-empty value but "false" means true."""
    if value in ("", "false"):
        return None
    return value if value in ("page", "step", "location", "date", "time") else True


def _invalid(value: str) -> State | None:
    """§6.6 aria-invalid: any other value but "false" and the empty one means true."""
    if value in ("", "false"):
        return None
    return value if value in ("grammar", "spelling") else True


def _popup(value: str) -> State | None:
    """§6.6 aria-haspopup: true means menu; what is not in the list means false."""
    if value == "true":
        return "menu"
    return value if value in ("menu", "listbox", "tree", "grid", "dialog") else None


_EVERY_ROLE = None

ARIA: dict[str, tuple[frozenset[str] | None, Callable[[str], State | None]]] = {
    "atomic": (_EVERY_ROLE, _boolean),
    "busy": (_EVERY_ROLE, _true),
    "checked": (_CHECKABLE | {"option", "treeitem"}, _tristate),
    "colcount": (frozenset({"table", "grid", "treegrid"}), _leading),
    "colindex": (frozenset({"cell", "gridcell", "columnheader", "rowheader", "row"}), _positive),
    "current": (_EVERY_ROLE, _current),
    "disabled": (_EVERY_ROLE, _true),
    "expanded": (_EXPANDABLE, _boolean),
    "haspopup": (_EVERY_ROLE, _popup),
    "invalid": (_EVERY_ROLE, _invalid),
    "level": (frozenset({"heading", "listitem", "row", "treeitem", "comment"}), _level),
    "live": (_EVERY_ROLE, _token("polite", "assertive", "off")),
    "modal": (frozenset({"dialog", "alertdialog"}), _true),
    "multiline": (frozenset({"textbox", "searchbox"}), _true),
    "multiselectable": (frozenset({"grid", "listbox", "tablist", "tree", "treegrid"}), _true),
    "orientation": (_EVERY_ROLE, _token("horizontal", "vertical")),
    "posinset": (_EVERY_ROLE, _positive),
    "pressed": (frozenset({"button"}), _tristate),
    "readonly": (_READ_ONLY, _true),
    "relevant": (_EVERY_ROLE, lambda value: value or None),
    "required": (_ENTRIES | {"gridcell", "tree"}, _true),
    "roledescription": (_EVERY_ROLE, lambda value: value or None),
    "rowcount": (frozenset({"table", "grid", "treegrid"}), _leading),
    "rowindex": (frozenset({"cell", "gridcell", "columnheader", "rowheader", "row"}), _positive),
    "selected": (_SELECTABLE, _boolean),
    "setsize": (_EVERY_ROLE, _leading),
    "sort": (frozenset({"columnheader", "rowheader"}), _token("ascending", "descending", "other")),
}
"""ARIA's states and properties: the roles that support each (None: all, or it does no harm) and how it is read."""

_KEEPS_CASE = frozenset({"roledescription"})


def may_have_states(element: Element, role: str) -> bool:
    """Whether `states_of` can give anything; most elements need not be asked."""
    return bool(element.attributes) or element.tag in _NATIVE or role in _DEFAULTS


def states_of(element: Element, role: str) -> dict[str, State]:
    """Return the states and properties of an element in a role; native ones win over ARIA's (HTML-AAM 1.0 §3.5)."""
    states: dict[str, State] = {}
    attributes = element.attributes
    for attribute, value in attributes.items():
        if attribute.startswith("aria-"):
            definition = ARIA.get(attribute[5:])
            if definition is not None and (definition[0] is None or role in definition[0]):
                text = value.strip()
                state = definition[1](text if attribute[5:] in _KEEPS_CASE else text.lower())
                if state is not None:
                    states[attribute[5:]] = state
    if states.get("checked") == "mixed" and role in _TWO_STATES:
        states["checked"] = False  # §6.6 aria-checked: mixed is not supported on these and means false
    if role == "heading" and int(states.get("level", 0)) > _MOST_LEVELS:
        del states["level"]  # browsers take no notice of it
    native = _NATIVE.get(element.tag)
    if native is not None:
        native(element, role, states)
    if role == "textbox" and "contenteditable" in attributes and is_editing_host(element):
        states.setdefault("multiline", attributes.get("aria-multiline", "").strip().lower() != "false")
    default = _DEFAULTS.get(role)
    if default is not None and states.get("live") != "off":
        for name, state in default.items():
            states.setdefault(name, state)
    return states


_DEFAULTS: dict[str, dict[str, State]] = {
    "heading": {"level": 2},
    "combobox": {"haspopup": "listbox"},
    **{role: {"checked": False} for role in _CHECKABLE},
    "tab": {"selected": False},
    "alert": {"live": "assertive", "atomic": True},
    "status": {"live": "polite", "atomic": True},
    "log": {"live": "polite"},
}
"""Implicit values for role (WAI-ARIA 1.2 §5.4) that are said or decide what is said."""


def _heading(element: Element, role: str, states: dict[str, State]) -> None:
    if role == "heading":
        states.setdefault("level", int(element.tag[1]))


def _control(element: Element, role: str, states: dict[str, State]) -> None:
    attributes = element.attributes
    if is_disabled(element):
        states["disabled"] = True
    if role in _ENTRIES and "required" in attributes:
        states["required"] = True
    is_edited = element.tag != "input" or input_type(element) in _EDITED
    if role in _READ_ONLY and "readonly" in attributes and is_edited:
        states["readonly"] = True
    if role in _INVALID and "aria-invalid" not in attributes and is_invalid(element):
        states["invalid"] = True


def _input(element: Element, role: str, states: dict[str, State]) -> None:
    _control(element, role, states)
    kind = input_type(element)
    if kind == "checkbox" and role == "button" and "pressed" in states:
        states["pressed"] = is_checked(element)  # the control's own state counts (docs/standards.md)
    if kind in CHECKED and role in _CHECKABLE:
        states["checked"] = "mixed" if element.state.is_indeterminate else is_checked(element)
        if kind == "radio" and "required" in element.attributes:
            states["required"] = True


def _select(element: Element, role: str, states: dict[str, State]) -> None:
    _control(element, role, states)
    if select_is_list(element):
        if "multiple" in element.attributes:
            states["multiselectable"] = True
    elif role == "combobox":
        states["expanded"] = element.state.is_open
        states.setdefault("haspopup", "menu")


def _textarea(element: Element, role: str, states: dict[str, State]) -> None:
    _control(element, role, states)
    states["multiline"] = True


def _option(element: Element, role: str, states: dict[str, State]) -> None:
    if is_disabled(element):
        states["disabled"] = True
    if role == "option":
        select = next((above for above in element.ancestors() if above.tag == "select"), None)
        if select is not None and is_disabled(select):
            states["disabled"] = True  # browsers disable the options with it
        if select is not None:
            states["selected"] = "disabled" not in states and is_chosen(element, select)


def _dialog(element: Element, role: str, states: dict[str, State]) -> None:
    if element.state.is_modal and role in DIALOGS:
        states["modal"] = True


def _summary(element: Element, role: str, states: dict[str, State]) -> None:
    if role == "disclosure" and element.parent is not None:
        states["expanded"] = is_open(element.parent)


_NATIVE: dict[str, Callable[[Element, str, dict[str, State]], None]] = {
    **dict.fromkeys(("h1", "h2", "h3", "h4", "h5", "h6"), _heading),
    "button": _control,
    "dialog": _dialog,
    "input": _input,
    "option": _option,
    "select": _select,
    "summary": _summary,
    "textarea": _textarea,
}
