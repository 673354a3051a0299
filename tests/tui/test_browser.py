"""The application on a page in a real browser, and what it says of keys that need one."""

from dataclasses import replace
from pathlib import Path

import pytest
from textual.widgets import Input, Static

from murvel.browser.launch import find_chromium
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.loading.setup import DEFAULT_SETUP, BrowserSetup
from murvel.tui.app import MurvelApp
from murvel.tui.dialogs.defect_form import DefectForm
from murvel.tui.dialogs.drilling import Drilling
from murvel.tui.dialogs.two_colours import TwoColours
from murvel.tui.views.keyboard import KeyboardView
from murvel.tui.widgets.lines import MessageLine, TopLine
from murvel.tui.widgets.rows import Rows
from murvel.work.opening import Opening
from tests.support import DEMO
from tests.tui.conftest import Opened
from tests.tui.support import heard, line, page, press, shown, text_of, until, work

IN_BROWSER = replace(DEFAULT_SETUP, browser=BrowserSetup())


async def test_pressing_tab_through_the_page_needs_a_browser(opened: Opened) -> None:
    async with opened(DEMO / "repaired" / "desk.html") as pilot:
        await press(pilot, "3", "p")
        await until(pilot, lambda: "in a browser only" in line(pilot, MessageLine))


@pytest.mark.thorough
@pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")
async def test_a_page_with_scripts_is_worked_and_what_comes_late_is_heard(tmp_path: Path) -> None:
    with Casebook(tmp_path / "book.murvel") as book:
        application = MurvelApp(book, Opening(str(DEMO / "repaired" / "desk.html"), IN_BROWSER), built_in())
        async with application.run_test(size=(160, 47)) as pilot:
            await until(pilot, lambda: application.page is not None and application.page.front)
            await until(pilot, lambda: "browser" in line(pilot, TopLine))
            await press(pilot, "tab", "tab", "enter")
            assert heard(pilot) == "expanded"
            assert any("North field" in each for each in shown(pilot))
            await press(pilot, "slash", *"Only free", "enter")
            await press(pilot, "space")
            await until(pilot, lambda: heard(pilot) == "2 free plots")
            await press(pilot, "d")
            await press(pilot, "escape", "3", "p")
            view = page(pilot).query_one(KeyboardView)
            await until(pilot, lambda: "by real keys" in text_of(view.query_one("#summary", Static)))
            assert work(pilot).session.stage is not None


@pytest.mark.thorough
@pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")
async def test_a_page_is_looked_at_and_a_widget_drilled(tmp_path: Path) -> None:
    with Casebook(tmp_path / "book.murvel") as book:
        application = MurvelApp(book, Opening(str(DEMO / "found" / "desk.html"), IN_BROWSER), built_in())
        async with application.run_test(size=(160, 47)) as pilot:
            await until(pilot, lambda: application.page is not None and application.page.front)
            await press(pilot, "2", "v")
            await until(pilot, lambda: "Contrast, of text" in str(page(pilot).query(Rows).first().border_title))
            assert "4 plots" in str(page(pilot).query(Rows).first().rows[1].heard)
            await press(pilot, "3", "j", "r")
            await until(pilot, lambda: isinstance(application.screen, Drilling))
            await until(pilot, lambda: "A click works it" in text_of(application.screen.query_one("#walk", Static)))
            await press(pilot, "escape")
            await until(pilot, lambda: "1 fault found" in line(pilot, MessageLine))
            await press(pilot, "r")
            await until(pilot, lambda: isinstance(application.screen, Drilling))
            await until(pilot, lambda: "A click works it" in text_of(application.screen.query_one("#walk", Static)))
            await press(pilot, "d")
            await until(pilot, lambda: isinstance(application.screen, DefectForm))
            assert "A click works it" in application.screen.query_one("#title", Input).value
            await press(pilot, "ctrl+s")
            await until(pilot, lambda: application.screen is page(pilot))
            assert [each.defect for each in book.attachments()] == [1]
            await press(pilot, "5", "p")
            await until(pilot, lambda: "defect-1-attachment-1.png" in line(pilot, MessageLine))
            assert (tmp_path / "defect-1-attachment-1.png").read_bytes().startswith(b"\x89PNG")
            await press(pilot, "1", "ctrl+r")
            await until(pilot, lambda: isinstance(application.screen, TwoColours))
            assert application.screen.query_one("#behind", Input).value.startswith("#")


async def test_two_colours_are_measured_moved_and_copied(opened: Opened) -> None:
    async with opened(DEMO / "repaired" / "desk.html") as pilot:
        await press(pilot, "ctrl+r")
        told = pilot.app.screen.query_one("#told", Static)
        assert "once both colours are there" in text_of(told)
        await press(pilot, *"#777", "tab", *"white")
        await until(pilot, lambda: "4.47:1" in text_of(told))
        await press(pilot, "shift+tab", "ctrl+n")
        await until(pilot, lambda: "#767676 on" in text_of(told) and "4.54:1" in text_of(told))
        await press(pilot, "up", "up")
        await until(pilot, lambda: "too little  text, AA (" in text_of(told))
        await press(pilot, "down", "down", "down", "ctrl+y")
        assert pilot.app.clipboard.startswith("#")
        await press(pilot, "x")
        await until(pilot, lambda: "is no colour" in text_of(told))
        await press(pilot, "up", "ctrl+n", "escape")
        await until(pilot, lambda: pilot.app.screen is page(pilot))


async def test_looking_needs_a_browser(opened: Opened) -> None:
    async with opened(DEMO / "repaired" / "desk.html") as pilot:
        await press(pilot, "2", "v")
        await until(pilot, lambda: "in a browser only" in line(pilot, MessageLine))


async def test_a_drill_on_the_built_in_stage(opened: Opened) -> None:
    async with opened(DEMO / "repaired" / "desk.html") as pilot:
        await press(pilot, "3", "j", "r")
        await until(pilot, lambda: isinstance(pilot.app.screen, Drilling))
        await until(pilot, lambda: "Nothing was found" in text_of(pilot.app.screen.query_one("#walk", Static)))
        await press(pilot, "escape")
        await until(pilot, lambda: "nothing found" in line(pilot, MessageLine))
        await press(pilot, "home", "r")
        await until(pilot, lambda: "Nothing is promised there" in line(pilot, MessageLine))


@pytest.mark.thorough
@pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")
async def test_a_page_that_hangs_takes_no_keys_and_leaves_them_to_us(tmp_path: Path) -> None:
    path = tmp_path / "page.html"
    path.write_text("<!DOCTYPE html><title>Page</title><h1>Top</h1><button onclick='for (;;);'>Go</button>")
    with Casebook(tmp_path / "book.murvel") as book:
        application = MurvelApp(book, Opening(str(path), replace(IN_BROWSER, root=tmp_path)), built_in())
        async with application.run_test(size=(100, 30)) as pilot:
            await until(pilot, lambda: application.page is not None and application.page.front)
            await press(pilot, "tab", "enter")
            await until(pilot, lambda: "busy" in line(pilot, TopLine))
            await press(pilot, "enter")
            assert "still busy" in heard(pilot)
            await press(pilot, "home")
            assert heard(pilot) == "Top, heading level 1"
