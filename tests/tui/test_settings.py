"""Keys that a person chooses: read, checked, shown, and in force."""

from pathlib import Path

import pytest

from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.tui.actions import keys_of
from murvel.tui.app import MurvelApp
from murvel.tui.keys import key_named, key_words
from murvel.tui.registry import ALL_ACTIONS
from murvel.tui.settings import Settings, SettingsError, read_keymap
from murvel.tui.widgets.lines import KeyLine
from murvel.work.opening import Opening
from tests.support import DEMO
from tests.tui.support import line, press, until, work


def keymap(tmp_path: Path, text: str) -> dict[str, str]:
    path = tmp_path / "config.toml"
    path.write_text(text)
    return read_keymap(path, ALL_ACTIONS)


@pytest.mark.parametrize(
    ("text", "chosen"),
    [
        ("", {}),
        ("[keys.listen]\nnext = 'ctrl+right'\nword = '='", {"listen.next": "ctrl+right", "listen.word": "equals_sign"}),
        (
            "[keys.anywhere]\nquit = ['ctrl+x', 'F10']\n[keys.survey]\npass = '+'",
            {"anywhere.quit": "ctrl+x,f10", "survey.pass": "plus"},
        ),
        ("[keys.listen]\nnext = 'k'\nprevious = ['up', 'j']", {"listen.next": "k", "listen.previous": "up,j"}),
        ("[keys.listen]\nnext = 'n'\nagain = 'Alt+Shift+F2'", {"listen.next": "n", "listen.again": "alt+shift+f2"}),
    ],
)
def test_keys_are_chosen(tmp_path: Path, text: str, chosen: dict[str, str]) -> None:
    assert keymap(tmp_path, text) == chosen


@pytest.mark.parametrize(
    ("text", "problem"),
    [
        ("[keys.listen]\nnxt = 'n'", "keys.listen.nxt is no action; did you mean 'listen.next'?"),
        ("[keys.lisen]\nnext = 'ü'", "keys.lisen.next is no action; did you mean 'listen.next'?"),
        ("[keys.listen]\nnext = 'pagedwn'", "keys.listen.next: 'pagedwn' is no key; did you mean 'pagedown'?"),
        ("[keys.listen]\nnext = 'hyper+x'", "'hyper+x' is no key"),
        ("[keys.listen]\nnext = 'ctrl+ctrl+x'", "'ctrl+ctrl+x' is no key"),
        ("[keys.listen]\nnext = []", "keys.listen.next has no key"),
        ("[keys.listen]\nnext = 5", "keys.listen.next"),
        ("[keys.listen]\nnext = 'w'", "w is the key of listen.next and of listen.where"),
        ("[keys.survey]\npass = '?'", "? is the key of anywhere.help and of survey.pass"),
        ("[keys.anywhere]\nundo = 'j'", "j is the key of"),
        ("[key.listen]\nnext = 'n'", "key is no key; did you mean 'keys'?"),
        ("keys = 3", "keys: "),
        ("[keys", "is no TOML"),
    ],
)
def test_what_is_wrong_is_named_with_file_and_nearest_spelling(tmp_path: Path, text: str, problem: str) -> None:
    with pytest.raises(SettingsError) as raised:
        keymap(tmp_path, text)
    assert problem in str(raised.value)
    assert "config.toml" in str(raised.value)


def test_every_key_is_written_as_it_can_be_read() -> None:
    for action in ALL_ACTIONS:
        for key in action.keys.split(","):
            shown = key_words(key)
            assert key_named(shown if len(shown) == 1 and not shown.isspace() and shown not in "↑↓←→" else key) == key


async def test_chosen_keys_are_in_force_and_shown(tmp_path: Path) -> None:
    chosen = keymap(tmp_path, "[keys.listen]\nnext = ['ctrl+n', 'n']\nagain = 'j'\n[keys.anywhere]\nlive = '9'")
    with Casebook(tmp_path / "b.murvel") as book:
        app = MurvelApp(book, Opening(str(DEMO / "found" / "index.html")), built_in(), settings=Settings(chosen))
        async with app.run_test(size=(160, 40)) as pilot:
            await until(pilot, lambda: app.page is not None and app.page.front)
            await press(pilot, "n", "ctrl+n")
            assert [each.move for each in work(pilot).session.log[-2:]] == ["next item", "next item"]
            await press(pilot, "j")
            assert work(pilot).session.log[-1].move == "repeat the last jump"
            assert line(pilot, KeyLine).startswith("Ctrl+N next")
            await press(pilot, "4")
            assert app.page is not None
            assert app.page.front == "listen"
            await press(pilot, "9")
            assert app.page.front == "live"
    assert keys_of(next(each for each in ALL_ACTIONS if each.id == "listen.next"), chosen) == ["Ctrl+N", "n"]
