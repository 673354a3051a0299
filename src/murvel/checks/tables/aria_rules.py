"""What WAI-ARIA 1.2 asks of authors, as tables: attributes, their values, and what roles support, need and own.

Sources: WAI-ARIA 1.2 (2023) §5.4 Definition of Roles, §6.6 Definitions of States and Properties.
"""

from __future__ import annotations

from murvel.tree.roles.aria_roles import ROLES

TRUE_FALSE = frozenset({"true", "false"})
_ID, _IDS, _NUMBER, _INTEGER, _STRING = "id", "ids", "number", "integer", "string"

Values = frozenset[str] | str
"""The tokens that are allowed, or the name of a type."""

VALUES: dict[str, Values] = {
    "aria-activedescendant": _ID,
    "aria-atomic": TRUE_FALSE,
    "aria-autocomplete": frozenset({"inline", "list", "both", "none"}),
    "aria-braillelabel": _STRING,
    "aria-brailleroledescription": _STRING,
    "aria-busy": TRUE_FALSE,
    "aria-checked": TRUE_FALSE | {"mixed", "undefined"},
    "aria-colcount": _INTEGER,
    "aria-colindex": _INTEGER,
    "aria-colindextext": _STRING,
    "aria-colspan": _INTEGER,
    "aria-controls": _IDS,
    "aria-current": TRUE_FALSE | {"page", "step", "location", "date", "time"},
    "aria-describedby": _IDS,
    "aria-description": _STRING,
    "aria-details": _IDS,
    "aria-disabled": TRUE_FALSE,
    "aria-dropeffect": frozenset({"copy", "execute", "link", "move", "none", "popup"}),
    "aria-errormessage": _IDS,
    "aria-expanded": TRUE_FALSE | {"undefined"},
    "aria-flowto": _IDS,
    "aria-grabbed": TRUE_FALSE | {"undefined"},
    "aria-haspopup": TRUE_FALSE | {"menu", "listbox", "tree", "grid", "dialog"},
    "aria-hidden": TRUE_FALSE | {"undefined"},
    "aria-invalid": TRUE_FALSE | {"grammar", "spelling"},
    "aria-keyshortcuts": _STRING,
    "aria-label": _STRING,
    "aria-labelledby": _IDS,
    "aria-level": _INTEGER,
    "aria-live": frozenset({"off", "polite", "assertive"}),
    "aria-modal": TRUE_FALSE,
    "aria-multiline": TRUE_FALSE,
    "aria-multiselectable": TRUE_FALSE,
    "aria-orientation": frozenset({"horizontal", "vertical", "undefined"}),
    "aria-owns": _IDS,
    "aria-placeholder": _STRING,
    "aria-posinset": _INTEGER,
    "aria-pressed": TRUE_FALSE | {"mixed", "undefined"},
    "aria-readonly": TRUE_FALSE,
    "aria-relevant": frozenset({"additions", "removals", "text", "all"}),
    "aria-required": TRUE_FALSE,
    "aria-roledescription": _STRING,
    "aria-rowcount": _INTEGER,
    "aria-rowindex": _INTEGER,
    "aria-rowindextext": _STRING,
    "aria-rowspan": _INTEGER,
    "aria-selected": TRUE_FALSE | {"undefined"},
    "aria-setsize": _INTEGER,
    "aria-sort": frozenset({"ascending", "descending", "none", "other"}),
    "aria-valuemax": _NUMBER,
    "aria-valuemin": _NUMBER,
    "aria-valuenow": _NUMBER,
    "aria-valuetext": _STRING,
}
"""Every state and property with the values it may have (§6.6; aria-description and the Braille ones: ARIA 1.3)."""

LISTS = frozenset({"aria-relevant", "aria-dropeffect"})
"""Properties that take several tokens."""


def _roles(text: str) -> frozenset[str]:
    found = frozenset(text.split())
    assert found <= ROLES.keys(), f"no roles: {sorted(found - ROLES.keys())}"
    return found


_EXPANDABLE = _roles(
    "application button checkbox combobox disclosure gridcell link listbox menuitem menuitemcheckbox menuitemradio row "
    "rowheader columnheader tab treeitem switch cell"
)
_ENTRIES = _roles("checkbox combobox gridcell listbox radiogroup searchbox spinbutton textbox tree datefield")
_COMPOSITES = _roles("combobox grid listbox menu menubar radiogroup spinbutton tablist toolbar tree treegrid group")
_TABLES, _CELLS = _roles("table grid treegrid"), _roles("cell gridcell columnheader rowheader")
_RANGES = _roles("meter progressbar scrollbar separator slider spinbutton")

