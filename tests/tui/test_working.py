"""The page at work in the application: modes, keys that go to the page, Live, ears only, voices."""

from dataclasses import replace
from pathlib import Path

import pytest
from textual.widgets import ContentSwitcher, Static

from murvel.reader.moves.moves import Mode
from murvel.reader.speech.timing import FASTEST
from murvel.tui.dialogs.notes import Notes
from murvel.tui.dialogs.said_as import SaidAs
from murvel.tui.views.ears import EarsView
from murvel.tui.views.live import LiveView
from murvel.tui.widgets.lines import KeyLine, MessageLine, TopLine
from tests.cli.support import murvel
from tests.support import DEMO
from tests.tui.conftest import Opened
from tests.tui.support import heard, line, page, press, shown, until, work

WAITING = DEMO / "repaired" / "waiting.html"


def live_text(pilot_app: object, view: LiveView) -> str:
    return "\n".join(strip.text for strip in view.query_one(Static).render_lines(view.query_one(Static).size.region))


async def test_keys_go_to_the_page_in_focus_mode_and_come_back(opened: Opened) -> None:
    async with opened(WAITING) as pilot:
        session = work(pilot).session
        await press(pilot, "right_square_bracket", "e")
        assert session.mode is Mode.BROWSE
        await press(pilot, "enter")
        assert session.mode is Mode.FOCUS
        assert "focus mode" in line(pilot, TopLine)
        assert "goes to the page" in line(pilot, KeyLine)
        await press(pilot, "j", "q", "a", "backspace", "space", "d")
        assert session.node is not None
        assert session.node.value == "jq d"
        assert any("= jq d" in line for line in shown(pilot))
        await press(pilot, "escape")
        assert session.mode is Mode.BROWSE
        await press(pilot, "j")
        assert session.log[-1].move == "next item"


async def test_what_the_page_does_after_a_while_is_shown(opened: Opened) -> None:
    async with opened(WAITING) as pilot:
        await press(pilot, "slash", *"Send", "enter", "enter")
        await press(pilot, "4", "t")
        view = page(pilot).query_one(LiveView)
        assert view.for_keys.has_focus
        drawn = live_text(pilot.app, view)
        assert "alert" in drawn
        assert "Two fields need your attention" in drawn
        assert "cut in" in drawn or "the page moved the focus" in drawn
        assert "it is in no live region" in drawn
        await press(pilot, "x", "X")
        drawn_as = work(pilot).casebook.path.with_name
        await until(pilot, lambda: drawn_as("book-timeline.pdf").exists() and drawn_as("book-timeline.svg").exists())
        assert drawn_as("book-timeline.pdf").read_bytes().startswith(b"%PDF")
        drawing = drawn_as("book-timeline.svg").read_text()
        assert "Two fields need your attention" in drawing
        await press(pilot, "1")
        assert any("Two fields need your attention" in line for line in shown(pilot))


async def test_live_on_a_page_without_regions(opened: Opened) -> None:
    async with opened(DEMO / "found" / "rota.html", size=(80, 24)) as pilot:
        await press(pilot, "4")
        assert "nothing that changes by itself is announced" in live_text(pilot.app, page(pilot).query_one(LiveView))


async def test_live_on_a_tree_without_a_page(opened: Opened) -> None:
    async with opened(DEMO / "repaired" / "pocket.json") as pilot:
        await press(pilot, "enter")
        assert heard(pilot) == "(keys do nothing here: this tree has no page behind it)"
        await press(pilot, "4", "t", "1")
        assert page(pilot).query_one(ContentSwitcher).current == "listen"


async def test_ears_only_hides_the_page_and_keeps_notes(opened: Opened) -> None:
    async with opened(DEMO / "found" / "waiting.html") as pilot:
        await press(pilot, "E", "j", "i", *"jq 5?", "enter", "j", "j", "f2", "enter")
        assert page(pilot).query_one(ContentSwitcher).current == "ears"
        assert page(pilot).query_one(EarsView).for_keys.has_focus
        assert [note.words for note in work(pilot).session.notes] == ["jq 5?", ""]
        assert "show the page" in line(pilot, KeyLine)
        await press(pilot, "E")
        assert isinstance(pilot.app.screen, Notes)
        await press(pilot, "escape")
        assert page(pilot).query_one(ContentSwitcher).current == "listen"


