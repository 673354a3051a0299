"""Tab pressed through a copy of the page, to find what keeps it and what it passes by."""

from __future__ import annotations

import asyncio
import time
from typing import NamedTuple

from murvel.browser.seen.copies import cut_off_copy
from murvel.browser.tab import Tab
from murvel.stage.seen import TAB_STAYS, is_kept

_MOST, _MOST_SECONDS = 500, 12.0
"""How often Tab is pressed in one direction, and how many seconds both may take."""


_MOMENT = 0.01
"""Seconds that scripts have to move the focus again."""


class Tabbed(NamedTuple):
    """Where Tab went.

    Attributes:
        came: the absolute XPaths of the stops it came to; None for one in a frame or a shadow tree.
        kept: the path of the stop that Tab did not leave, None if it left all.
        is_whole: whether Tab and Shift+Tab left the page, or went round.
        is_freed: whether Tab left that stop after Escape.
    """

    came: list[str | None]
    kept: str | None
    is_whole: bool
    is_freed: bool = False


async def tabbed(tab: Tab) -> Tabbed:
    """Press Tab on a copy of a page until it leaves the page, goes round, or stays; then Shift+Tab all the way back.

    Raises:
        BrowserError: the page cannot be opened again, or does not answer.
    """
    end = time.monotonic() + _MOST_SECONDS
    async with cut_off_copy(tab) as again:
        came, last, is_whole = await _pressed(again, "Tab", end)
        others: dict[int, None] = {}
        if is_whole:
            others = came
            came, last, is_whole = await _pressed(again, "Shift+Tab", end)
        every = list(others | came)
        paths: list[str | None] = await again.ask(f"pathsOf({every})") if every else []
        kept, is_freed = None, False
        if last and is_kept(set(last), list(came), len(others)) and not await again.ask(f"mayKeep({last[-1]})"):
            kept = paths[every.index(last[-1])]
            is_freed = await _is_freed(again, "Shift+Tab" if others else "Tab", {*last})
    return Tabbed(paths, kept, is_whole, is_freed)


async def _is_freed(again: Tab, key: str, kept: set[int]) -> bool:
    """Whether a key leaves the stops that kept it, once Escape was pressed."""
    await again.page.keyboard.press("Escape")
    await again.page.keyboard.press(key)
    await asyncio.sleep(_MOMENT)
    return await again.ask("focusedNow()") not in kept


async def _pressed(again: Tab, key: str, end: float) -> tuple[dict[int, None], list[int], bool]:
    """Press a key until the focus leaves the page or goes round.

    Returns:
        The numbers of the stops, those that the focus came to again and again at last, and whether it left or went
        round.
    """
    first = await again.ask("focusedNow()")
    order: dict[int, None] = {first: None} if first else {}
    last: list[int] = []
    for _ in range(_MOST):
        await again.page.keyboard.press(key)
        await asyncio.sleep(_MOMENT)
        number = await again.ask("focusedNow()")
        if again.happened.is_new_page or time.monotonic() > end:
            return order, [], False
        if not number or (len(order) > 1 and number == next(iter(order))):
            return order, [], True
        last = [*last, number] if number in order else []
        if len(last) >= TAB_STAYS:
            return order, last, False
        order[number] = None
    return order, [], False
