"""Keys in one burst do what the same keys do when they are typed slowly; keys wait while a page opens."""

from __future__ import annotations

from pathlib import Path
from random import Random
from typing import Any

import pytest
from textual import events
from textual.keys import _character_to_key
from textual.widgets import Input, TextArea

from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.tui.app import MurvelApp
from murvel.tui.widgets.lines import MessageLine
from murvel.work.opening import Opening
from tests.support import DEMO
from tests.tui.support import KEYS, line, rest, until

Keys = list[tuple[str, str | None]]

PAGE = DEMO / "found" / "plots.html"


def keys_of(text: str) -> Keys:
    """Return keys by their names, letters by themselves, with spaces between."""
    return [(_character_to_key(each), each) if len(each) == 1 else (each, None) for each in text.split()]


BURSTS = {
    "a search and its repeats": "/ f r e e enter n n",
    "letters in help, taken back": f"? p l o {'backspace ' * 14} a b",
    "a form": "j j d A space f i n d i n g tab x y tab z",
    "an action by its name": "ctrl+p h e a backspace backspace e",
    "a jump, and a form that is left": "] h j d o x escape",
    "verdicts": "2 j p p f u",
    "a list, and a defect of it": "3 j j enter d a b c ctrl+s",
    "two defects": "j d W h y ctrl+s j j d o o o ctrl+s 5 j",
}


def typed(app: MurvelApp, keys: Keys) -> None:
    for key, character in keys:
        app.post_message(events.Key(key, character))


def state(app: MurvelApp) -> dict[str, Any]:
    """What a person would see of what keys have done."""
    assert app.page is not None
    session = app.page.work.session
    fields = app.screen.query("Input, TextArea")
    return {
        "heard": [each.line for each in session.log],
        "mode": session.mode,
        "view": app.page.front,
        "screen": type(app.screen).__name__,
        "focus": (type(app.focused).__name__, getattr(app.focused, "id", None)),
        "fields": [
            each.value if isinstance(each, Input) else each.text
            for each in fields
            if isinstance(each, Input | TextArea)
        ],
        "defects": [each.headline for each in app.page.work.casebook.defects()],
    }


async def after(keys: Keys, folder: Path, *, slowly: bool) -> dict[str, Any]:
    with Casebook(folder / f"{slowly}.murvel") as book:
        app = MurvelApp(book, Opening(str(PAGE)), built_in())
        async with app.run_test(size=(100, 40)) as pilot:
            await until(pilot, lambda: app.page is not None and app.page.front)
            if slowly:
                for each in keys:
                    typed(app, [each])
                    await rest(pilot)
            else:
                typed(app, keys)
            await rest(pilot)
            found = state(app)
            app.exit()
    return found


@pytest.mark.parametrize("burst", BURSTS.values(), ids=BURSTS)
async def test_a_burst_is_taken_in_its_order(burst: str, tmp_path: Path) -> None:
    keys = keys_of(burst)
    assert await after(keys, tmp_path, slowly=False) == await after(keys, tmp_path, slowly=True)


def random_keys(seed: int) -> Keys:
    random = Random(seed)
    return [random.choice(KEYS) for _ in range(25)]


@pytest.mark.parametrize(
    "seed", [*range(2), *(pytest.param(seed, marks=pytest.mark.thorough) for seed in range(2, 12))]
)
async def test_any_burst_is_taken_in_its_order(seed: int, tmp_path: Path) -> None:
    keys = random_keys(seed)
    assert await after(keys, tmp_path, slowly=False) == await after(keys, tmp_path, slowly=True)


async def test_keys_wait_while_a_page_opens(tmp_path: Path) -> None:
    with Casebook(tmp_path / "b.murvel") as book:
        app = MurvelApp(book, Opening(str(PAGE)), built_in())
        async with app.run_test(size=(100, 40)) as pilot:
            typed(app, keys_of("j j 2 j p"))
            await until(pilot, lambda: app.page is not None and app.page.front)
            await rest(pilot)
            assert app.page is not None
            assert app.page.front == "survey"
            assert [each.move for each in app.page.work.session.log][-2:] == ["next item", "next item"]
            assert len(book.judgements(app.page.work.page)) == 1
            app.exit()


async def test_a_key_that_stops_drops_those_that_wait(tmp_path: Path) -> None:
    with Casebook(tmp_path / "b.murvel") as book:
        app = MurvelApp(book, Opening(str(PAGE)), built_in())
        async with app.run_test(size=(100, 40)) as pilot:
            await until(pilot, lambda: app.page is not None and app.page.front)
            heard = len(app.page.work.session.log) if app.page is not None else 0
            app.open_page(Opening(str(DEMO / "found" / "rota.html")))
            typed(app, keys_of("j j j"))
            typed(app, keys_of("escape"))
            await rest(pilot)
            assert app.page is not None
            assert len(app.page.work.session.log) == heard
            await until(
                pilot, lambda: "was not opened" in line(pilot, MessageLine) or "dropped" in line(pilot, MessageLine)
            )
            app.exit()
