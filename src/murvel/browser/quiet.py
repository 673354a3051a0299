"""Waiting until a page has come to rest: nothing is asked for and nothing changes for a moment."""

from __future__ import annotations

import asyncio
import json
import time

from murvel.browser.errors import BrowserError
from murvel.browser.tab import Tab
from murvel.loading.problems import ProblemKind
from murvel.text import visible

CALM = 0.4
"""Seconds without a change after which a page is at rest."""

_CALM_WHILE_BUSY = 2.0
"""The same for a page that still waits for a response, as pages that poll always do."""

MOST = 10.0
"""Seconds that a page has to come to rest."""

_MOST_FOR_WANTED = 30.0
_STEP = 0.05
_TEXT = "text="


async def until_quiet(tab: Tab, most: float = MOST) -> None:
    """Wait until the page has come to rest, and for what the person wants to wait for; what fails is a problem.

    Args:
        tab: the page.
        most: the seconds that it has to come to rest.
    """
    assert tab.setup.browser is not None
    end = time.monotonic() + most
    while time.monotonic() < end:
        # The page answers when its scripts are done with what they are at; requests are told by the browser.
        calm = min(await tab.ask("calm()") or 0.0, time.monotonic() - tab.last_change)
        if calm >= (_CALM_WHILE_BUSY if tab.is_busy else CALM):
            break
        await asyncio.sleep(_STEP)
    else:
        text = f"The page did not come to rest in {most:g} seconds; what is there then is judged."
        tab.note(ProblemKind.BROWSER, text)
    if tab.setup.browser.wait:
        await _until_wanted(tab, tab.setup.browser.wait)


async def _until_wanted(tab: Tab, wanted: str) -> None:
    seconds = _seconds(wanted)
    if seconds is not None:
        await asyncio.sleep(seconds)
        return
    if wanted.startswith(_TEXT):
        question = f"hasText({json.dumps(wanted.removeprefix(_TEXT))})"
    else:
        question = f"matching({json.dumps(wanted)})"
    end = time.monotonic() + _MOST_FOR_WANTED
    while time.monotonic() < end:
        answer = await tab.ask(question)
        if answer is None:
            raise BrowserError(
                f"“{visible(wanted)}” is no selector", 'write a text as "text=..." and seconds as a number.'
            )
        if answer:
            return
        await asyncio.sleep(_STEP)
    text = f"“{visible(wanted)}” did not come in {_MOST_FOR_WANTED:g} seconds; what is there then is judged."
    tab.note(ProblemKind.BROWSER, text)


def _seconds(wanted: str) -> float | None:
    try:
        return min(max(float(wanted.removesuffix("s")), 0.0), 600.0)
    except ValueError:
        return None
