"""What a page opens beside itself: new tabs, pages shown in advance, service workers. None of it runs.

The browser attaches us to each of them before its first byte is asked for (DevTools protocol, Target.setAutoAttach with
waitForDebuggerOnStart). The first page of a room is the one that we asked for, and goes on; all else is closed. What
belongs to one page alone, as its workers, is for `murvel.browser.children`.
"""

from __future__ import annotations

import asyncio
from collections.abc import Callable
from contextlib import suppress
from typing import Any

from playwright.async_api import CDPSession, Error

Told = Callable[[str, str], None]
"""Called for each thing that was closed: with what it is, in words, and its address ("" if the browser names none)."""

_WORDS = {
    "page": "open a new tab",
    "tab": "open a new tab",
    "service_worker": "start a service worker",
    "webview": "show another page within it",
    "fencedframe": "show a fenced frame",
}
_WATCHED = [{"type": each, "exclude": True} for each in ("browser", "browser_ui", "tab")] + [{}]
"""All targets but those of the browser's own interface, and tabs, which hold the pages that are watched."""

_ATTACHED = "Target.attachedToTarget"


class Targets:
    """Closes what pages of one browser open beside themselves.

    Args:
        session: a session of the protocol with the browser itself.
    """

    def __init__(self, session: CDPSession) -> None:
        self._session = session
        self._rooms: set[str] = set()
        """The rooms that have their page."""
        self._told: dict[str, Told] = {}
        self._is_watching = False
        self._beside: set[asyncio.Task[None]] = set()

    async def watch(self) -> None:
        """Begin; what is there already goes on."""
        self._session.on(_ATTACHED, self._on_attached)
        given = {"autoAttach": True, "waitForDebuggerOnStart": True, "flatten": True, "filter": _WATCHED}
        await self._session.send("Target.setAutoAttach", given)
        self._is_watching = True

    def tell(self, room: str, told: Told) -> None:
        """Let somebody know what the pages of a room wanted to open.

        Args:
            room: the browser context, as the protocol names it.
            told: is told of it.
        """
        self._told[room] = told

    def forget(self, room: str) -> None:
        """Tell nobody any more. The room is closed; a page that it opens while it closes is still none of ours."""
        self._told.pop(room, None)

    def _on_attached(self, event: dict[str, Any]) -> None:
        target = event["targetInfo"]
        kind, room = target["type"], target.get("browserContextId", "")
        is_first_page = kind == "page" and room not in self._rooms
        if is_first_page:
            self._rooms.add(room)
        if not self._is_watching:
            return  # it was there before us
        if is_first_page:
            # A session that ends lets its target go on.
            self._begin("Target.detachFromTarget", {"sessionId": event["sessionId"]})
            return
        self._begin("Target.closeTarget", {"targetId": target["targetId"]})
        told = self._told.get(room)
        if told is not None:
            told(_WORDS.get(kind, "start something beside it"), target.get("url", ""))

    def _begin(self, method: str, given: dict[str, Any]) -> None:
        async def send() -> None:
            with suppress(Error):  # it may have ended meanwhile
                await self._session.send(method, given)

        task = asyncio.ensure_future(send())
        self._beside.add(task)
        task.add_done_callback(self._beside.discard)
