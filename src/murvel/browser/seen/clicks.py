"""What a click on an element without a handler of its own does, tried on copies of the page that reach no network.

A handler on the document may concern any element. So what says that it can be clicked is clicked, each on a copy of its
own that is thrown away: nothing is ordered, deleted or sent by it.
"""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import Iterable, Set
from typing import NamedTuple

from murvel.browser.errors import BrowserError
from murvel.browser.keys import Keyboard
from murvel.browser.listeners import listened
from murvel.browser.seen.copies import cut_off_copy
from murvel.browser.tab import Tab
from murvel.loading.addresses import shown
from murvel.stage.inputs import Activate, Focus, Hover
from murvel.stage.script import ACTING, Event

_MOST, _MOST_ALIKE = 40, 6
"""The elements that are clicked, and how many of those with the same class, attributes and surroundings."""

_MOST_SECONDS, _COPIES = 25.0, 3
"""The seconds that all clicks together may take, and how many copies there are at a time."""

_STEP, _STEPS = 0.05, 10
_CALM = 0.15
"""Seconds without a change after which what a click does is done."""


class Effect(NamedTuple):
    """Something that a click does.

    Attributes:
        kind: what kind of change it is.
        path: the absolute XPath of where it is; empty where it is nowhere on the page.
        words: the text that appears or goes, or what the browser tells.
    """

    kind: str
    path: str
    words: str

    def __str__(self) -> str:
        return _WORDS[self.kind].format(self.words)


_WORDS = {
    "appears": "“{}” appears",
    "goes": "“{}” goes away",
    "text": "the text there is now “{}”",
    "attribute": "the page changes ({})",
    "value": "a field gets the value “{}”",
    "focus": "the focus moves",
    "scroll": "the page scrolls",
    "told": "{}",
    "page": "another page comes",
    "network": "the page asks for {}",
}


class Clicked(NamedTuple):
    """An element that was clicked.

    Attributes:
        path: its absolute XPath.
        effect: what the click does, None if nothing is noticed.
    """

    path: str
    effect: Effect | None


async def clicked(tab: Tab, moving: Iterable[str]) -> list[Clicked]:
    """Click what says that it can be clicked, and return what comes of it; empty where nothing listens for clicks.

    Args:
        tab: the page. Nothing is done to it.
        moving: the absolute XPaths of what changes by itself; a change there is no effect of a click.

    Raises:
        BrowserError: the page cannot be opened again.
    """
    heard = (await listened(tab)).get(Event.ACTIVATE)
    given = f"{json.dumps(ACTING)}, {json.dumps(heard)}, {_MOST_ALIKE}, {_MOST}"
    waiting: list[tuple[str, str]] = (await tab.ask(f"pressable({given})"))[::-1] if heard else []
    if not waiting:
        return []
    async with cut_off_copy(tab) as again:
        plain = await again.ask("plainText()")
        by_any = await _effects(again, plain) if plain else []
    clicks = _Clicks(tab, waiting, {(each.kind, each.path) for each in by_any}, list(moving))
    await asyncio.gather(*(clicks.work() for _ in range(min(_COPIES, len(waiting)))))
    return clicks.found


class _Clicks:
    """Clicks that are under way on several copies.

    Attributes:
        found: what was clicked so far.
    """

    def __init__(self, tab: Tab, waiting: list[tuple[str, str]], by_any: Set[tuple[str, str]], moving: list[str]):
        self.found: list[Clicked] = []
        self._tab = tab
        self._waiting = waiting
        """The paths and texts of what is still to be clicked, the first at the end."""
        self._by_any, self._moving = by_any, moving
        self._end = time.monotonic() + _MOST_SECONDS

    async def work(self) -> None:
        """Click on copies, one after the other, while there is something to be clicked and time is left."""
        while self._goes_on:
            async with cut_off_copy(self._tab) as again:
                while self._goes_on and await self._is_as_before(again):
                    pass

    @property
    def _goes_on(self) -> bool:
        return bool(self._waiting) and time.monotonic() < self._end

    async def _is_as_before(self, again: Tab) -> bool:
        """Click on the next element; return whether the copy is still what it was."""
        path, text = self._waiting.pop()
        number = await again.ask(f"numberAt({json.dumps(path)}, {json.dumps(text)})")
        if not number:
            return True  # the page has not stayed as it arrived
        try:
            effects = await _effects(again, number)
        except BrowserError:
            return False  # a pointer does not reach it, or its click ended the page
        own = next((each for each in effects if self._is_own(each)), None)
        self.found.append(Clicked(path, own))
        return own is None

    def _is_own(self, effect: Effect) -> bool:
        """Whether it is an effect of this click: not of any click, as closing what is open, and not of time."""
        moves = (effect.path == each or effect.path.startswith(f"{each}/") for each in self._moving)
        return (effect.kind, effect.path) not in self._by_any and not any(moves)


async def _effects(again: Tab, number: int) -> list[Effect]:
    """Click at an element of a copy, and return what changes.

    Raises:
        BrowserError: a pointer does not reach it, or the page does not answer.
    """
    keyboard = Keyboard(again)
    await keyboard.give(Focus(number), number)
    await keyboard.give(Hover(number), number)  # what pointing at it does is no effect of a click
    await asyncio.sleep(_STEP)
    again.take_happened()
    again.requested.clear()
    await again.ask("watchClick()")
    await keyboard.give(Activate(number), number)
    changes: list[list[str]] = []
    try:
        for _ in range(_STEPS):
            await asyncio.sleep(_STEP)
            if await again.ask("calm()") >= _CALM:
                break
        changes = await again.ask(f"clickedNow({number})")
    except BrowserError:
        if not await again.is_leaving():
            raise
    happened = again.take_happened()
    effects = [Effect("told", "", words) for words in happened.notes]
    effects += [Effect("page", "", "")] if happened.is_new_page else []
    for address in again.requested:
        where = again.gate.own_address(address.partition("?")[0])
        effects.append(Effect("network", where, shown(where)))
    return [*effects, *(Effect(*each) for each in changes)]
