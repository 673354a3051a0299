"""Survey and Keyboard in the application: lists, verdicts, filters, going there and back, documenting."""

from pathlib import Path

import pytest
from textual.pilot import Pilot
from textual.widgets import Static

from murvel.survey.entry import Slice, Verdict
from murvel.survey.path import Stop
from murvel.tui.dialogs.defect_form import DefectForm
from murvel.tui.views.keyboard import KeyboardView
from murvel.tui.views.survey import SurveyView
from murvel.tui.widgets.lines import MessageLine
from murvel.tui.widgets.rows import Rows
from tests.support import DEMO
from tests.tui.conftest import Opened
from tests.tui.support import heard, here, line, page, press, text_of, until, work


def survey(pilot: Pilot[None]) -> SurveyView:
    return page(pilot).query_one(SurveyView)


def rows(pilot: Pilot[None], view: type[SurveyView] | type[KeyboardView] = SurveyView) -> list[str]:
    """Return the rows that are on the screen."""
    listed = page(pilot).query_one(view).query_one(Rows)
    lines = [listed.render_line(y).text.rstrip() for y in range(listed.scrollable_content_region.height)]
    return [line.removeprefix("► ").removeprefix("  ") for line in lines if line]


def whole(pilot: Pilot[None], name: str = "#whole") -> str:
    console = pilot.app.console
    with console.capture() as capture:
        console.print(page(pilot).query_one(name, Static).content)
    return capture.get()


async def test_the_outline_with_its_breaks(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "2")
        shown = rows(pilot)
        assert shown[0].startswith("○   0:17 ┆ Grow something this year  heading level 2  level 1 missing")
        assert shown[0].endswith("△1")
        assert "│ │ ┆ Compost has arrived" in shown[1]
        assert "No heading of level 1" in whole(pilot)
        assert "headings: 6 open" in text_of(page(pilot).query_one("#counts", Static))


async def test_verdicts_are_kept_and_come_back(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "2", "right", "right", "p", "f", "m", *"odd", "enter", "c")
        assert [line[0] for line in rows(pilot)[:4]] == ["✓", "●", "◐", "○"]
        assert "links: 1 pass, 1 fail, 1 needs-context, 13 open" in text_of(page(pilot).query_one("#counts", Static))
        await press(pilot, "up", "c")
        assert rows(pilot)[2][0] == "○"
        assert "is not judged any more; it was needs-context" in line(pilot, MessageLine)
        await press(pilot, "up", "p")
        assert "was fail and is pass now. u takes it back" in line(pilot, MessageLine)
        await press(pilot, "u")
    async with opened() as pilot:
        await press(pilot, "2", "right", "right", "down")
        assert [line[0] for line in rows(pilot)[:4]] == ["✓", "●", "○", "○"]
        assert "odd" in whole(pilot)
        await press(pilot, "n")
        picked = survey(pilot).picked
        assert picked is not None
        assert picked.number == 3


async def test_a_slip_is_taken_back_where_it_was_made(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "2", "right", "right", "p", "p", "right", "p", "u")
        assert "fields and buttons: 5 open" in text_of(page(pilot).query_one("#counts", Static))
        await press(pilot, "u")
        assert "links: 1 pass" in text_of(page(pilot).query_one("#counts", Static))
        assert survey(pilot).picked == work(pilot).survey.entries[Slice.LINKS][1]
        assert "Taken back: what was said of links 2." in line(pilot, MessageLine)
        await press(pilot, "1", "u", "u")
        assert "nothing to take back" in line(pilot, MessageLine)


async def test_filters(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "2", "right", "right", "slash", *"read more", "enter")
        assert len(rows(pilot)) == 5
        await press(pilot, "slash", *["backspace"] * 9, "enter", "w", "w")
        assert all("△" in line or "▲" in line for line in rows(pilot))
        await press(pilot, "w", "w", "w", "w")
        assert len(rows(pilot)) == 16
        await press(pilot, "H")
        assert len(rows(pilot)) == 17
        assert "hidden by" in rows(pilot)[-1]
        await press(pilot, "slash", *"no such words", "enter")
        assert rows(pilot) == []
        assert "No entry is “no such words”" in whole(pilot)
        await press(pilot, "p", "enter", "d", "m")
        assert survey(pilot).picked is None


async def test_going_there_and_back_and_documenting(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "2", "right", "right", "right", "down", "enter")
        assert heard(pilot) == "button"
        await press(pilot, "b")
        picked = survey(pilot).picked
        assert picked is not None
        assert (picked.slice, picked.number) == (Slice.FIELDS, 2)
        await press(pilot, "f")
        assert "d documents it" in line(pilot, MessageLine)
        await press(pilot, "d")
        assert isinstance(pilot.app.screen, DefectForm)
        await press(pilot, "ctrl+s")
        defect = work(pilot).defects()[0]
        assert (defect.heard, defect.criterion) == ("button", "4.1.2")
        assert defect.expected == "what it does, then “button”"
        assert [step.move for step in defect.steps] == ["open page", "first", "jump buttons"]
        assert work(pilot).judgement(picked).verdict is Verdict.FAIL


async def test_jumping_to_leads(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "right_square_bracket", "a")
        assert work(pilot).session.log[-1].move == "next lead"
        assert work(pilot).session.node in {lead.node for lead in work(pilot).survey.leads}


