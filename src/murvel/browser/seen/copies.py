"""The same page once more, in a tab of its own: what is done to it there does not reach the page that is tested."""

from __future__ import annotations

import time
from collections.abc import AsyncIterator, Sequence
from contextlib import asynccontextmanager, suppress
from dataclasses import replace
from typing import Any, NamedTuple

from murvel.browser.arriving import arrive
from murvel.browser.errors import BrowserError
from murvel.browser.tab import Tab
from murvel.loading.setup import DEFAULT_WIDTH, Setup
from murvel.page.captured.capture import Capture

_SECONDS = 30.0
"""The seconds of its own time for which a copy is watched: what changes each ten seconds changes three times."""

_PATIENCE = 6.0
"""The seconds that these may really take."""

_MINUTES = 20
"""The minutes that pass on a copy while nobody does anything: many sessions end in that time."""

_PATIENCE_FOR_MINUTES = 4.0
"""The seconds that all of these may really take."""

_MOST_FOR_QUIET = 2.0
"""The seconds that a copy on which keys are pressed has to come to rest; many pages never do."""


class Change(NamedTuple):
    """Something that changes by itself.

    Attributes:
        path: its absolute XPath.
        kind: "text", or "style" for how it looks.
        times: how often it changes.
        span: the seconds from its first change to its last.
        words: its text.
    """

    path: str
    kind: str
    times: int
    span: float
    words: str


class Limit(NamedTuple):
    """Something that happens when nobody does anything for a while.

    Attributes:
        minutes: within how many minutes.
        words: what happens.
        path: the absolute XPath of what appears; empty where that is no element.
    """

    minutes: int
    words: str
    path: str = ""


class ByItself(NamedTuple):
    """What a page does by itself: what changes again and again, and what happens after a while."""

    changes: list[Change]
    limits: list[Limit]


async def taken_wide(tab: Tab) -> Capture:
    """Return a capture of a tab's page as it arrives in a window of the usual width.

    Raises:
        BrowserError: the page cannot be opened again.
    """
    assert tab.setup.browser is not None
    setup = replace(tab.setup, width=DEFAULT_WIDTH, browser=replace(tab.setup.browser, zoom=100))
    async with copy_of(tab, setup) as again:
        return await arrive(again)


async def done_by_itself(tab: Tab) -> ByItself:
    """Return what a page does by itself after it has come to rest: half a minute is watched closely, then minutes.

    Raises:
        BrowserError: the page cannot be opened again, or is too busy.
    """
    async with copy_of(tab, tab.setup) as again:
        await arrive(again)
        await again.ask("watch()")
        await again.pass_time(_SECONDS, _PATIENCE)
        told = await again.ask("watchedNow()")
        pairs = zip(await _paths(again, told), told, strict=True)
        changes = [Change(path, *more) for path, (_, *more) in pairs if path is not None]
        limits = [each async for each in _limits(again)]
    return ByItself(changes, limits)


async def _limits(again: Tab) -> AsyncIterator[Limit]:
    """What happens minute by minute, each once, until the page goes elsewhere or is too busy."""
    known = {text for _, text in await again.ask("notices()")}
    again.take_happened()
    end = time.monotonic() + _PATIENCE_FOR_MINUTES
    for minute in range(1, _MINUTES + 1):
        told: list[tuple[int, str]] | None = None
        with suppress(BrowserError):
            await again.pass_time(60.0, end - time.monotonic())
            told = await again.ask("notices()")  # dialogs of the browser arrive before the answer
        happened = again.take_happened()
        for words in dict.fromkeys(happened.notes):
            yield Limit(minute, words)
        if happened.is_new_page:
            yield Limit(minute, "the page goes elsewhere by itself")
        if told is None or happened.is_new_page:
            return
        notices = [(number, text) for number, text in told if text not in known]
        for (_, text), path in zip(notices, await _paths(again, notices), strict=True):
            known.add(text)
            yield Limit(minute, f"“{text}” appears", path or "")


async def _paths(again: Tab, told: Sequence[Sequence[Any]]) -> list[str | None]:
    """The absolute XPaths of elements; each item of `told` begins with the number of one."""
    found: list[str | None] = await again.ask(f"pathsOf({[number for number, *_ in told]})") if told else []
    return found


@asynccontextmanager
async def copy_of(tab: Tab, setup: Setup) -> AsyncIterator[Tab]:
    """Open a tab's page once more, for as long as it is worked with; it has loaded, and may not have come to rest.

    Raises:
        BrowserError: the page cannot be opened again.
    """
    again = Tab(tab.browser, setup, tab.gate.again())
    try:
        await again.open()
        yield again
    finally:
        await again.close()


@asynccontextmanager
async def cut_off_copy(tab: Tab) -> AsyncIterator[Tab]:
    """Open a tab's page once more, and cut it off from the network as soon as it rests, or a short while has passed.

    Raises:
        BrowserError: the page cannot be opened again.
    """
    async with copy_of(tab, tab.setup) as again:
        await arrive(again, _MOST_FOR_QUIET)
        await again.cut_off()
        yield again
