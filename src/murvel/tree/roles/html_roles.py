"""Roles of HTML elements (HTML-AAM 1.0 §3.4, HTML Element Role Mappings), as tables.

An element whose role does not depend on anything but its tag stands in `BY_TAG`; the others have a function in
`CONTEXTUAL`. None means that the element itself has no object in the tree, while its children may.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Protocol

from murvel.dom.document import Element, Namespace
from murvel.dom.html.facts import select_is_list
from murvel.dom.html.inputs import WITH_LIST, input_type
from murvel.tree.roles.aria_roles import ALIASES, AUTHOR_ROLES, GENERIC
from murvel.tree.roles.svg import drawing_role, svg_role

BY_TAG: dict[str, str] = {
    "abbr": "abbr",
    "address": "group",
    "article": "article",
    "blockquote": "blockquote",
    "body": GENERIC,
    "button": "button",
    "canvas": "canvas",
    "caption": "caption",
    "code": "code",
    "dd": "definition",
    "del": "deletion",
    "details": "group",
    "dfn": "term",
    "dialog": "dialog",
    "dl": "list",
    "dt": "term",
    "em": "emphasis",
    "embed": "embeddedobject",
    "fieldset": "group",
    "figcaption": "caption",
    "figure": "figure",
    "h1": "heading",
    "h2": "heading",
    "h3": "heading",
    "h4": "heading",
    "h5": "heading",
    "h6": "heading",
    "form": "form",
    "hgroup": "group",
    "hr": "separator",
    "html": "document",
    "iframe": "iframe",
    "ins": "insertion",
    "label": "label",
    "legend": "legend",
    "main": "main",
    "mark": "mark",
    "math": "math",
    "dir": "list",
    "menu": "list",
    "meter": "meter",
    "nav": "navigation",
    "object": "embeddedobject",
    "ol": "list",
    "optgroup": "group",
    "option": "option",
    "output": "status",
    "p": "paragraph",
    "progress": "progressbar",
    "s": "deletion",
    "ruby": "ruby",
    "search": "search",
    "strong": "strong",
    "sub": "subscript",
    "sup": "superscript",
    "textarea": "textbox",
    "time": "time",
    "ul": "list",
    "video": "video",
}
"""Roles that follow from the tag alone; a tag that is nowhere here is generic."""

NO_OBJECT = frozenset({"br", "wbr", "col", "colgroup", "picture", "source", "track", "param", "map", "slot"})
"""Elements that have no object of their own (§3.4, "not mapped")."""

INPUT_ROLES: dict[str, str] = {
    "button": "button",
    "checkbox": "checkbox",
    "color": "colorwell",
    "date": "datefield",
    "datetime-local": "datefield",
    "file": "filebutton",
    "image": "button",
    "month": "datefield",
    "number": "spinbutton",
    "radio": "radio",
    "range": "slider",
    "reset": "button",
    "search": "searchbox",
    "submit": "button",
    "time": "datefield",
    "week": "datefield",
}
"""Roles of input elements by their type; every other type is a text box."""

_SECTIONING = frozenset({"article", "aside", "main", "nav", "section"})
_SECTIONING_ROLES = frozenset({"article", "complementary", "main", "navigation"})
"""A region by its role would count too; browsers leave it out (docs/standards.md)."""


def author_role(element: Element) -> str | None:
    """Return the first token of a role attribute that is a role (WAI-ARIA 1.2 §8.2), None if there is none."""
    return next(author_roles(element), None) if "role" in element.attributes else None


def author_roles(element: Element) -> Iterator[str]:
    """Yield the tokens of a role attribute that are roles, in order."""
    for token in element.attributes.get("role", "").lower().split():
        if token in AUTHOR_ROLES:
            yield ALIASES.get(token, token)


class Host(Protocol):
    """What mappings ask about an element beside its tag and attributes."""

    def named_by_author(self, element: Element) -> bool:
        """Whether an element has a name by aria-labelledby, aria-label or title."""

    def suggestions(self, field: Element) -> Element | None:
        """The datalist that a field's list attribute names, if there is one."""

    def drawn_by(self, use: Element) -> Element | None:
        """What a use element of SVG draws again, if it is on the page."""

    def lays_out(self, table: Element) -> bool:
        """Whether a table element is there for layout only."""

    def stays_exposed(self, element: Element) -> bool:
        """Whether an element is exposed though it is presentational."""

    def around(self, element: Element) -> Element | None:
        """What an element stands in as it is shown: a slot, a shadow tree's host, else its parent."""


def native_role(element: Element, host: Host) -> str | None:
    """Return the role an element has by its host language alone.

    Args:
        element: any element.
        host: answers what some mappings depend on.
    """
    if element.namespace is not Namespace.HTML:
        return _foreign_role(element, host)
    contextual = CONTEXTUAL.get(element.tag)
    if contextual is not None:
        return contextual(element, host)
    if element.tag in NO_OBJECT:
        return None
    if element.tag == "div" and "popover" in element.attributes:
        return "group"
    return BY_TAG.get(element.tag, GENERIC)


def _foreign_role(element: Element, host: Host) -> str | None:
    if element.namespace is Namespace.MATHML:
        return "math" if element.tag == "math" else None
    if element.tag == "svg":
        return drawing_role(element, host.named_by_author(element), host.drawn_by)
    return svg_role(element, author_role(element) is not None, host.drawn_by)


