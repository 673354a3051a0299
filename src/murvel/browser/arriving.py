"""Arriving at a page, which may go on to another before it has come to rest.

Pages do that to sign somebody in, or to choose a language.
"""

from __future__ import annotations

import asyncio
import time
from urllib.parse import urlsplit

from murvel.browser.errors import BrowserError
from murvel.browser.quiet import MOST, until_quiet
from murvel.browser.tab import Tab
from murvel.browser.taking import take, told_problems
from murvel.loading.addresses import shown
from murvel.loading.problems import ProblemKind
from murvel.page.captured.capture import Capture

MOST_MOVES = 10
"""How often a page may go on to another, or load itself anew, before it is given up."""

_STEP = 0.05
_STEPS = 40


async def arrive(tab: Tab, most: float = MOST) -> Capture:
    """Wait until a tab has come to rest, wherever its page goes meanwhile, and return a capture of what is there.

    Args:
        tab: the tab.
        most: the seconds that each page in it has to come to rest.

    Raises:
        BrowserError: the page does not answer, or goes on without end.
    """
    first, began = max(len(tab.arrivals) - 1, 0), time.monotonic()
    while True:
        known = len(tab.arrivals)
        try:
            await until_quiet(tab, most)
            capture = await take(tab, whole=False)
        except BrowserError:
            if not await _has_moved_on(tab, known):
                raise
        else:
            if len(tab.arrivals) == known:
                break
        if len(tab.arrivals) - first > MOST_MOVES:
            raise _endless(tab, tab.arrivals[first:], time.monotonic() - began)
    tab.happened.is_new_page = False
    _tell_moves(tab, capture, tab.arrivals[first:])
    capture.problems = told_problems(tab)
    return capture


async def _has_moved_on(tab: Tab, known: int) -> bool:
    """Whether the page did not answer because another takes its place."""
    for _ in range(_STEPS):
        if tab.happened.is_gone:
            return False
        if len(tab.arrivals) > known:
            return True
        await asyncio.sleep(_STEP)
    return False


def _endless(tab: Tab, addresses: list[str], seconds: float) -> BrowserError:
    times = f"{len(addresses) - 1} times in {max(1, round(seconds))} seconds"
    own = [shown(tab.gate.own_address(each)) for each in addresses]
    if len(set(own)) == 1:
        return BrowserError(
            f"{own[0]} loads itself again and again, {times}", "save it as a file and open that without --browser."
        )
    return BrowserError(
        f"{own[0]} goes on to other addresses without end, {times}, at last to {own[-1]}",
        "open the address that you want to hear.",
    )


def _tell_moves(tab: Tab, capture: Capture, addresses: list[str]) -> None:
    """Note where the page that was arrived at came from, if that is not what was asked for."""
    asked = tab.gate.own_address(tab.gate.address) if tab.is_first else tab.gate.own_address(addresses[0])
    tab.is_first = False
    if _plain(asked) == _plain(capture.address):
        return
    by_way = [shown(tab.gate.own_address(each)) for each in addresses[:-1] if _plain(each) != _plain(tab.gate.address)]
    through = f" by way of {', '.join(by_way)}" if by_way else ""
    text = f"{shown(asked)} led to {shown(capture.address)}{through}; that is the page that is heard."
    tab.note(ProblemKind.NOTE, text)


def _plain(address: str) -> str:
    """An address without its fragment, for comparing."""
    parts = urlsplit(address)
    return parts._replace(fragment="", path=parts.path or "/").geturl()
