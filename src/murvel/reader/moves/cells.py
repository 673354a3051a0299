"""Moving in tables: cell by cell in four directions, to the edges, and reading whole rows and columns."""

from __future__ import annotations

from dataclasses import replace
from enum import StrEnum

from murvel.reader.moves.linear import stay
from murvel.reader.readout.position import Position, Step
from murvel.reader.session import ReadingSession
from murvel.reader.speech.utterance import SILENCE, Part, PartKind, Utterance
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import CELLS, TABLES
from murvel.tree.tables.grid import Grid


class Way(StrEnum):
    """Which way a move in a table goes."""

    RIGHT = "right"
    LEFT = "left"
    DOWN = "down"
    UP = "up"
    ROW_START = "to the start of the row"
    ROW_END = "to the end of the row"
    TOP = "to the top of the column"
    BOTTOM = "to the bottom of the column"


_NOT_IN_TABLE = "not in a table"


def move_by_cell(session: ReadingSession, way: Way) -> Step:
    """Go to a neighbouring cell, or to the edge of the row or column; headers are said as they change."""
    move = f"cell {way.value}"
    cell, grid = _here(session)
    if grid is None:
        return stay(session, move, _NOT_IN_TABLE)
    slot = _target(grid, cell, _slot(session, grid, cell), way) if cell is not None else (1, 1)
    target = grid.at(*slot)
    if target is None or target is cell:
        return Step(move, SILENCE, cell or session.node, notice=f"edge of the table, {way.value}")
    return _land(session, move, target, slot, cell, grid)


def read_row(session: ReadingSession) -> Step:
    """Read all cells of the row at the cursor, which stays."""
    return _read_along(session, "read the row", by_row=True)


def read_column(session: ReadingSession) -> Step:
    """Read all cells of the column at the cursor, which stays."""
    return _read_along(session, "read the column", by_row=False)


def _read_along(session: ReadingSession, move: str, *, by_row: bool) -> Step:
    cell, grid = _here(session)
    if grid is None or (cell is None and not grid.places):
        return stay(session, move, _NOT_IN_TABLE)
    row, column = grid.places[cell.id][:2] if cell is not None else (1, 1)
    cells = grid.in_row(row) if by_row else grid.in_column(column)
    words = session.speaker.words
    where = words.phrase("row", n=row) if by_row else words.phrase("column", n=column)
    said = [Part(PartKind.POSITION, where)]
    contents = (session.speaker.pieces.spoken(content(session, each)) for each in cells)
    said += [Part(PartKind.VALUE, each or words.phrase("empty")) for each in contents]
    return Step(move, Utterance(tuple(said)), cell)


def _here(session: ReadingSession) -> tuple[Node | None, Grid | None]:
    """The cell reading stands in, and the grid of its table; no cell in what belongs to the table as a whole."""
    node = session.position.cell or session.node
    while node is not None and node.role not in CELLS and node.role not in TABLES:
        node = node.parent
    if node is None:
        return None, None
    if node.role in TABLES:
        return None, session.tree.grid_of(node)
    table = next((above for above in node.ancestors() if above.role in TABLES), None)
    if table is None:
        return None, None
    grid = session.tree.grid_of(table)
    return (node, grid) if node.id in grid.places else (None, None)


def _slot(session: ReadingSession, grid: Grid, cell: Node) -> tuple[int, int]:
    """The row and column that reading stands in: of a cell that spans several, those it came from."""
    place, slot = grid.places[cell.id], session.position.slot
    if slot is not None and grid.at(*slot) is cell:
        return slot
    return place.row, place.column


def _target(grid: Grid, cell: Node, slot: tuple[int, int], way: Way) -> tuple[int, int]:
    """The row and column that a move leads to; there may be no cell."""
    place = grid.places[cell.id]
    row, column = slot
    match way:
        case Way.RIGHT:
            return row, place.column + place.columns
        case Way.LEFT:
            return row, place.column - 1
        case Way.DOWN:
            return place.row + place.rows, column
        case Way.UP:
            return place.row - 1, column
        case Way.ROW_START | Way.ROW_END:
            cells = grid.in_row(row)
            return row, grid.places[cells[0 if way is Way.ROW_START else -1].id].column
        case Way.TOP | Way.BOTTOM:
            cells = grid.in_column(column)
            return grid.places[cells[0 if way is Way.TOP else -1].id].row, column


def _land(session: ReadingSession, move: str, cell: Node, slot: tuple[int, int], left: Node | None, grid: Grid) -> Step:
    """Stand on a cell, and say it."""
    first = session.readout.first_object(cell)
    position = session.position if first is None else Position.at(first, cell)
    parts = [*session.speaker.new_headers(grid, cell, left), *session.speaker.cell_content(cell, session.readout)]
    said = Utterance((*parts, *session.speaker.cell_place(cell)))
    return Step(move, said, cell, replace(position, cell=cell, slot=slot))


def content(session: ReadingSession, cell: Node) -> str:
    """Return the text of a cell: its name, or the names of what is in it."""
    nodes = session.tree.nodes[cell.id + 1 : cell.end]
    return cell.name or " ".join(node.name.strip() for node in nodes if node.name and not node.is_part).strip()
