"""What tests of the application ask of it through Textual's pilot."""

import asyncio
from collections.abc import Callable
from random import Random

from textual import events
from textual.keys import _character_to_key
from textual.pilot import Pilot
from textual.widgets import Static

from murvel.tui.app import MurvelApp
from murvel.tui.opening_screen import OpeningScreen
from murvel.tui.page_screen import PageScreen
from murvel.tui.widgets.here import Here
from murvel.tui.widgets.lines import KeyLine, MessageLine, TopLine
from murvel.tui.widgets.readout import ReadoutView
from murvel.work.work import Work


def page(pilot: Pilot[None]) -> PageScreen:
    """Return the screen of the page that is open."""
    assert isinstance(pilot.app, MurvelApp)
    assert pilot.app.page is not None
    return pilot.app.page


def work(pilot: Pilot[None]) -> Work:
    return page(pilot).work


def line(pilot: Pilot[None], which: type[TopLine] | type[KeyLine] | type[MessageLine], top: bool = False) -> str:
    """Return what a line shows, of the screen that is on top or of the page."""
    screen = pilot.app.screen if top else page(pilot)
    return str(screen.query_one(which).render())


def shown(pilot: Pilot[None]) -> list[str]:
    """Return the lines of the readout that are on the screen."""
    view = page(pilot).query_one(ReadoutView)
    return [view.render_line(y).text.rstrip() for y in range(view.size.height)]


def heard(pilot: Pilot[None]) -> str:
    return work(pilot).session.log[-1].line


def here(pilot: Pilot[None]) -> str:
    console = pilot.app.console
    with console.capture() as capture:
        console.print(page(pilot).query_one(Here).shown)
    return capture.get()


async def press(pilot: Pilot[None], *keys: str) -> None:
    for key in keys:
        await pilot.app._press_keys([key])
        await rest(pilot)


async def rest(pilot: Pilot[None]) -> None:
    """Wait until no key waits and all has happened, or keys wait for a page that opens."""
    assert isinstance(pilot.app, MurvelApp)
    app = pilot.app
    async with asyncio.timeout(10):
        for _ in range(4):  # what was posted may not have come to the queue yet, nor what a dialog opens with
            while not (app.keys_typed.is_empty or isinstance(app.screen, OpeningScreen)):
                await asyncio.sleep(0.001)
            await pilot.pause()


async def until(pilot: Pilot[None], holds: Callable[[], object]) -> None:
    """Wait until something holds; fail where it does not in good time."""
    async with asyncio.timeout(10):
        while not holds():
            await pilot.pause(0.01)


def text_of(widget: Static) -> str:
    return str(widget.render())


LETTERS = "abcdefghijklmnoprstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789][{}()<>/?.,:;-=+*#'\"! "
OTHERS = (
    "enter escape tab shift+tab up down left right pageup pagedown home end backspace delete ctrl+p ctrl+s f1 f2 "
    "shift+up shift+down shift+left shift+right shift+home shift+end"
).split()
KEYS = [(_character_to_key(letter), letter) for letter in LETTERS] + [(key, None) for key in OTHERS] * 2
"""Keys and the characters they type; q and its like, which end the application, are left out."""


async def press_at_random(pilot: Pilot[None], random: Random, count: int) -> None:
    """Press keys as fast as they can be sent; fail where the application ends."""
    for sent in range(count):
        key, character = random.choice(KEYS)
        pilot.app.post_message(events.Key(key, character))
        if random.random() < 0.1:
            await asyncio.sleep(0)
        if sent % 400 == 0:
            await pilot.pause(0.05)
        assert pilot.app._exception is None
    await pilot.pause(0.1)
    assert pilot.app.is_running
