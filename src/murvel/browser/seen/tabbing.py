"""Tab pressed through a copy of the page, to find what keeps it and what it passes by."""

from __future__ import annotations

import asyncio
import time
from typing import NamedTuple

from murvel.browser.seen.copies import cut_off_copy
from murvel.browser.tab import Tab
from murvel.stage.seen import TAB_STAYS

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
    """

    came: list[str | None]
    kept: str | None
    is_whole: bool


async def tabbed(tab: Tab) -> Tabbed:
    """Press Tab on a copy of a page until it leaves the page, goes round, or stays; then Shift+Tab all the way back.

    Raises:
        BrowserError: the page cannot be opened again, or does not answer.
    """
    end = time.monotonic() + _MOST_SECONDS
    async with cut_off_copy(tab) as again:
        came, keeps, is_whole = await _pressed(again, "Tab", end)
        if is_whole:
            back, keeps, is_whole = await _pressed(again, "Shift+Tab", end)
            came |= back
        may_keep = bool(keeps) and await again.ask(f"mayKeep({keeps})")
        paths: list[str | None] = await again.ask(f"pathsOf({list(came)})") if came else []
        kept = paths[list(came).index(keeps)] if keeps and not may_keep else None
    return Tabbed(paths, kept, is_whole)


async def _pressed(again: Tab, key: str, end: float) -> tuple[dict[int, None], int, bool]:
    """Press a key until the focus leaves the page or goes round.

    Returns:
        The numbers of the stops, that of the one that kept the focus, or 0, and whether it left or went round.
    """
    first = await again.ask("focusedNow()")
    order: dict[int, None] = {first: None} if first else {}
    stays = 0
    for _ in range(_MOST):
        await again.page.keyboard.press(key)
        await asyncio.sleep(_MOMENT)
        number = await again.ask("focusedNow()")
        if again.happened.is_new_page or time.monotonic() > end:
            return order, 0, False
        if not number or (len(order) > 1 and number == next(iter(order))):
            return order, 0, True
        stays = stays + 1 if number in order else 0
        if stays >= TAB_STAYS:
            return order, number, False
        order[number] = None
    return order, 0, False
