"""The tree, case by case: markup, and the tree's text form it must have."""

from pathlib import Path

import pytest

from murvel.tree.write import to_text
from tests.support import Case, case_ids, tree_of

CASES = case_ids(Path(__file__).parent / "cases")


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.title)
def test_tree(case: Case) -> None:
    lines = [line.removeprefix("  ") for line in list(to_text(tree_of(case.markup)))[1:]]
    assert lines == case.expected
