"""A large page is looked through in steps, with how far it is shown, and the look can be stopped."""

from collections.abc import Iterator
from pathlib import Path
from time import sleep

import pytest
from textual.app import App
from textual.widgets import ProgressBar

from murvel.reader.readout.spoken import Spoken
from murvel.tui.dialogs.looking import Looking
from murvel.tui.page_screen import PageScreen
from murvel.tui.theme import DARK
from murvel.tui.widgets.lines import MessageLine
from tests.tui.conftest import Opened
from tests.tui.support import line, until, work

LARGE = "<title>T</title><html lang=en><main><h1>T</h1>" + "<p>words <a href=x>more</a></p>" * 3_000


@pytest.fixture
def large(tmp_path: Path) -> Path:
    page = tmp_path / "large.html"
    page.write_text(LARGE)
    return page


def endless(*_: object, **__: object) -> Iterator[float]:
    while True:
        sleep(0.001)
        yield 0.25


@pytest.mark.parametrize("keys", [("2",), ("3",), ("b",), ("right_square_bracket", "a")])
async def test_a_look_comes_to_its_end_and_what_was_asked_for_follows(
    opened: Opened, large: Path, keys: tuple[str, ...]
) -> None:
    async with opened(large) as pilot:
        opened_work = work(pilot)
        assert not opened_work.is_surveyed
        await pilot.press(*keys)
        await pilot.pause()
        await until(pilot, lambda: opened_work.is_surveyed and isinstance(pilot.app.screen, PageScreen))
        await pilot.pause()
        assert isinstance(pilot.app.screen, PageScreen)
        first = opened_work.survey
        if keys[-1] == "a":
            assert opened_work.session.node in [lead.node for lead in first.leads]
        await pilot.press("1", *keys)
        await pilot.pause()
        assert opened_work.survey is first, "it is looked through only once"


async def test_a_look_is_stopped_and_leaves_one_where_one_was(
    opened: Opened, large: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    async with opened(large) as pilot:
        opened_work = work(pilot)
        monkeypatch.setattr(opened_work, "look_through", endless)
        heard = len(opened_work.session.log)
        await pilot.press("2")
        assert isinstance(pilot.app.screen, Looking)
        await pilot.press("j", "3", "escape")
        assert isinstance(pilot.app.screen, PageScreen)
        assert not opened_work.is_surveyed
        assert "Stopped before the whole page" in line(pilot, MessageLine)
        await pilot.press("j")
        assert len(opened_work.session.log) == heard + 1, "keys go to the readout again"


@pytest.mark.parametrize("key", ["v", "Y"])
async def test_another_voice_is_worked_out_first_and_can_be_stopped(
    opened: Opened, large: Path, monkeypatch: pytest.MonkeyPatch, key: str
) -> None:
    async with opened(large) as pilot:
        session = work(pilot).session
        before = session.voice
        with monkeypatch.context() as patch:
            patch.setattr(Spoken, "work_out", endless)
            await pilot.press(key)
            assert isinstance(pilot.app.screen, Looking)
            await pilot.press("j", "escape")
        assert isinstance(pilot.app.screen, PageScreen)
        assert session.voice == before
        assert f"Stopped; the voice is still {before.title}." in line(pilot, MessageLine)
        await pilot.press(key)
        await until(pilot, lambda: isinstance(pilot.app.screen, PageScreen) and session.voice != before)
        assert len(session.spoken._said) == len(session.readout.items)


async def test_how_far_it_is_is_shown_and_nothing_is_done_after_a_stop() -> None:
    done = 0

    def steps() -> Iterator[float]:
        nonlocal done
        for part in endless():
            done += 1
            yield part

    answers: list[bool | None] = []
    app = App[None]()
    app.register_theme(DARK)
    app.theme = DARK.name
    async with app.run_test() as pilot:
        pilot.app.push_screen(Looking("Looking [b]far[/b]", steps()), answers.append)
        await until(pilot, lambda: any(bar.percentage == 0.25 for bar in pilot.app.screen.query(ProgressBar)))
        await pilot.press("x", "escape")
        assert answers == [False]
        before = done
        await until(pilot, lambda: all(each.is_finished for each in pilot.app.workers))
        assert done == before
