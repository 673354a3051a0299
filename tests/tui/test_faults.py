"""When the application ends in bad order: what was being written is offered again, and the details are in a file."""

import signal
from pathlib import Path

import pytest
from textual.widgets import Static, TextArea

from murvel.casebook.store import Casebook
from murvel.tui.dialogs.defect_form import DefectForm
from murvel.tui.views.listen import ListenView
from murvel.tui.widgets.lines import MessageLine
from tests.tui.conftest import Opened
from tests.tui.support import line, press, until, work


async def test_a_half_written_defect_is_offered_again(opened: Opened, tmp_path: Path) -> None:
    async with opened() as pilot:
        await press(pilot, "j", "d", *"Half a word")
        await until(pilot, lambda: (draft := work(pilot).draft) is not None and draft.expected == "Half a word")
        pilot.app.exit()  # nobody was asked
    with Casebook(tmp_path / "book.murvel", read_only=True) as book:
        assert book.defects() == []
    async with opened() as pilot:
        await until(pilot, lambda: isinstance(pilot.app.screen, DefectForm))
        form = pilot.app.screen
        assert form.query_one("#expected", TextArea).text == "Half a word"
        assert str(form.query_one("#message", Static).content) == "Ctrl+S keeps it, Esc twice drops it."
        await press(pilot, "ctrl+s")
        assert work(pilot).defects()[0].expected == "Half a word"
        assert work(pilot).draft is None


async def test_a_dropped_defect_is_not_offered(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "j", "d", "x")
        await until(pilot, lambda: work(pilot).draft is not None)
        await press(pilot, "escape", "escape")
        assert work(pilot).draft is None


async def test_an_edited_defect_is_edited_again(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "j", "d", "a", "ctrl+s", "5", "e", "b")
        await until(pilot, lambda: work(pilot).draft is not None)
        pilot.app.exit()
    async with opened() as pilot:
        await until(pilot, lambda: isinstance(pilot.app.screen, DefectForm))
        await press(pilot, "ctrl+s")
        assert [(each.id, each.expected) for each in work(pilot).defects()] == [(1, "ba")]
        await press(pilot, "u")
        assert work(pilot).defects()[0].expected == "a"


async def test_a_fault_keeps_the_place_and_its_details(
    opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def fails(view: ListenView) -> None:
        raise RuntimeError("of its own")

    async def work_on() -> None:
        async with opened() as pilot:
            await press(pilot, "j", "j", "v")

    monkeypatch.setattr(ListenView, "action_next_voice", fails)
    with pytest.raises(RuntimeError, match="of its own"):
        await work_on()
    details = (tmp_path / "state" / "fault.txt").read_text()
    assert "RuntimeError: of its own" in details
    with Casebook(tmp_path / "book.murvel", read_only=True) as book:
        assert book.left(book.pages()[0]) is not None


async def test_a_signal_ends_it_in_good_order(opened: Opened, tmp_path: Path) -> None:
    async with opened() as pilot:
        await press(pilot, "j", "j")
        signal.raise_signal(signal.SIGTERM)
        await until(pilot, lambda: pilot.app.return_code == 143)
    with Casebook(tmp_path / "book.murvel", read_only=True) as book:
        assert book.left(book.pages()[0]) is not None
    async with opened() as pilot:
        assert "back to where you were" in work(pilot).session.log[-1].move
        assert line(pilot, MessageLine) == ""
