"""What tests of the application ask of it through Textual's pilot."""

import asyncio
from collections.abc import Callable

from textual.pilot import Pilot
from textual.widgets import Static

from murvel.tui.app import MurvelApp
from murvel.tui.widgets.here import Here
from murvel.tui.widgets.readout import ReadoutView


def app(pilot: Pilot[None]) -> MurvelApp:
    assert isinstance(pilot.app, MurvelApp)
    return pilot.app


def shown(pilot: Pilot[None]) -> list[str]:
    """Return the lines of the readout that are on the screen."""
    view = pilot.app.query_one(ReadoutView)
    return [view.render_line(y).text.rstrip() for y in range(view.size.height)]


def heard(pilot: Pilot[None]) -> str:
    return app(pilot).work.session.log[-1].utterance.text


def here(pilot: Pilot[None]) -> str:
    console = pilot.app.console
    with console.capture() as capture:
        console.print(pilot.app.query_one(Here).query_one(Static).content)
    return capture.get()


async def press(pilot: Pilot[None], *keys: str) -> None:
    for key in keys:
        await pilot.press(key)
        await pilot.pause()


async def until(pilot: Pilot[None], holds: Callable[[], object]) -> None:
    """Wait until something holds; fail where it does not in good time."""
    async with asyncio.timeout(10):
        while not holds():
            await pilot.pause(0.01)


def text_of(widget: Static) -> str:
    return str(widget.render())
