"""Opening pages in the application: the frame at once, steps, stopping, another page, links, what is remembered."""

import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from textual.pilot import Pilot
from textual.widgets import Input, Static

from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.loading.errors import PageError
from murvel.loading.fetch import PageSource
from murvel.loading.fetch import fetch as fetch_page
from murvel.loading.setup import Setup
from murvel.tui import opening_screen
from murvel.tui.app import MurvelApp
from murvel.tui.dialogs.open_page import OpenPage
from murvel.tui.opening_screen import OpeningScreen
from murvel.tui.remembered import Remembered, read_remembered
from murvel.tui.settings import Settings
from murvel.tui.widgets.lines import MessageLine, TopLine
from murvel.tui.widgets.options import Options
from murvel.work import opening as steps
from murvel.work.opening import Opening
from murvel.work.work import Work
from tests.support import DEMO
from tests.tui.conftest import Opened
from tests.tui.support import line, page, press, rest, until, work

PLOTS = DEMO / "found" / "plots.html"


async def ask(pilot: Pilot[None], address: str) -> None:
    """Ask for a page by its address."""
    await press(pilot, "o")
    dialog = pilot.app.screen
    assert isinstance(dialog, OpenPage)
    dialog.query_one(Input).value = address
    await press(pilot, "enter")


@pytest.fixture
def gate(monkeypatch: pytest.MonkeyPatch) -> Iterator[threading.Event]:
    """Let pages be fetched only once the gate is open."""
    gate = threading.Event()

    def fetch(address: str, setup: Setup) -> PageSource:
        assert gate.wait(20)
        return fetch_page(address, setup)

    monkeypatch.setattr(steps, "fetch", fetch)
    yield gate
    gate.set()


async def test_the_frame_is_there_before_the_page(tmp_path: Path, gate: threading.Event) -> None:
    with Casebook(tmp_path / "b.murvel") as book:
        app = MurvelApp(book, Opening(str(PLOTS)), built_in())
        async with app.run_test() as pilot:
            await until(pilot, lambda: isinstance(app.screen, OpeningScreen) and app.screen.is_mounted)
            assert str(PLOTS)[:10] in line(pilot, TopLine, top=True)
            await until(pilot, lambda: "… fetching the page" in str(app.screen.query_one(Static).content))
            assert app.is_opening
            await press(pilot, "j", "o", "question_mark", "ctrl+p", "1")
            gate.set()
            await until(pilot, lambda: app.page is not None and app.page.front)
            assert work(pilot).session.log
            assert not app.is_opening
            await rest(pilot)
            assert isinstance(app.screen, OpenPage)
            assert app.screen.query_one(Input).value == "?1"


