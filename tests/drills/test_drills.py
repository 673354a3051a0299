"""Drills on widgets as they should be, and with each fault."""

from collections.abc import Callable
from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.drills.errors import DrillError
from murvel.drills.faults import drill_catalogue
from murvel.drills.found import Drilled, Kind
from murvel.drills.run import drill, drill_page, records_of, widgets
from murvel.drills.walker import Walked
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader.session import ReadingSession
from murvel.work.sessions import open_session
from tests.support import Case, case_ids, session_of

CASES = Path(__file__).parent / "cases"
in_browser = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]


def opener(case: Case, folder: Path, browser: BrowserSetup | None) -> Callable[[], ReadingSession]:
    page = folder / "page.html"
    page.write_text(f"<!DOCTYPE html><html lang=en><title>Page</title><h1>Page</h1>{case.markup}")
    return lambda: open_session(str(page), Setup(root=folder, browser=browser))


def line(drilled: Drilled) -> str:
    widget = drilled.widget
    found = ["not reached"] if drilled.not_reached else [each.check.id for each in drilled.faults]
    return f"{widget.kind} {widget.words}: {', '.join(found) or 'nothing'}"


def expect_faults(case: Case, open_page: Callable[[], ReadingSession]) -> None:
    kinds = list(Kind) if any(each.startswith("form") for each in case.expected) else [*set(Kind) - {Kind.FORM}]
    found = [line(each) for each in drill_page(open_page, kinds)]
    assert found == case.expected


@pytest.mark.parametrize("case", case_ids(CASES, "native"), ids=lambda case: case.title)
def test_on_the_built_in_stage(case: Case, tmp_path: Path) -> None:
    expect_faults(case, opener(case, tmp_path, None))


@pytest.mark.parametrize("case", [pytest.param(each, marks=in_browser, id=each.title) for each in case_ids(CASES)])
def test_in_a_browser(case: Case, tmp_path: Path) -> None:
    expect_faults(case, opener(case, tmp_path, BrowserSetup()))


def test_what_is_found_is_told_with_its_walk(tmp_path: Path) -> None:
    case = Case("", "<div role=checkbox aria-checked=false aria-label=Shed tabindex=0></div>", [])
    open_page = opener(case, tmp_path, None)
    (record,) = records_of(open_page(), drill_page(open_page))
    assert (record.check, record.certainty) == ("drill-state-stuck", "fails")
    assert record.moves == ("tab", "space", "enter", "activate")
    assert record.line == 1
    assert drill_catalogue()[record.check].repair == record.repair


def test_a_drill_can_be_stopped_at_a_step(tmp_path: Path) -> None:
    session = opener(Case("", "<details><summary>Water</summary><p>x</details>", []), tmp_path, None)()
    (widget,) = widgets(session)
    done: list[Walked] = []

    def tell(step: Walked) -> None:
        done.append(step)
        if len(done) == 2:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        drill(session, widget, tell)
    assert [each.move for each in done] == ["tab", "enter"]


def test_a_tree_without_a_page_cannot_be_drilled() -> None:
    session = session_of("<details><summary>Water</summary><p>x</details>")
    (widget,) = widgets(session)
    with pytest.raises(DrillError, match="Keys do nothing"):
        drill(session, widget)