SUPPORTED: dict[str, frozenset[str]] = {
    "aria-activedescendant": _COMPOSITES | _roles("application searchbox textbox row menuitem"),
    "aria-autocomplete": _roles("combobox searchbox textbox"),
    "aria-checked": _roles("checkbox menuitemcheckbox menuitemradio option radio switch treeitem"),
    "aria-colcount": _TABLES,
    "aria-colindex": _CELLS | {"row"},
    "aria-colspan": _CELLS,
    "aria-expanded": _EXPANDABLE,
    "aria-level": _roles("comment heading listitem row treeitem"),
    "aria-modal": _roles("dialog alertdialog"),
    "aria-multiline": _roles("searchbox textbox"),
    "aria-multiselectable": _roles("grid listbox tablist tree treegrid"),
    "aria-orientation": _roles(
        "combobox listbox menu menubar radiogroup scrollbar separator slider tablist toolbar tree treegrid"
    ),
    "aria-placeholder": _roles("searchbox textbox combobox"),
    "aria-posinset": _roles(
        "article comment link listitem menuitem menuitemcheckbox menuitemradio option radio row tab treeitem"
    ),
    "aria-pressed": _roles("button"),
    "aria-readonly": _roles(
        "checkbox columnheader combobox grid gridcell listbox menuitemcheckbox menuitemradio radiogroup rowheader "
        "searchbox slider spinbutton switch textbox treegrid datefield"
    ),
    "aria-required": _ENTRIES | _roles("columnheader rowheader filebutton colorwell"),
    "aria-rowcount": _TABLES,
    "aria-rowindex": _CELLS | {"row"},
    "aria-rowspan": _CELLS,
    "aria-selected": _roles("columnheader gridcell option row rowheader tab treeitem"),
    "aria-setsize": _roles(
        "article comment link listitem menuitem menuitemcheckbox menuitemradio option radio row tab treeitem"
    ),
    "aria-sort": _roles("columnheader rowheader"),
    "aria-valuemax": _RANGES,
    "aria-valuemin": _RANGES,
    "aria-valuenow": _RANGES,
    "aria-valuetext": _RANGES,
}
"""Properties that are not global, with the roles that support them (§5.4)."""

REQUIRED: dict[str, tuple[str, ...]] = {
    "checkbox": ("aria-checked",),
    "combobox": ("aria-expanded",),
    "heading": ("aria-level",),
    "menuitemcheckbox": ("aria-checked",),
    "menuitemradio": ("aria-checked",),
    "meter": ("aria-valuenow",),
    "radio": ("aria-checked",),
    "scrollbar": ("aria-controls", "aria-valuenow"),
    "slider": ("aria-valuenow",),
    "switch": ("aria-checked",),
}
"""Properties that an author must give with a role (§5.2.4), where the element does not bring them itself."""

OWNED: dict[str, frozenset[str]] = {
    "feed": _roles("article"),
    "grid": _roles("row"),
    "list": _roles("listitem"),
    "listbox": _roles("option"),
    "menu": _roles("menuitem menuitemcheckbox menuitemradio"),
    "menubar": _roles("menuitem menuitemcheckbox menuitemradio"),
    "radiogroup": _roles("radio"),
    "row": _CELLS,
    "rowgroup": _roles("row"),
    "table": _roles("row"),
    "tablist": _roles("tab"),
    "tree": _roles("treeitem"),
    "treegrid": _roles("row"),
}
"""What must be inside a role (§5.2.5, Allowed Accessibility Child Roles), groups between them left aside."""

CONTEXT: dict[str, frozenset[str]] = {
    "caption": _roles("figure grid table treegrid"),
    "cell": _roles("row"),
    "columnheader": _roles("row"),
    "gridcell": _roles("row"),
    "listitem": _roles("list"),
    "menuitem": _roles("group menu menubar"),
    "menuitemcheckbox": _roles("group menu menubar"),
    "menuitemradio": _roles("group menu menubar"),
    "option": _roles("group listbox combobox"),
    "row": _roles("grid rowgroup table treegrid"),
    "rowgroup": _roles("grid table treegrid"),
    "rowheader": _roles("row"),
    "tab": _roles("tablist"),
    "treeitem": _roles("group tree treeitem"),
}
"""What a role must stand in (§5.2.6, Required Accessibility Parent Role)."""

ABSTRACT = frozenset(
    "command composite input landmark range roletype section sectionhead select structure widget window".split()
)
"""Roles that authors must not use (§5.3.1)."""


def problem_of_value(attribute: str, value: str) -> str | None:
    """Return what is wrong with the value of a state or property, None if nothing is; an empty one is as none."""
    allowed = VALUES[attribute]
    text = value.strip()
    if not text or allowed in (_STRING, _ID, _IDS):
        return None
    if isinstance(allowed, frozenset):
        tokens = text.lower().split() if attribute in LISTS else [text.lower()]
        wrong = [token for token in tokens if token not in allowed]
        return f"“{wrong[0]}”; it may be {', '.join(sorted(allowed))}" if wrong else None
    try:
        number = float(text)
    except ValueError:
        return f"“{text}” is no number"
    return f"“{text}” is no whole number" if allowed == _INTEGER and not number.is_integer() else None
