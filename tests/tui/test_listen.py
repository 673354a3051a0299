"""The Listen view: moves, marks, Here, Heard, find, and what a page cannot do to the screen."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from textual.widgets import Static

from murvel.reader.speech.timing import clock
from murvel.reader.speech.utterance import Part, PartKind, Utterance
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.dialogs.help import Help
from murvel.tui.dialogs.jump import JumpLetters
from murvel.tui.registry import ALL_ACTIONS
from murvel.tui.widgets.heard import HeardLog
from murvel.tui.widgets.lines import TopLine
from murvel.tui.widgets.options import Options
from murvel.tui.widgets.readout import ReadoutView
from murvel.tui.widgets.wording import HOLE_TEXT, pieces, slice_pieces, surely_fits, wrap
from tests.support import session_of
from tests.tui.conftest import Opened
from tests.tui.support import heard, here, line, page, press, shown, work


async def test_the_first_screen(opened: Opened) -> None:
    async with opened() as pilot:
        lines = shown(pilot)
        assert lines[0] == "►   0:00 logo.png  link"
        assert lines[2] == "         ╭╴list with 5 items"
        assert lines[3] == "    0:03 │ Home  link  1 of 5"
        assert lines[7] == "    0:13 ╰ Seed swap  link  5 of 5"
        assert f"    0:16 {HOLE_TEXT}  button" in lines
        top = line(pilot, TopLine)
        for words in (
            "Fernhollow Allotments",
            "take 1",
            "browse",
            "name first",
            f"0:00 of {clock(work(pilot).session.spoken.total)}",
            "1 Listen",
            "5 Defects (0)",
        ):
            assert words in top


@pytest.mark.parametrize(
    ("keys", "last"),
    [
        ("j", "Ninety plots on the old mill meadow"),
        ("j j k", "Ninety plots on the old mill meadow"),
        ("down down up", "Ninety plots on the old mill meadow"),
        ("k", "(start of page)"),
        ("G", "Fernhollow Allotments Association, Mill Meadow"),
        ("end home", "logo.png, link"),
        ("right_square_bracket h", "Grow something this year, heading level 2"),
        ("right_square_bracket h n", "list with 5 items, Compost has arrived, heading level 4, 1 of 5"),
        ("right_square_bracket h n N", "Grow something this year, heading level 2"),
        ("right_square_bracket 1", "(no heading of level 1 further on)"),
        ("right_square_bracket m", "(no landmark further on)"),
        ("right_square_bracket f n", "text box"),
        ("right_square_bracket b", "button"),
        ("right_square_bracket i", "logo.png, image, link"),
        ("right_square_bracket s", "list with 5 items, Home, link, 1 of 5"),
        ("right_square_bracket t", "(no table further on)"),
        ("end left_square_bracket l", "list with 4 items, image, link, 4 of 4"),
        ("right_square_bracket z", "logo.png, link"),
        ("right_square_bracket escape", "logo.png, link"),
        ("tab", "logo.png, link"),
        ("tab tab", "list with 5 items, Home, link, 1 of 5"),
        ("tab tab shift+tab", "logo.png, link"),
        ("slash B e e s enter", "list with 5 items, Bees on plot 71, heading level 4, 5 of 5 (1 of 1)"),
        ("slash escape", "logo.png, link"),
        ("n", "(no jump to repeat yet)"),
    ],
)
async def test_keys(opened: Opened, keys: str, last: str) -> None:
    async with opened() as pilot:
        await press(pilot, *keys.split())
        assert heard(pilot) == last
        assert pilot.app.screen is page(pilot)


async def test_cursor_and_focus_are_both_shown(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "tab", "tab", "j")
        lines = shown(pilot)
        assert lines[3].startswith(" ◆ ")
        assert lines[4].startswith("►  ")


async def test_the_cursor_stays_on_the_screen(opened: Opened) -> None:
    async with opened(size=(100, 30)) as pilot:
        for key in ("pagedown", "pagedown", "end", "pageup", "home", "G"):
            await press(pilot, key)
            assert len([line for line in shown(pilot) if line.startswith("►")]) == 1


async def test_here_shows_the_ladder(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "right_square_bracket", "f")
        text = here(pilot)
        assert "searchbox" in text
        assert "● wins" in text
        assert 'placeholder="Search"' in text
        assert "absent" in text
        assert "line 24, column 5" in text
        assert "stop 7 of 21" in text
        await press(pilot, "n")
        assert HOLE_TEXT in here(pilot)


async def test_heard_grows_and_stands_at_the_newest(opened: Opened) -> None:
    async with opened() as pilot:
        log = page(pilot).query_one(HeardLog)
        assert log.option_count == 2
        await press(pilot, "j", "j")
        assert log.option_count == 4
        assert log.highlighted == 3
        picked = log.picked()
        assert picked is not None
        assert picked.number == 4


async def test_the_mouse_goes_to_an_item(opened: Opened) -> None:
    async with opened() as pilot:
        await pilot.click(ReadoutView, offset=(20, 3))
        await pilot.pause()
        assert heard(pilot) == "list with 5 items, Home, link, 1 of 5"


async def test_letters_are_shown_after_a_bracket(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "left_square_bracket")
        assert isinstance(pilot.app.screen, JumpLetters)
        text = str(pilot.app.screen.query_one(Static).content)
        for words in ("jump back", "h\u00a0heading", "m\u00a0landmark", "1-6"):
            assert words in text


async def test_help_lists_every_action(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "question_mark")
        assert isinstance(pilot.app.screen, Help)
        text = str(pilot.app.screen.query_one(Static).content)
        assert text.startswith("Listen\n")
        for action in ALL_ACTIONS:
            assert f"  {action.id}\n" in text
        assert "Letters after ] and [" in text
        await press(pilot, *"voice rate")
        assert "No key has these words" in str(pilot.app.screen.query_one(Static).content)
        await press(pilot, *["backspace"] * 5)
        text = str(pilot.app.screen.query_one(Static).content)
        assert "in the next voice" in text
        assert "Survey" not in text
        await press(pilot, "escape")
        assert pilot.app.screen is page(pilot)


async def test_the_palette_runs_an_action(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "ctrl+p", *"where the cursor")
        actions = pilot.app.screen.query_one(Options)
        assert actions.option_count == 2, "its group and itself"
        await press(pilot, "enter")
        assert work(pilot).session.log[-1].move == "where am I"
        await press(pilot, "ctrl+p", "enter")
        assert work(pilot).session.log[-2:][0].move == "where am I", "what was used last stands first"
        await press(pilot, "ctrl+p", *"second pass", "enter")
        assert page(pilot).front == "live"


async def test_the_palette_takes_all_keys_where_it_has_no_room(opened: Opened) -> None:
    async with opened(size=(20, 3)) as pilot:
        await press(pilot, "ctrl+p")
        await press(pilot, "pagedown", "pageup", "end", "home", "k", "pagedown", "escape")
        assert pilot.app.screen is page(pilot)


@pytest.mark.parametrize("key", ["ctrl+p", "question_mark", "right_square_bracket", "slash", "V"])
async def test_a_dialog_is_answered_once(opened: Opened, key: str) -> None:
    async with opened() as pilot:
        await press(pilot, key)
        dialog = pilot.app.screen
        assert isinstance(dialog, Dialog)
        dialog.dismiss(None)
        dialog.dismiss(None)
        await pilot.pause()
        assert pilot.app.screen is page(pilot)
        await press(pilot, "w")
        assert work(pilot).session.log[-1].move == "where am I"


async def test_the_light_theme(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "L")
        assert pilot.app.theme == "paper"
        assert shown(pilot)[0] == "►   0:00 logo.png  link"
        await press(pilot, "L")
        assert pilot.app.theme == "contrast"
    async with opened() as pilot:
        assert pilot.app.theme == "contrast", "it is remembered"
        await press(pilot, "L")
        assert pilot.app.theme == "slate"


@pytest.mark.parametrize("size", [(100, 30), (60, 15), (30, 8), (10, 3), (200, 60)])
async def test_any_size_of_terminal(opened: Opened, size: tuple[int, int]) -> None:
    async with opened(size=size) as pilot:
        await press(pilot, "j", "tab", "d", "escape", "5", "1", "question_mark", "escape", "end")
        await pilot.resize_terminal(80, 24)
        await press(pilot, "home")
        assert shown(pilot)[0].startswith("►")


async def test_a_page_with_nothing_to_read(opened: Opened, tmp_path: Path) -> None:
    (tmp_path / "e.html").write_text("<title>Empty</title><div hidden>x</div>")
    async with opened(tmp_path / "e.html") as pilot:
        await press(pilot, "j", "k", "tab", "G", "pagedown", "w", "d", "escape", "right_square_bracket", "h", "5", "1")
        assert heard(pilot) == "(no heading further on)"


async def test_nothing_of_a_page_acts_on_the_screen(opened: Opened, tmp_path: Path) -> None:
    name = "[bold red]x[/] \x1b[31m \u202e [@click=app.bell]y[/]"
    (tmp_path / "h.html").write_text(
        f"<title>{name}</title><h1>{name}</h1><button aria-label='{name}' title='{name}'>z</button><img alt='[/]'>"
    )
    async with opened(tmp_path / "h.html") as pilot:
        await press(pilot, "j", "j", "slash", *"[bold", "enter", "d", "escape")
        lines = shown(pilot)
        assert lines[0].endswith("[bold red]x[/] [U+001B][31m [ at click equals app.bell]y[/]  heading level 1")
        assert "\x1b[31m [" not in here(pilot).replace("[U+001B]", "")
        await press(pilot, "d")
        await press(pilot, "ctrl+s", "ctrl+s", "5")
        assert work(pilot).defects()


async def test_what_was_heard_can_be_copied(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "j", "y")
        assert pilot.app.clipboard == "Ninety plots on the old mill meadow"


@pytest.mark.parametrize(
    ("text", "width", "lines"),
    [
        ("", 10, [""]),
        ("short", 10, ["short"]),
        ("one two three", 7, ["one two", "three"]),
        ("abcdefghij", 4, ["abcd", "efgh", "ij"]),
        ("日本語 日本", 6, ["日本語", "日本"]),
        ("a  b", 2, ["a", "b"]),
        ("x", 0, ["x"]),
    ],
)
def test_wrapping(text: str, width: int, lines: list[str]) -> None:
    assert [text[start:end].rstrip() for start, end in wrap(text, width)] == lines


@given(st.lists(st.builds(Part, st.sampled_from(PartKind), st.text(max_size=30)), max_size=4), st.integers(1, 160))
def test_what_surely_fits_takes_one_line(parts: list[Part], width: int) -> None:
    utterance = Utterance(tuple(parts))
    text = "".join(each for each, _ in pieces(utterance))
    assert not surely_fits(utterance, width) or wrap(text, width) == [(0, len(text))]


def test_most_of_a_page_surely_fits() -> None:
    utterances = session_of(
        "<h1>Plots</h1><p>All plots are let.<p><a href=x>Ask</a> <button></button>"
    ).spoken.utterances
    assert all(surely_fits(each, 100) for each in utterances)


def test_pieces_say_what_is_heard_and_show_what_is_missing() -> None:
    utterance = session_of("<p>See <a href=x>it</a>, or <button></button></p>").spoken.utterances
    assert [text for text, _ in pieces(utterance[0])] == ["See ", "it", "  ", "link", ", or"]
    assert [kind for _, kind in pieces(utterance[1])] == ["hole", "", "role"]
    assert slice_pieces([("abc", "x"), ("def", "y")], 2, 4) == [("c", "x"), ("d", "y")]
