"""The demo's desk, worked on both stages: by its scripts in a real browser, and by cues on the built-in stage."""

from pathlib import Path

import pytest

import murvel.demo
from murvel.browser.launch import find_chromium
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader import acting
from murvel.reader.moves.commands import command
from murvel.text import collapse
from murvel.work.sessions import open_session
from tests.support import Case, case_ids

CASES = case_ids(Path(__file__).parent / "cases")
PAGES = Path(murvel.demo.__file__).parent / "pages"

has_browser = pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")


def heard(case: Case, setup: Setup) -> list[str]:
    """What is heard on each move of a walk, and what changed without a word, as the case files write it."""
    session = open_session(str(PAGES / case.title.removeprefix("desk: ").partition(":")[0] / "desk.html"), setup)
    assert session.stage is not None
    session.arrive()
    acting.load(session)
    lines = []
    for move in collapse(case.markup).split("; "):
        known = len(session.log)
        command(session, move)
        acting.hear_out(session)
        acting.wait(session, 0.4)
        lines.append(f"{move} => {' / '.join(each.line for each in session.log[known:])}")
    session.stage.close()
    lines.append(f"silent: {'; '.join(change.text for _, change in session.silent)}".strip())
    return lines


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.title)
def test_by_cues(case: Case) -> None:
    assert heard(case, Setup()) == case.expected


@has_browser
@pytest.mark.thorough
@pytest.mark.parametrize("case", CASES, ids=lambda case: case.title)
def test_in_a_browser(case: Case) -> None:
    assert heard(case, Setup(browser=BrowserSetup())) == case.expected
