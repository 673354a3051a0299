"""Where cells stand in a table: rows and columns with spans (HTML §4.9.12, the algorithm for forming a table)."""

from __future__ import annotations

from dataclasses import dataclass

from murvel.tree.model import Node

CELLS = frozenset({"cell", "gridcell", "columnheader", "rowheader"})
_NOT_INSIDE = frozenset({"table", "grid", "treegrid"})
_MAX_SPAN = 1000


@dataclass(frozen=True, slots=True)
class Grid:
    """A table's size, and the place (row, column) of each of its cells by node id, counted from 1."""

    rows: int
    columns: int
    places: dict[int, tuple[int, int]]


def grid_of(table: Node) -> Grid:
    """Return the grid of a table's exposed cells; tables inside its cells are not looked into."""
    places: dict[int, tuple[int, int]] = {}
    taken: dict[int, int] = {}
    """For each column, the last row that a cell from above reaches down to."""
    row_number = 0
    width = 0
    for row in _descendants(table, frozenset({"row"})):
        row_number += 1
        column = 1
        for cell in _descendants(row, CELLS):
            while taken.get(column, 0) >= row_number:
                column += 1
            places[cell.id] = (row_number, column)
            across, down = _span(cell, "colspan"), _span(cell, "rowspan")
            for covered in range(column, column + across):
                taken[covered] = row_number + down - 1
            column += across
            width = max(width, column - 1)
    return Grid(row_number, width, places)


def _descendants(node: Node, roles: frozenset[str]) -> list[Node]:
    """Return the nearest descendants with one of the roles, in order."""
    found: list[Node] = []
    stack = node.children[::-1]
    while stack:
        child = stack.pop()
        if child.role in roles:
            found.append(child)
        elif child.role not in _NOT_INSIDE:
            stack.extend(reversed(child.children))
    return found


def _span(cell: Node, attribute: str) -> int:
    value = cell.element.attributes.get(attribute, "").strip()
    return min(max(int(value[:6]), 1), _MAX_SPAN) if value.isascii() and value.isdecimal() else 1