def in_sectioning(element: Element, host: Host) -> bool:
    """Whether an element stands inside sectioning content or main (the scoping of header, footer and aside)."""
    above = host.around(element)
    while above is not None:
        role = author_role(above)
        if role is not None:
            if role in _SECTIONING_ROLES:
                return True
        elif above.tag in _SECTIONING and above.namespace is Namespace.HTML:
            return True
        above = host.around(above)
    return False


def _link(element: Element, _: Host) -> str:
    return "link" if "href" in element.attributes else GENERIC


def _area(element: Element, _: Host) -> str:
    return "link" if "href" in element.attributes else GENERIC


def _audio(element: Element, _: Host) -> str | None:
    return "audio" if "controls" in element.attributes else None


def _aside(element: Element, host: Host) -> str:
    within = any(above.tag in _SECTIONING - {"main"} for above in element.ancestors())
    return "complementary" if not within or host.named_by_author(element) else GENERIC


def _header(element: Element, host: Host) -> str:
    return GENERIC if in_sectioning(element, host) else "banner"


def _footer(element: Element, host: Host) -> str:
    return GENERIC if in_sectioning(element, host) else "contentinfo"


def _section(element: Element, host: Host) -> str:
    return "region" if host.named_by_author(element) else GENERIC


def _image(element: Element, host: Host) -> str:
    if element.attributes.get("alt") == "" and not host.named_by_author(element) and not host.stays_exposed(element):
        return "none"
    return "img"


def _input(element: Element, host: Host) -> str | None:
    kind = input_type(element)
    if kind == "hidden":
        return None
    if kind in WITH_LIST and "list" in element.attributes and host.suggestions(element) is not None:
        return "combobox"
    return INPUT_ROLES.get(kind, "textbox")


def _select(element: Element, _: Host) -> str:
    return "listbox" if select_is_list(element) else "combobox"


def _list_item(element: Element, _: Host) -> str:
    """A listitem even without a list, as browsers have it; in a list turned into something else it is none."""
    parent = element.parent
    if parent is None or parent.tag not in ("ul", "ol", "menu", "dir"):
        return "listitem"
    return "listitem" if author_role(parent) in (None, "list") else GENERIC


def _summary(element: Element, _: Host) -> str:
    """A disclosure also where it is not the first in its details, as browsers have it."""
    return "disclosure" if element.parent is not None and element.parent.tag == "details" else GENERIC


def _table(element: Element, host: Host) -> str:
    return GENERIC if host.lays_out(element) else "table"


def _table_role(element: Element, host: Host) -> str | None:
    """Return the role of the table a row or cell belongs to, None if that table is none (HTML-AAM tr, td, th)."""
    table = None
    for above in element.ancestors():
        if above.tag == "table":
            table = above
            break
        if "role" in above.attributes and author_role(above) == "none" and not host.stays_exposed(above):
            return None  # what it must own is presentational with it (WAI-ARIA 1.2 §5.2.7)
    if table is None:
        return None
    role = author_role(table)
    if role is None or (role == "none" and host.stays_exposed(table)):
        role = _table(table, host)
    return role if role in ("table", "grid", "treegrid") else None


def _row(element: Element, host: Host) -> str:
    return "row" if _table_role(element, host) else GENERIC


def _row_group(element: Element, host: Host) -> str:
    return "rowgroup" if _table_role(element, host) else GENERIC


def _body_group(element: Element, host: Host) -> str | None:
    """A tbody that its author says nothing of is not exposed by browsers; thead and tfoot are."""
    said = any(name.startswith("aria-") or name == "tabindex" for name in element.attributes)
    if not said and not host.named_by_author(element):
        return None
    return _row_group(element, host)


def _cell(element: Element, host: Host) -> str:
    table = _table_role(element, host)
    if table is None:
        return GENERIC
    return "cell" if table == "table" else "gridcell"


_COLUMN_SCOPES, _ROW_SCOPES = ("col", "colgroup"), ("row", "rowgroup")


def _header_cell(element: Element, host: Host) -> str:
    """HTML-AAM th: by scope, and without one by what the header stands over (HTML §4.9.12.2 "auto" state)."""
    if _table_role(element, host) is None:
        return GENERIC
    scope = element.attributes.get("scope", "").strip().lower()
    if scope in _COLUMN_SCOPES:
        return "columnheader"
    if scope in _ROW_SCOPES:
        return "rowheader"
    return _header_by_neighbours(element)


def _header_by_neighbours(element: Element) -> str:
    """A header without a scope is a row's where data stands beside it, or at an end of its row (docs/standards.md)."""
    cells = list(element.parent.elements()) if element.parent is not None else [element]
    if len(cells) == 1:
        return "columnheader"
    at = cells.index(element)
    before, after = cells[at - 1] if at else None, cells[at + 1] if at + 1 < len(cells) else None
    if before is not None and after is not None and before.tag == after.tag == "th":
        return "columnheader"
    neighbours = (before, after, cells[0], cells[-1])
    data = any(cell is not None and cell.tag == "td" and cell.children for cell in neighbours)
    return "rowheader" if data else "columnheader"


CONTEXTUAL: dict[str, Callable[[Element, Host], str | None]] = {
    "a": _link,
    "area": _area,
    "aside": _aside,
    "audio": _audio,
    "footer": _footer,
    "header": _header,
    "img": _image,
    "input": _input,
    "li": _list_item,
    "section": _section,
    "select": _select,
    "summary": _summary,
    "table": _table,
    "tbody": _body_group,
    "td": _cell,
    "tfoot": _row_group,
    "th": _header_cell,
    "thead": _row_group,
    "tr": _row,
}
assert not CONTEXTUAL.keys() & BY_TAG.keys(), "a tag is mapped twice"