async def test_here_tells_the_leads_once_the_page_is_surveyed(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "right_square_bracket", "b")
        assert "lead" not in here(pilot)
        await press(pilot, "2", "1", "right_square_bracket", "b", "left_square_bracket", "b")
        assert "fails: Control without a name" in here(pilot)


async def test_next_open_goes_through_all_lists(opened: Opened, tmp_path: Path) -> None:
    page = tmp_path / "p.html"
    page.write_text("<!DOCTYPE html><html lang=en><title>T</title><h1>A</h1><a href=x>B</a>")
    async with opened(page) as pilot:
        await press(pilot, "2")
        for _ in range(3):
            await press(pilot, "p", "n")
        assert "Everything that is shown is judged." in line(pilot, MessageLine)


TABS = (
    "<!DOCTYPE html><html lang=en><title>T</title><a href=#m>Skip</a><nav><a href=a>One</a>"
    "<a href=b tabindex=1>Two</a></nav><main id=m><h1>T</h1><p onclick=x()>Click</p><input></main>"
)


async def test_the_way_of_tab(opened: Opened, tmp_path: Path) -> None:
    tabs = tmp_path / "p.html"
    tabs.write_text(TABS)
    async with opened(tabs) as pilot:
        await press(pilot, "3")
        summary = text_of(page(pilot).query_one("#summary", Static))
        assert "4 stops; 3 before the main content" in summary
        assert "not the first stop" in summary
        shown = rows(pilot, KeyboardView)
        assert shown[0].lstrip().startswith("1 Two  link")
        assert "╳" in shown[1]
        assert shown[-1].strip().startswith("▲ Only a pointer can reach it")
        assert "place 3" in whole(pilot, "#whole-stop")
        await press(pilot, "end", "enter")
        assert heard(pilot).endswith("Click")
        await press(pilot, "3", "home", "n", "d")
        assert isinstance(pilot.app.screen, DefectForm)
        await press(pilot, "escape", "escape", "x")
        await until(pilot, work(pilot).casebook.path.with_name("book-path.svg").exists)
        await until(pilot, lambda: "The path is drawn in" in line(pilot, MessageLine))


async def test_keyboard_on_a_page_without_stops_and_on_a_small_screen(opened: Opened, tmp_path: Path) -> None:
    bare = tmp_path / "p.html"
    bare.write_text("<title>T</title><p>nothing")
    async with opened(bare, size=(60, 20)) as pilot:
        await press(pilot, "3", "enter", "d", "n", "down")
        assert "Tab stops nowhere" in whole(pilot, "#whole-stop")
        await press(pilot, "2", "pagedown", "end", "home", "f")


async def test_a_click_picks_and_two_go_there(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "3")
        listed = page(pilot).query_one(KeyboardView).query_one(Rows)
        await pilot.click(listed, offset=(10, 4))
        await pilot.pause()
        assert isinstance(listed.picked, Stop)
        assert listed.picked.number == 4
        await pilot.click(listed, offset=(10, 4), times=2)
        await pilot.pause()
        assert heard(pilot).endswith("Waiting list, link, 3 of 5")


KEYS = (
    "2 right right j p f m x enter d escape escape 3 j j n enter 2 H w w slash z enter escape 1 slash S e enter enter t 2 3 "
    "right_square_bracket a question_mark escape ctrl+p escape 4 p right left escape 5 u u 2 b backspace N V escape"
).split()


@pytest.mark.parametrize(
    "name", ["repaired/pocket.json", "repaired/waiting.html", "found/rules.html", "found/notices.html"]
)
@pytest.mark.thorough
async def test_keys_anywhere_do_no_harm(opened: Opened, name: str) -> None:
    async with opened(DEMO / name, size=(100, 30)) as pilot:
        await press(pilot, *KEYS)
        assert work(pilot).survey.page.tree is work(pilot).session.tree


SIZES = [(160, 47), (20, 6), (40, 12), (10, 3), (100, 30)]


@pytest.mark.thorough
@pytest.mark.parametrize("name", ["found/waiting.html", "repaired/notices.html"])
async def test_a_terminal_that_changes_under_the_keys_does_no_harm(opened: Opened, name: str) -> None:
    async with opened(DEMO / name) as pilot:
        for number, key in enumerate(KEYS):
            if number % 4 == 0:
                await pilot.resize_terminal(*SIZES[number // 4 % len(SIZES)])
            await press(pilot, key, "pagedown", "end")
        await pilot.resize_terminal(160, 47)
        while pilot.app.screen is not page(pilot):
            await press(pilot, "escape")
        await press(pilot, "2")
        assert survey(pilot).size.width == 160
        assert "links: 1 pass" in text_of(page(pilot).query_one("#counts", Static))


async def test_what_is_closed_is_judged_with_the_hidden_entries(opened: Opened, tmp_path: Path) -> None:
    (tmp_path / "c.html").write_text(
        "<title>C</title><main><h1>C</h1><a href=x>Home</a><nav hidden><a href=y></a></nav></main>"
    )
    async with opened(tmp_path / "c.html") as pilot:
        await press(pilot, "2", "right", "right")
        assert len(rows(pilot)) == 1
        await press(pilot, "H")
        await until(pilot, lambda: len(rows(pilot)) == 2)
        await press(pilot, "down")
        picked = survey(pilot).picked
        assert picked is not None
        assert [lead.says for lead in picked.leads] == ["Link without a name: hidden now"]
        await press(pilot, "H")
        await until(pilot, lambda: len(rows(pilot)) == 1)
