"""Which tables hold data, and which only lay the page out: those browsers do not expose as tables.

No standard says how to tell; this is what browsers do, as far as markup and borders show it (docs/standards.md).
"""

from __future__ import annotations

from collections.abc import Sequence

from murvel.css.values.style import PLAIN, SIDES, Decoration, Styles
from murvel.dom.document import Element, Text
from murvel.dom.html.facts import is_editing_host

_DATA_CHILDREN = frozenset({"caption", "col", "colgroup", "tfoot", "thead"})
_DATA_CELL_ATTRIBUTES = ("abbr", "axis", "headers", "scope")
_MANY_ROWS = 20
"""A table with more rows holds data; no more rows and columns are looked at."""

_MOST_STRIPES = 5
"""How many rows are looked at for turns in their background."""


def holds_data(table: Element, styles: Styles) -> bool:
    """Whether a table element without a role of its author's holds data."""
    attributes = table.attributes
    if styles.of(table).display == "contents":
        return True  # browsers guess by the box of a table, and it has none
    if "summary" in attributes or "rules" in attributes:
        return True
    if any(is_editing_host(above) for above in table.ancestors()):
        return True
    own = _own(table)
    if any(node.tag in _DATA_CHILDREN for node in own):
        return True
    rows = [[cell for cell in row.elements() if _is_shown(cell, styles)] for row in own if row.tag == "tr"]
    cells = [cell for row in rows for cell in row]
    if len(cells) < 2:
        return len(rows) >= _MANY_ROWS
    if (
        len(rows) >= _MANY_ROWS
        or _has_border(attributes.get("border"))
        or any(cell.tag == "th" or _says_data(cell) for cell in cells)
    ):
        return True
    return _looks_like_data(table, [row[:_MANY_ROWS] for row in rows[:_MANY_ROWS]], styles)


def _is_shown(cell: Element, styles: Styles) -> bool:
    return cell.tag in ("td", "th") and styles.of(cell).display != "none"


def _says_data(cell: Element) -> bool:
    return any(name in cell.attributes for name in _DATA_CELL_ATTRIBUTES)


def _looks_like_data(table: Element, rows: list[list[Element]], styles: Styles) -> bool:
    """Whether half of the cells have borders, or a background that is not the table's, or rows take turns in theirs."""
    whole = styles.decoration(table)
    looks = [[styles.decoration(cell) for cell in row] for row in rows]
    cells = [look for row in looks for look in row]
    needed = len(cells) // 2
    if any(look.hides_empty for look in cells):
        return True
    around = [_around(row[0], styles) if row else PLAIN for row in rows]
    borders = _shared_borders(whole, around, looks) if whole.collapses else [look.borders for look in cells]
    if sum({"top", "bottom"} <= sides or {"left", "right"} <= sides for sides in borders) >= needed:
        return True
    if any(sum(side in sides for sides in borders) >= needed for side in SIDES):
        return True
    painted = sum(look.background not in ("", whole.background) for look in cells)
    return (whole.has_spacing and painted >= needed) or _take_turns(
        [look.background for look in around[:_MOST_STRIPES]]
    )


def _around(cell: Element, styles: Styles) -> Decoration:
    """What the row of a cell looks like, with the borders of its group where it is the first or last row there."""
    row = cell.parent
    group = row.parent if row is not None else None
    if row is None or group is None:
        return PLAIN
    look, whole = styles.decoration(row), styles.decoration(group)
    rows = [each for each in group.elements() if each.tag == "tr"]
    edges = {side for side, edge in (("top", rows[0]), ("bottom", rows[-1])) if edge is row and side in whole.borders}
    return look._replace(borders=look.borders | edges) if edges and group.tag != "table" else look


def _take_turns(colors: list[str]) -> bool:
    """Whether rows take turns in their background."""
    return len(colors) > 2 and all((color != colors[0]) is bool(at % 2) for at, color in enumerate(colors))


def _shared_borders(whole: Decoration, around: list[Decoration], looks: list[list[Decoration]]) -> list[frozenset[str]]:
    """The borders of cells that share them with their neighbours, their row and the table (CSS 2 §17.6.2)."""
    shared = []
    for at, row in enumerate(looks):
        for column, look in enumerate(row):
            sides = set(look.borders) | (around[at].borders & {"top", "bottom"})
            neighbours: tuple[tuple[str, str, list[Decoration], list[Decoration]], ...] = (
                ("left", "right", row[max(column - 1, 0) : column], []),
                ("right", "left", row[column + 1 : column + 2], []),
                ("top", "bottom", _at(looks, at - 1, column), around[max(at - 1, 0) : at]),
                ("bottom", "top", _at(looks, at + 1, column), around[at + 1 : at + 2]),
            )
            for side, opposite, cells, rows in neighbours:
                beside = [*cells, *rows]
                if any(opposite in each.borders for each in beside) or (not beside and side in whole.borders):
                    sides.add(side)
            shared.append(frozenset(sides))
    return shared


def _at(looks: list[list[Decoration]], row: int, column: int) -> list[Decoration]:
    return looks[row][column : column + 1] if 0 <= row < len(looks) else []


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


def sections_in_place(children: Sequence[Element | Text]) -> Sequence[Element | Text]:
    """The children of a table as they are laid out: the first thead before, the first tfoot behind all rows
    (CSS Tables 3 §2.1.2)."""
    by_tag = {tag: next((each for each in children if _tag(each) == tag), None) for tag in ("thead", "tfoot")}
    head, foot = by_tag["thead"], by_tag["tfoot"]
    if foot is None and head is None:
        return children
    rows = ("tbody", "tr")
    rest = [each for each in children if each is not head and each is not foot]
    first = next((at for at, each in enumerate(rest) if _tag(each) in (*rows, "thead", "tfoot")), len(rest))
    ordered = [*rest[:first], *([head] if head is not None else []), *rest[first:]]
    return [*ordered, *([foot] if foot is not None else [])]


def _tag(node: Element | Text) -> str:
    return node.tag if isinstance(node, Element) else ""