async def test_what_is_heard_first_is_shown_before_the_page_is_open(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    gate = threading.Event()

    def keep(*given: Any) -> Work:
        assert gate.wait(20)
        return Work(*given)

    monkeypatch.setattr(steps, "Work", keep)
    monkeypatch.setattr(opening_screen, "_FIRST_AFTER", 0)
    source = (
        "<title>Beds \x9b1m</title><p>Water \u202eon Monday</p>" + "<p>and on every other day of the week</p>" * 200
    )
    with Casebook(tmp_path / "b.murvel") as book:
        app = MurvelApp(book, Opening("beds.html", source=PageSource(source, "beds.html")), built_in())
        async with app.run_test(size=(40, 20)) as pilot:
            await until(pilot, lambda: "keeping the take" in str(app.screen.query_one(Static).content))
            shown = str(app.screen.query_one(Static).content).splitlines()
            assert shown[-1].strip().startswith("0:")
            assert "0:00  Water on Monday" in shown[shown.index("Beds [U+009B]1m") + 1]
            assert max(map(len, shown[6:])) <= 40
            assert len(shown) <= 16
            gate.set()
            await until(pilot, lambda: app.page is not None and app.page.front)


@pytest.mark.parametrize(("address", "status", "words"), [(str(PLOTS), 0, None), ("/no/such.html", 2, "no file")])
async def test_a_first_page_that_is_not_opened_ends_the_application(
    tmp_path: Path, gate: threading.Event, address: str, status: int, words: str | None
) -> None:
    with Casebook(tmp_path / "b.murvel") as book:
        app = MurvelApp(book, Opening(address), built_in())
        async with app.run_test() as pilot:
            await until(pilot, lambda: isinstance(app.screen, OpeningScreen) and app.screen.is_mounted)
            if status:
                gate.set()
            else:
                await pilot.press("escape")
            await until(pilot, lambda: app.return_code is not None)
        assert app.return_code == status
        gate.set()


async def test_another_page_is_opened_and_the_first_one_is_offered_again(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "j")
        await ask(pilot, str(PLOTS))
        await until(pilot, lambda: work(pilot).page.address == str(PLOTS))
        await until(pilot, lambda: pilot.app.screen is page(pilot))
        await press(pilot, "o", "down", "enter")
        await until(pilot, lambda: work(pilot).page.address.endswith("index.html"))
        await pilot.pause()
        assert work(pilot).session.log[-1].move.startswith("back to where you were")
        await ask(pilot, "no such page")
        await until(pilot, lambda: "There is no file" in line(pilot, MessageLine))
        await press(pilot, "j")
        assert work(pilot).session.log[-1].move == "next item"


async def test_a_page_that_is_given_up_leaves_the_one_that_is_open(opened: Opened, gate: threading.Event) -> None:
    gate.set()
    async with opened() as pilot:
        gate.clear()
        await ask(pilot, str(PLOTS))
        await until(pilot, lambda: isinstance(pilot.app.screen, OpeningScreen) and pilot.app.screen.is_mounted)
        await press(pilot, "escape")
        await until(pilot, lambda: "was not opened" in line(pilot, MessageLine))
        gate.set()
        await pilot.pause(0.1)
        assert pilot.app.screen is page(pilot)
        assert work(pilot).page.address.endswith("index.html")


async def test_pages_of_other_casebooks_are_offered_too(opened: Opened, tmp_path: Path) -> None:
    Remembered(tmp_path / "state" / "remembered.json", pages=[(str(PLOTS), 320)]).keep()
    async with opened() as pilot:
        await press(pilot, "o", *"plots 320")
        listed = pilot.app.screen.query_one(Options)
        assert listed.option_count == 0, "the width is no word of it"
        await press(pilot, *["backspace"] * 4, "down", "enter")
        await until(pilot, lambda: work(pilot).page.address == str(PLOTS))
        assert work(pilot).page.width == 320


async def test_a_path_is_completed(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "o")
        dialog = pilot.app.screen.query_one(Input)
        dialog.value = str(PLOTS)[:-8]
        await press(pilot, "end", str(PLOTS)[-8])
        await until(pilot, lambda: dialog._suggestion)
        await press(pilot, "right")
        assert dialog.value == str(PLOTS)


async def test_a_link_is_followed_on_request(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "O")
        await until(pilot, lambda: "leads to a place on this page" in line(pilot, MessageLine))
        await press(pilot, "j", "O")
        assert "There is no link at the cursor" in line(pilot, MessageLine)
        await press(pilot, "slash", *"Plots", "enter", "enter")
        assert line(pilot, MessageLine) == f"O opens {DEMO / 'found' / 'plots.html'}."
        await press(pilot, "O")
        await until(pilot, lambda: work(pilot).page.address == str(PLOTS))


def test_what_is_remembered_is_read_again_and_damage_costs_nothing(tmp_path: Path) -> None:
    path = tmp_path / "deep" / "remembered.json"
    kept = Remembered(path, theme="paper")
    for number in range(20):
        kept.opened(f"/{number}.html", 1280)
        kept.ran(f"listen.{number}")
    kept.opened("/10.html", 320)
    kept.keep()
    again = read_remembered(path)
    assert again == kept
    assert again.pages[:2] == [("/10.html", 320), ("/19.html", 1280)]
    assert len(again.pages) == len(again.actions) == 12
    path.write_text('{"theme": 5')
    assert read_remembered(path) == Remembered(path)


async def test_what_cannot_be_remembered_is_said(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    settings = Settings(remembered=Remembered(tmp_path / "file" / "remembered.json"))
    with Casebook(tmp_path / "b.murvel") as book:
        app = MurvelApp(book, Opening(str(PLOTS)), built_in(), settings=settings)
        async with app.run_test() as pilot:
            await until(pilot, lambda: app.page is not None and app.page.front)
            await press(pilot, "L")
            await until(pilot, lambda: "cannot be made" in line(pilot, MessageLine))


def test_a_step_that_fails_is_no_longer_under_way(tmp_path: Path) -> None:
    failing = Opening("/no/such.html")
    with Casebook(tmp_path / "b.murvel") as book, pytest.raises(PageError):
        list(failing.steps(book, built_in()))
    assert not failing.is_under_way
