"""The same page once more, in a tab of its own: what is done to it there does not reach the page that is tested."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import replace
from typing import NamedTuple

from murvel.browser.quiet import until_quiet
from murvel.browser.tab import Tab
from murvel.browser.taking import take
from murvel.page.captured.capture import Capture
from murvel.page.setup import DEFAULT_WIDTH, Setup

_SECONDS = 30.0
"""The seconds of its own time for which a copy is watched: what changes each ten seconds changes three times."""

_PATIENCE = 6.0
"""The seconds that these may really take."""


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


async def taken_wide(tab: Tab) -> Capture:
    """Return a capture of a tab's page as it arrives in a window of the usual width.

    Raises:
        BrowserError: the page cannot be opened again.
    """
    assert tab.setup.browser is not None
    setup = replace(tab.setup, width=DEFAULT_WIDTH, browser=replace(tab.setup.browser, zoom=100))
    async with _copy(tab, setup) as again:
        return await take(again, whole=False)


async def changes_of_itself(tab: Tab) -> list[Change]:
    """Return what changes by itself in the first half minute after a page has come to rest.

    Raises:
        BrowserError: the page cannot be opened again, or is too busy.
    """
    async with _copy(tab, tab.setup) as again:
        await take(again, whole=False)  # from then on it is known what there is
        await again.ask("watch()")
        await again.pass_time(_SECONDS, _PATIENCE)
        told = await again.ask("watchedNow()")
        paths = await again.ask(f"pathsOf({[number for number, *_ in told]})")
    return [Change(path, *more) for path, (_, *more) in zip(paths, told, strict=True) if path is not None]


@asynccontextmanager
async def _copy(tab: Tab, setup: Setup) -> AsyncIterator[Tab]:
    again = Tab(tab.browser, setup, tab.gate.again())
    try:
        await again.open()
        await until_quiet(again)
        yield again
    finally:
        await again.close()
