"""Keys in the order in which they were typed: each is given to whoever has the focus once the one before it is done.

Textual gives a key at once to what has the focus at that moment. Where a key opens a dialog, the keys right behind it
would still go to the view below. Here a key waits until all that the last one led to has happened.
"""

from __future__ import annotations

import asyncio
from collections.abc import Awaitable, Callable, Sequence
from typing import Any

from textual.app import App
from textual.events import Key, Paste
from textual.message_pump import MessagePump

_MOST_ROUNDS = 30
"""The most rounds of messages before the next key is given: something may go on by itself."""
_PATIENCE = 5.0
"""The seconds for which one round is waited for."""
_AGAIN = 0.01
"""The seconds between two looks at what is waited for."""


class KeyQueue:
    """The keys, and pasted text, that were typed and not given to anybody yet.

    Args:
        app: the application.
        give: gives one to what has the focus.
        dropped: is called with how many were dropped where a key stops what they waited for.
    """

    def __init__(
        self, app: App[Any], give: Callable[[Key | Paste], Awaitable[None]], dropped: Callable[[int], None]
    ) -> None:
        self._app = app
        self._give = give
        self._dropped = dropped
        self._waiting: list[Key | Paste] = []
        self._giving: asyncio.Task[None] | None = None
        self._known: Sequence[MessagePump] = ()
        """The screen on which the last key was given, if that has settled."""

    @property
    def is_empty(self) -> bool:
        """Whether no key waits, and none is being given."""
        return not self._waiting and (self._giving is None or self._giving.done())

    def put(self, event: Key | Paste) -> None:
        """Take a key; it is given when its turn comes."""
        stops = isinstance(event, Key) and event.key in self._stops()
        if stops and self._waiting:
            count = len(self._waiting)
            self._waiting.clear()
            self._dropped(count)
        self._waiting.append(event)
        if self._giving is None or self._giving.done():
            self._giving = asyncio.create_task(self._give_all())

    async def _give_all(self) -> None:
        while self._waiting:
            await self._settled()
            while self._waiting and not self._is_due(self._waiting[0]):
                await asyncio.sleep(_AGAIN)
                if not self._stops():  # what they waited for is there, and not yet at rest
                    await self._settled()
            if self._waiting:
                await self._give(self._waiting.pop(0))

    def _is_due(self, event: Key | Paste) -> bool:
        """Whether a key goes to the screen as it is: where that lets keys wait, only those that stop it."""
        stops = self._stops()
        return not stops or (isinstance(event, Key) and event.key in stops)

    def _stops(self) -> frozenset[str]:
        """The keys that stop what the screen does while others wait; none where no key waits."""
        screen = self._app.screen_stack[-1] if self._app.screen_stack else None
        stops: frozenset[str] = getattr(screen, "KEYS_THAT_STOP", frozenset())
        return stops

    async def _settled(self) -> None:
        """Wait until all that a key has led to has happened: with who has the focus, and on a screen that is new."""
        known: list[MessagePump] = []
        for _ in range(_MOST_ROUNDS):
            pumps = self._concerned()
            await _round(pumps)
            if pumps == known and pumps == self._concerned() and not any(each.message_queue_size for each in pumps):
                self._known = self._app.screen_stack[-1:]
                return
            known = pumps

    def _concerned(self) -> list[MessagePump]:
        """Those whose messages may change who gets the next key."""
        stack = self._app.screen_stack
        if not stack:
            return [self._app]
        if stack[-1:] != self._known:
            return [self._app, *(each for screen in stack for each in screen.walk_children(with_self=True))]
        focused = stack[-1].focused
        return [self._app, *stack, *(focused.ancestors_with_self if focused is not None else ())]


async def _round(pumps: list[MessagePump]) -> None:
    """Wait until each of some message pumps has taken what it has now, or is closed."""
    left: set[MessagePump] = set()
    is_done = asyncio.Event()

    def taken(pump: MessagePump) -> None:
        left.discard(pump)
        if not left:
            is_done.set()

    for each in pumps:
        if each.call_later(taken, each):
            left.add(each)
    waited = 0.0
    while left and waited < _PATIENCE:
        try:
            async with asyncio.timeout(_AGAIN):
                await is_done.wait()
        except TimeoutError:
            waited += _AGAIN
            left = {each for each in left if each.is_running and each.is_attached}
