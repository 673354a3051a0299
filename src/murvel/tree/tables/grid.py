"""Where cells stand in a table, and which headers each has (HTML §4.9.12, Processing model; living standard of 2026).

The algorithms run on exposed nodes, so that tables made of ARIA roles are treated like those made of elements.
"""

from __future__ import annotations

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Iterator
from functools import cached_property
from typing import NamedTuple

from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import CELLS, TABLES

_MAX_SPAN = 1000
_SLOTS_PER_CELL, _SPARE_SLOTS = 8, 50_000
"""When a table's cells cover more slots than this, further spans count as one: no table that is read is as large."""

_MAX_SCAN = 2000
"""How many covered slots are looked at for the headers of one cell: beyond that a table is no table."""

_MOST_HEADERS = 50
"""The most headers of a cell that are kept: a table of headers alone would fill the memory."""

_DATA = frozenset({"cell", "gridcell"})


class CellSlots(NamedTuple):
    """The slots a cell covers: the first row and column, counted from 1, and how many of each."""

    row: int
    column: int
    rows: int
    columns: int


class Grid:
    """A table's cells and where they stand.

    Attributes:
        rows: how many rows it has.
        columns: how many columns it has.
        cells: its cells, row by row, those of tables inside it left out.
        places: the place of each cell by node id.
        is_cut: whether some spans count as one, as there are too many slots.
    """

    def __init__(self, table: Node) -> None:
        self.table = table
        self.rows = 0
        self.columns = 0
        self.places: dict[int, CellSlots] = {}
        self.cells: list[Node] = []
        self.is_cut = False
        self._slots: dict[tuple[int, int], Node] = {}
        self._form()
        self._of_whole_groups = [cell for cell in self.cells if _scope(cell) in ("rowgroup", "colgroup")]
        self._data_in_row: dict[int, bool] = {}
        self._data_in_column: dict[int, bool] = {}
        self._kinds: dict[int, str] = {}
        self._scanned_headers: dict[tuple[int, int, int, bool], list[Node]] = {}
        self._scanned: dict[tuple[int, int, bool], list[Node]] = {}

    def at(self, row: int, column: int) -> Node | None:
        """Return the cell that covers a slot, None if there is none."""
        return self._slots.get((row, column))

    def in_row(self, row: int) -> list[Node]:
        """Return the cells that cover slots of a row, in its order, each once."""
        return self._along((row, column) for column in self._columns_in_row.get(row, ()))

    def in_column(self, column: int) -> list[Node]:
        """Return the cells that cover slots of a column, from the top, each once."""
        return self._along((row, column) for row in self._rows_in_column.get(column, ()))

    def _along(self, slots: Iterator[tuple[int, int]]) -> list[Node]:
        return list(dict.fromkeys(self._slots[slot] for slot in slots))

    @cached_property
    def _columns_in_row(self) -> dict[int, list[int]]:
        """The columns that are covered in each row, in ascending order; a table may be empty for the most part."""
        found: dict[int, list[int]] = defaultdict(list)
        for row, column in sorted(self._slots):
            found[row].append(column)
        return dict(found)

    @cached_property
    def _rows_in_column(self) -> dict[int, list[int]]:
        """The rows that are covered in each column, in ascending order."""
        found: dict[int, list[int]] = defaultdict(list)
        for row, column in sorted(self._slots):
            found[column].append(row)
        return dict(found)

    def _beyond(self, row: int, column: int, *, upwards: bool) -> tuple[int, int] | None:
        """The nearest covered slot above another, or before it in its row; None if there is none."""
        line = self._rows_in_column.get(column, ()) if upwards else self._columns_in_row.get(row, ())
        at = bisect_left(line, row if upwards else column)
        if at == 0:
            return None
        return (line[at - 1], column) if upwards else (row, line[at - 1])

    def _form(self) -> None:
        """§4.9.12.1, the algorithm for forming a table; rows are the exposed ones."""
        rows = nearest(self.table, frozenset({"row"}))
        last_of_group = {row.element.parent: number for number, row in enumerate(rows, 1)}
        taken: dict[int, int] = {}
        """For each column, the last row that a cell from above reaches down to."""
        for number, row in enumerate(rows, 1):
            column = 1
            for cell in nearest(row, CELLS):
                while taken.get(column, 0) >= number:
                    column += 1
                across = _span(cell, "colspan") or 1
                left = last_of_group[row.element.parent] - number + 1
                down = min(_span(cell, "rowspan") or left, left)
                if len(self._slots) > _SPARE_SLOTS + _SLOTS_PER_CELL * len(self.cells) and across * down > 1:
                    across = down = 1
                    self.is_cut = True
                self.places[cell.id] = CellSlots(number, column, down, across)
                self.cells.append(cell)
                for covered in range(column, column + across):
                    taken[covered] = max(taken.get(covered, 0), number + down - 1)
                    for lower in range(number, number + down):
                        self._slots.setdefault((lower, covered), cell)
                column += across
                self.columns = max(self.columns, column - 1)
        self.rows = len(rows)

    def headers(self, cell: Node) -> list[Node]:
        """Return the header cells of a cell, those of its row before those of its column (§4.9.12.2)."""
        place = self.places.get(cell.id)
        if place is None:
            return []
        named = cell.element.attributes.get("headers")
        if named is not None:
            by_id = self._by_id
            found = [by_id[token] for token in named.split() if token in by_id][:_MOST_HEADERS]
        else:
            found = []
            for row in range(place.row, place.row + place.rows):
                found += self._scan(cell, row, place.column, upwards=False)
            for column in range(place.column, place.column + place.columns):
                found += self._scan(cell, place.row, column, upwards=True)
            found += self._of_groups(cell, place)
        return [each for each in dict.fromkeys(found) if each is not cell and each.name]

    @cached_property
    def _by_id(self) -> dict[str | None, Node]:
        return {each.element.attributes.get("id"): each for each in self.cells}

    def _scan(self, principal: Node, row: int, column: int, *, upwards: bool) -> list[Node]:
        """The internal algorithm for scanning and assigning header cells, from a slot to an edge of the table.

        What is found from a data cell depends on the slots beyond it alone, so it is kept for its neighbours.
        """
        if self._kind(principal):
            return self._scan_from_header(principal, row, column, upwards=upwards)
        passed = []
        while True:
            known = self._scanned.get((row, column, upwards))
            if known is not None:
                break
            passed.append((row, column, upwards))
            following = self._beyond(row, column, upwards=upwards)
            if following is None:
                known = []
                break
            if self._kind(self._slots[following]):
                known = self._scan_from(principal, row, column, upwards=upwards)
                break
            row, column = following
        for slot in passed:
            self._scanned[slot] = known
        return known

    def _scan_from_header(self, principal: Node, row: int, column: int, *, upwards: bool) -> list[Node]:
        """The same from a header cell, where a header of the same width may stand directly beyond it.

        What that one finds is found from here as well, and itself if it is of the kind that is looked for. So a column
        of headers is gone through once, and not again for each of them.
        """
        wanted = "column" if upwards else "row"
        passed: list[tuple[tuple[int, int, int, bool], Node | None]] = []
        cell = principal
        while True:
            slot = (cell.id, row, column, upwards)
            known = self._scanned_headers.get(slot)
            if known is not None:
                break
            following = (row - 1, column) if upwards else (row, column - 1)
            beyond = self.at(*following)
            if beyond is None or not self._kind(beyond) or self._side(beyond, upwards) != self._side(cell, upwards):
                known = self._scanned_headers[slot] = self._scan_from(cell, row, column, upwards=upwards)
                break
            passed.append((slot, beyond if beyond is not cell and self._kind(beyond) == wanted else None))
            cell, (row, column) = beyond, following
        for slot, found in reversed(passed):
            if found is not None and found not in known:
                known = [found, *known[: _MOST_HEADERS - 1]]
            self._scanned_headers[slot] = known
        return known

    def _scan_from(self, principal: Node, row: int, column: int, *, upwards: bool) -> list[Node]:
        found: list[Node] = []
        opaque: set[tuple[int, int]] = set()
        in_block = bool(self._kind(principal))
        block = [principal] if in_block else []
        wanted = "column" if upwards else "row"
        for _ in range(_MAX_SCAN):
            following = self._beyond(row, column, upwards=upwards)
            if following is None:
                break
            row, column = following
            current = self._slots[following]
            if current is principal:
                continue
            kind = self._kind(current)
            if kind:
                in_block = True
                block.append(current)
                if self._side(current, upwards) not in opaque and kind == wanted:
                    found.append(current)
            elif in_block:
                in_block = False
                opaque.update(self._side(each, upwards) for each in block)
                block = []
        return list(dict.fromkeys(found))

    def _side(self, cell: Node, upwards: bool) -> tuple[int, int]:
        place = self.places[cell.id]
        return (place.column, place.columns) if upwards else (place.row, place.rows)

    def _of_groups(self, cell: Node, place: CellSlots) -> list[Node]:
        """Headers of the row group or column group that a cell stands in."""
        found = []
        for each in self._of_whole_groups:
            scope = _scope(each)
            other = self.places[each.id]
            before = other.row < place.row + place.rows and other.column < place.column + place.columns
            if scope == "rowgroup" and before and _row_group(each) is _row_group(cell):
                found.append(each)
            if scope == "colgroup" and before and other.column <= place.column < other.column + other.columns:
                found.append(each)
        return found

    def _kind(self, cell: Node) -> str:
        """Return "column" or "row" for a header of that kind, "group" for one of a group, "" for a data cell."""
        kind = self._kinds.get(cell.id)
        if kind is None:
            kind = self._kinds[cell.id] = self._kind_of(cell)
        return kind

    def _kind_of(self, cell: Node) -> str:
        if cell.role not in ("columnheader", "rowheader"):
            return ""
        scope = _scope(cell)
        if scope in ("col", "row"):
            return "column" if scope == "col" else "row"
        if scope in ("colgroup", "rowgroup"):
            return "group"
        if cell.element.tag != "th" or "role" in cell.element.attributes:
            return "column" if cell.role == "columnheader" else "row"
        place = self.places[cell.id]
        if not any(self._row_has_data(row) for row in range(place.row, place.row + place.rows)):
            return "column"
        if not any(self._column_has_data(column) for column in range(place.column, place.column + place.columns)):
            return "row"
        return "column" if cell.role == "columnheader" else "row"

    def _row_has_data(self, row: int) -> bool:
        if row not in self._data_in_row:
            self._data_in_row[row] = any(cell.role in _DATA for cell in self.in_row(row))
        return self._data_in_row[row]

    def _column_has_data(self, column: int) -> bool:
        if column not in self._data_in_column:
            self._data_in_column[column] = any(cell.role in _DATA for cell in self.in_column(column))
        return self._data_in_column[column]


def nearest(node: Node, roles: frozenset[str]) -> list[Node]:
    """Return the nearest descendants with one of the roles, in order; tables inside are not looked into."""
    found: list[Node] = []
    stack = list(reversed(node.children))
    while stack:
        child = stack.pop()
        if child.role in roles:
            found.append(child)
        elif child.role not in TABLES:
            stack.extend(reversed(child.children))
    return found


def _span(cell: Node, attribute: str) -> int:
    """A cell's span; 0 as an author's rowspan means to the end of the row group, and is given as 0."""
    attributes = cell.element.attributes
    value = attributes.get(attribute, attributes.get(f"aria-{attribute}", "1")).strip()
    return min(int(value[:6]), _MAX_SPAN) if value.isascii() and value.isdecimal() else 1


def _scope(cell: Node) -> str:
    return cell.element.attributes.get("scope", "").strip().lower() if cell.element.tag == "th" else ""


def _row_group(cell: Node) -> object:
    row = cell.element.parent
    return row.parent if row is not None else None
