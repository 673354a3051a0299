"""The application in Textual's pilot, on the demo's welcome page as found."""

from collections.abc import AsyncIterator, Callable
from contextlib import AbstractAsyncContextManager, asynccontextmanager
from pathlib import Path

import pytest
from textual.pilot import Pilot

from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.tui.app import MurvelApp
from murvel.tui.remembered import read_remembered
from murvel.tui.settings import Settings
from murvel.work.opening import Opening
from tests.support import DEMO
from tests.tui.support import until

Opened = Callable[..., AbstractAsyncContextManager[Pilot[None]]]


@pytest.fixture
def opened(tmp_path: Path) -> Opened:
    """Open a page in the application; the casebook is the same for all calls in a test."""

    @asynccontextmanager
    async def run(
        page: Path | str = DEMO / "found" / "index.html", size: tuple[int, int] = (160, 47)
    ) -> AsyncIterator[Pilot[None]]:
        settings = Settings(remembered=read_remembered(tmp_path / "state" / "remembered.json"))
        with Casebook(tmp_path / "book.murvel") as book:
            app = MurvelApp(book, Opening(str(page)), built_in(), settings=settings)
            async with app.run_test(size=size) as pilot:
                await until(pilot, lambda: app.page is not None and app.page.front)
                await pilot.pause()
                yield pilot
                app.exit()

    return run
