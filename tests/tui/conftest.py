"""The application in Textual's pilot, on the demo's welcome page as found."""

from collections.abc import AsyncIterator, Callable
from contextlib import AbstractAsyncContextManager, asynccontextmanager
from pathlib import Path

import pytest
from textual.pilot import Pilot

from murvel.tui.app import MurvelApp
from murvel.work.work import open_work
from tests.support import DEMO

Opened = Callable[..., AbstractAsyncContextManager[Pilot[None]]]


@pytest.fixture
def opened(tmp_path: Path) -> Opened:
    """Open a page in the application; the casebook is the same for all calls in a test."""

    @asynccontextmanager
    async def run(page: Path | str = DEMO / "found", size: tuple[int, int] = (160, 47)) -> AsyncIterator[Pilot[None]]:
        work = open_work(str(page), tmp_path / "book.murvel")
        with work.casebook:
            async with MurvelApp(work).run_test(size=size) as pilot:
                await pilot.pause()
                yield pilot

    return run
