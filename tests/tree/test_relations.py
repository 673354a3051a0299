"""Relations between nodes, and headers of cells."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import CELLS, TABLES
from murvel.tree.tables.grid import Grid
from tests.support import Case, case_ids, tree_of

CASES = Path(__file__).parent / "relations"


def content(tree: Tree, cell: Node) -> str:
    return "".join(node.name for node in tree.nodes[cell.id : cell.end] if node.is_text)


@pytest.mark.parametrize("case", case_ids(CASES, "headers"), ids=lambda case: case.title)
def test_headers_of_cells(case: Case) -> None:
    tree = tree_of(case.markup)
    lines = []
    for cell in tree.nodes:
        headers = tree.headers_of(cell)
        if headers:
            lines.append(f"{content(tree, cell)}: {', '.join(content(tree, each) for each in headers)}")
    assert lines == case.expected


@pytest.mark.parametrize("case", case_ids(CASES, "others"), ids=lambda case: case.title)
def test_relations(case: Case) -> None:
    tree = tree_of(case.markup)
    lines = [
        f'{node.role} "{node.name}" {relation} ' + ", ".join(f'{each.role} "{each.name}"' for each in targets)
        for node in tree.nodes
        for relation, targets in tree.relations_of(node).items()
    ]
    assert lines == case.expected


ATTRIBUTES = st.sampled_from(
    ["", " colspan=2", " rowspan=2", " rowspan=0", " colspan=9999", " scope=col", " scope=row", " scope=rowgroup",
     " scope=colgroup colspan=2", " headers=a", " id=a", " rowspan=x"]
)  # fmt: skip
CELL = st.tuples(st.sampled_from(["td", "th"]), ATTRIBUTES).map(lambda cell: f"<{cell[0]}{cell[1]}>x")
ROW = st.lists(CELL, max_size=5).map(lambda cells: "<tr>" + "".join(cells))
GROUP = st.tuples(st.sampled_from(["<tbody>", "<thead>", "<tfoot>", ""]), st.lists(ROW, max_size=4)).map(
    lambda group: group[0] + "".join(group[1])
)


@given(st.lists(GROUP, max_size=3))
def test_any_table_has_its_cells_in_places_and_headers_among_them(groups: list[str]) -> None:
    tree = tree_of("<table border=1>" + "".join(groups))
    for table in [node for node in tree.nodes if node.role in TABLES]:
        grid = tree.grid_of(table)
        cells = [node for node in tree.nodes if node.role in CELLS and table.contains(node)]
        assert {cell.id for cell in cells} == set(grid.places)
        for cell in cells:
            place = grid.places[cell.id]
            assert 1 <= place.row <= grid.rows
            assert 1 <= place.column <= grid.columns
            assert set(grid.headers(cell)) <= set(cells) - {cell}
        seen = {cell.id for row in range(1, grid.rows + 1) for cell in grid.in_row(row)}
        assert seen == set(grid.places)


class SlowGrid(Grid):
    """Scans from every cell to the edge of its table, as HTML §4.9.12.2 says it, and keeps nothing for others."""

    def _scan(self, principal: Node, row: int, column: int, *, upwards: bool) -> list[Node]:
        return self._scan_from(principal, row, column, upwards=upwards)


@given(st.lists(GROUP, max_size=3))
def test_what_is_kept_for_other_cells_changes_nothing(groups: list[str]) -> None:
    # Within the number of slots that one scan looks at; what is kept may come from beyond it.
    tree = tree_of("<table border=1>" + "".join(groups).replace("9999", "3"))
    for table in [node for node in tree.nodes if node.role in TABLES]:
        slow, quick = SlowGrid(table), Grid(table)
        for cell in [*slow.cells, *reversed(slow.cells)]:
            assert [each.id for each in quick.headers(cell)] == [each.id for each in slow.headers(cell)]
