"""Which tables hold data, and which only lay the page out: those browsers do not expose as tables.

No standard says how to tell; this is what browsers do, as far as markup and borders show it (docs/standards.md).
"""

from __future__ import annotations

from murvel.page.document import Element
from murvel.page.styles.style import Styles

_DATA_CHILDREN = frozenset({"caption", "col", "colgroup", "tfoot", "thead"})
_DATA_CELL_ATTRIBUTES = ("abbr", "axis", "headers", "scope")
_MANY_ROWS = 20


def holds_data(table: Element, styles: Styles) -> bool:
    """Whether a table element without a role of its author's holds data."""
    attributes = table.attributes
    if "summary" in attributes or "rules" in attributes or _has_border(attributes.get("border")):
        return True
    rows = 0
    header = False
    shared = styles.of(table).has_border and styles.of(table).collapses_borders
    cells = marked = striped = 0
    for node in _own(table):
        if node.tag in _DATA_CHILDREN:
            return True
        if node.tag == "th":
            header = True
            cells += 1
        if node.tag == "tr":
            rows += 1
            striped += styles.of(node).has_background
        elif node.tag == "td":
            cells += 1
            if any(name in node.attributes for name in _DATA_CELL_ATTRIBUTES):
                return True
            marked += styles.of(node).has_border or styles.of(node).has_background
    if (header and cells > 1) or rows >= _MANY_ROWS or (rows > 2 and 0 < striped < rows):
        return True
    if shared and rows:
        # The table's own border is the border of the cells along its edges.
        columns = cells // rows
        marked = max(marked, cells - max(rows - 2, 0) * max(columns - 2, 0))
    return cells > 1 and marked * 2 >= cells


def _has_border(border: str | None) -> bool:
    return border is not None and border.strip() != "0"


def _own(table: Element) -> list[Element]:
    """Return the elements of a table, without those of tables inside it."""
    found: list[Element] = []
    stack = list(table.elements())
    while stack:
        element = stack.pop()
        found.append(element)
        if element.tag in ("caption", "td", "th"):
            continue
        stack.extend(element.elements())
    return found
