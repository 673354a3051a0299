"""The lines around a view: they fit every width at once, and everything in them can be clicked."""

import pytest
from textual.events import Key
from textual.widgets import Input, OptionList

from murvel.survey.entry import Slice
from murvel.tui.dialogs.actions import AllActions
from murvel.tui.dialogs.defect_form import DefectForm
from murvel.tui.dialogs.help import Help
from murvel.tui.dialogs.jump import JumpLetters
from murvel.tui.registry import NUMBERED
from murvel.tui.views.survey import SurveyView
from murvel.tui.widgets.lines import KeyLine, TopLine
from murvel.tui.widgets.list_names import ListNames
from murvel.tui.widgets.readout import ReadoutView
from tests.support import DEMO
from tests.tui.conftest import Opened
from tests.tui.support import heard, line, page, press, until, work


async def test_the_lines_fit_every_width_at_once(opened: Opened) -> None:
    async with opened(size=(160, 24)) as pilot:
        await press(pilot, "2")
        for width in (220, 160, 120, 100, 80, 66, 65, 40, 21):
            await pilot.resize_terminal(width, 24)
            await pilot.pause()
            top, keys = line(pilot, TopLine), line(pilot, KeyLine)
            assert max(len(top), len(keys.rstrip())) <= width - 2, width
            assert [str(number) in top for number in range(1, 6)] == [True] * 5
            assert all(view.TITLE in top for view in NUMBERED) is (width >= 66)
            assert width < 80 or "browse mode" in top
            assert ("take 1" in top) is (width >= 160)
            assert ("quit" in keys) is (width >= 20)


async def test_views_and_keys_can_be_clicked(opened: Opened) -> None:
    async with opened() as pilot:
        top = line(pilot, TopLine)
        for view in NUMBERED:
            await pilot.click(TopLine, offset=(1 + top.index(view.TITLE), 0))
            await pilot.pause()
            assert page(pilot).front == view.NAME
        await pilot.click(TopLine, offset=(3, 0))
        assert page(pilot).front == "defects"
        await pilot.click(TopLine, offset=(1 + top.index("1 Listen"), 0))
        await pilot.pause()
        await pilot.click(KeyLine, offset=(1 + line(pilot, KeyLine).index("where am I"), 0))
        await pilot.pause()
        assert work(pilot).session.log[-1].move == "where am I"
        await pilot.click(KeyLine, offset=(1 + line(pilot, KeyLine).index("help"), 0))
        await pilot.pause()
        assert isinstance(pilot.app.screen, Help)


async def test_lists_of_the_survey_can_be_clicked_in_every_line(opened: Opened) -> None:
    async with opened(size=(80, 24)) as pilot:
        await press(pilot, "2")
        names = page(pilot).query_one(ListNames)
        lines = str(names.render()).splitlines()
        assert len(lines) > 1
        assert all(text.startswith(" ") for text in lines)
        for name in ("links", "lists", "others"):
            y = next(at for at, text in enumerate(lines) if name in text)
            await pilot.click(ListNames, offset=(1 + lines[y].index(name), y))
            await pilot.pause()
            picked = page(pilot).query_one(SurveyView).picked
            assert picked is not None
            assert picked.slice == name


async def test_an_item_that_is_clicked_twice_is_activated(opened: Opened) -> None:
    async with opened(DEMO / "repaired" / "waiting.html") as pilot:
        await press(pilot, "slash", *"Send", "enter")
        view = page(pilot).query_one(ReadoutView)
        item = work(pilot).session.item
        assert item is not None
        y = view._first_row[item.index] - view.scroll_offset.y
        await press(pilot, "home")
        await press(pilot, "slash", *"Send", "enter")
        await pilot.click(ReadoutView, offset=(12, y), times=2)
        await pilot.pause()
        assert any(entry.move == "activate" for entry in work(pilot).session.log)


@pytest.mark.parametrize(
    ("key", "dialog", "words"),
    [
        ("right_square_bracket", JumpLetters, "A letter jump"),
        ("d", DefectForm, "Ctrl+S keep"),
        ("ctrl+p", AllActions, "Enter run it"),
        ("question_mark", Help, "Esc close"),
    ],
)
async def test_the_bottom_line_shows_the_keys_of_a_dialog(opened: Opened, key: str, dialog: type, words: str) -> None:
    async with opened(size=(80, 24)) as pilot:
        await press(pilot, key)
        assert isinstance(pilot.app.screen, dialog)
        assert words in line(pilot, KeyLine, top=True)


def _key(name: str) -> Key:
    return Key(name, {"slash": "/", "right_square_bracket": "]"}.get(name, name))


async def test_letters_typed_right_behind_a_key_are_the_dialog_s(opened: Opened) -> None:
    async with opened() as pilot:
        for key in ("slash", *"watering rota"):
            pilot.app.post_message(_key(key))
        await until(pilot, lambda: [each.value for each in pilot.app.screen.query(Input)] == ["watering rota"])
        await press(pilot, "enter")
        assert work(pilot).session.log[-1].move == "find “watering rota”"
        for key in ("right_square_bracket", "h", "right_square_bracket", "h", "w"):
            pilot.app.post_message(_key(key))
        await until(pilot, lambda: work(pilot).session.log[-1].move == "where am I")
        assert [entry.move for entry in work(pilot).session.log[-3:]] == ["next heading", "next heading", "where am I"]
        assert heard(pilot).startswith("(item ")


async def test_an_action_of_another_view_is_clicked_in_the_list_of_all(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "ctrl+p", *"entry fails")
        await pilot.click(OptionList, offset=(6, 1))
        await pilot.pause()
        assert page(pilot).front == "survey"
        first = work(pilot).survey.entries[Slice.HEADINGS][0]
        assert work(pilot).judgement(first).verdict == "fail"
