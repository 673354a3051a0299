"""The thread that a browser lives in: its messages arrive there, whatever the rest of the program does.

Playwright's objects belong to one event loop. Everybody else hands work to it and waits, for as long as they have
patience.
"""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Coroutine
from concurrent.futures import Future
from concurrent.futures import TimeoutError as NoAnswer
from typing import Any, TypeVar

from murvel.browser.errors import BrowserError

_Result = TypeVar("_Result")

PATIENCE = 60.0
"""Seconds to wait for an answer by default."""


class BrowserThread:
    """An event loop in a thread of its own."""

    def __init__(self) -> None:
        self._loop = asyncio.new_event_loop()
        self._thread = threading.Thread(target=self._loop.run_forever, name="browser", daemon=True)
        self._thread.start()

    def begin(self, work: Coroutine[Any, Any, _Result]) -> Future[_Result]:
        """Let some work begin in the loop, and return what will hold its result."""
        return asyncio.run_coroutine_threadsafe(work, self._loop)

    def run(self, work: Coroutine[Any, Any, _Result], patience: float = PATIENCE) -> _Result:
        """Do some work in the loop, and return what came of it.

        Raises:
            BrowserError: no answer came in time; the work was given up.
        """
        asked = self.begin(work)
        try:
            return asked.result(patience)
        except NoAnswer as error:
            asked.cancel()
            raise BrowserError(
                f"The browser gave no answer for {patience:g} seconds",
                "the page may be busy; try again, or open it again.",
            ) from error

    def stop(self) -> None:
        """End the loop; what it still does is given up."""
        self._loop.call_soon_threadsafe(self._loop.stop)
        self._thread.join(timeout=5)