async def test_voices_change_what_is_shown_and_the_place_stays(opened: Opened) -> None:
    async with opened(WAITING) as pilot:
        await press(pilot, "j", "j")
        session = work(pilot).session
        item = session.item
        await press(pilot, "v")
        assert session.voice.name == "role first"
        assert session.item is item
        assert any("link  Home" in line for line in shown(pilot))
        await press(pilot, "plus")
        assert session.voice.rate == 200
        await press(pilot, "V")
        assert isinstance(pilot.app.screen, SaidAs)
        await press(pilot, "escape")


async def test_reading_on_stops_at_a_key(opened: Opened) -> None:
    async with opened(WAITING) as pilot:
        session = work(pilot).session
        session.change_voice(replace(session.voice, rate=FASTEST))
        await press(pilot, "a")
        await until(pilot, lambda: session.item is not None and session.item.index >= 2)
        await press(pilot, "w")
        moves = len(session.log)
        assert session.log[-1].move == "where am I"
        await pilot.pause(0.5)
        assert len(session.log) == moves


@pytest.mark.parametrize(
    ("keys", "said"),
    [
        ("right_square_bracket t shift+right", "Week, column header, row 1 column 1"),
        ("right_square_bracket t shift+right shift+right shift+down", "20, Ada F. row 2 column 2"),
        ("right_square_bracket t R", "row 1, Week, Stream beds, Pear rows, Gate beds"),
        ("right", "banner, Fernhollow Allotments, home, link"),
        ("ctrl+right ctrl+right", "to"),
        ("full_stop", "capital s"),
        ("j j e", "main, Watering rota, heading level 1"),
        ("j less_than_sign", "banner (holds 5 items)"),
        ("m", "(focus mode)"),
        ("escape", "(nothing to close)"),
    ],
)
async def test_keys_of_the_reader(opened: Opened, keys: str, said: str) -> None:
    async with opened(DEMO / "repaired" / "rota.html") as pilot:
        await press(pilot, *keys.split())
        assert heard(pilot) == said


async def test_voice_files_are_read_anew_while_it_runs(opened: Opened, tmp_path: Path) -> None:
    async with opened(WAITING) as pilot:
        work(pilot).voice_folder = tmp_path
        mine = tmp_path / "mine.toml"
        mine.write_text('name = "mine"\norder = ["role"]\n')
        await press(pilot, "v", "v", "v", "v")
        assert work(pilot).session.voice.name == "mine"
        mine.write_text('name = "mine"\norder = [\n')
        await press(pilot, "v")
        assert work(pilot).session.voice.name == "name first"
        assert "is no TOML" in line(pilot, MessageLine)


async def test_a_note_while_typing(opened: Opened) -> None:
    async with opened(WAITING) as pilot:
        await press(pilot, "E", "right_square_bracket", "e", "enter", "o", "f2", *"too far", "enter")
        session = work(pilot).session
        assert session.mode is Mode.FOCUS
        assert [(note.heard.move, note.words) for note in session.notes] == [("type o", "too far")]


async def test_live_plays_what_was_spoken_once_more(opened: Opened) -> None:
    async with opened(WAITING) as pilot:
        await press(pilot, "4", "T", "1", "down", "4", "T")
        view = page(pilot).query_one(LiveView)
        assert "Replay" not in live_text(pilot.app, view)
        await press(pilot, "p")
        assert "Replay, playing at 0." in live_text(pilot.app, view)
        await press(pilot, "p", "right", "right")
        drawn = live_text(pilot.app, view)
        assert "Replay, standing at" in drawn
        assert "Skip to the content" in drawn
        await press(pilot, *["left"] * 15)
        assert "standing at 0.0 s" in live_text(pilot.app, view)
        await press(pilot, "escape")
        assert "What was spoken, up to" in live_text(pilot.app, view)


async def test_a_walk_is_kept_and_made_again(opened: Opened) -> None:
    async with opened(DEMO / "repaired" / "desk.html") as pilot:
        await press(pilot, "j", "W", "W")
        await until(pilot, lambda: "Nothing was done" in line(pilot, MessageLine))
        await press(pilot, "W")
        await until(pilot, lambda: "walk" in line(pilot, TopLine))
        await press(pilot, "right_square_bracket", "h", "j", "shift+tab", "enter", "W")
        await until(pilot, lambda: "The walk is written" in line(pilot, MessageLine))
        assert "│ walk" not in line(pilot, TopLine)
        (path,) = work(pilot).casebook.path.parent.glob("*.walk.yaml")
    made = murvel("walk", str(path))
    assert (made.returncode, "5 steps, as expected" in made.stdout) == (0, True), made.stdout
