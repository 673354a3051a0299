"""The tree, case by case: markup, and the tree's text form it must have, or the order of Tab."""

from pathlib import Path

import pytest

from murvel.dom.places import Paths
from murvel.tree.exchange.write import to_text
from tests.support import Case, case_ids, outline, tree_of

CASES = case_ids(Path(__file__).parent / "cases")
COMPARED = case_ids(Path(__file__).parent / "compared")
TAB_CASES = case_ids(Path(__file__).parent / "order")


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.title)
def test_tree(case: Case) -> None:
    lines = [line.removeprefix("  ") for line in list(to_text(tree_of(case.markup)))[1:]]
    assert lines == case.expected


@pytest.mark.parametrize("case", COMPARED, ids=lambda case: case.title)
def test_tree_as_the_browser_has_it(case: Case) -> None:
    assert [outline(tree_of(case.markup))] == case.expected or (outline(tree_of(case.markup)), case.expected) == (
        "",
        [],
    )


@pytest.mark.parametrize("case", TAB_CASES, ids=lambda case: case.title)
def test_order_of_tab(case: Case) -> None:
    tree = tree_of(case.markup)
    paths = Paths()
    places = [paths.of(element).replace("/html[1]/body[1]", "") for element in tree.tab_order]
    assert places == case.expected
