"""What a page opens beside itself: new tabs, pages shown in advance, shared and service workers. Each is closed.

The browser attaches us to each of them as it starts (DevTools protocol, Target.setAutoAttach). The first page of a room
is the one that we asked for, and goes on; all else is closed. Closing takes a moment, in which it may run. So the
browser as a whole pauses each request, too, and only those go on that the gate of a page has let through. The scripts
of workers that workers start pause nowhere else; they meet the gate of their page here.
"""

from __future__ import annotations

from collections.abc import Awaitable, Callable, Coroutine
from contextlib import suppress
from typing import Any, NamedTuple

from playwright.async_api import CDPSession, Error

from murvel.browser.tasks import Tasks

Send = Callable[[str, dict[str, Any]], Awaitable[Any]]
"""Sends a command of the protocol, with what it is given."""

Paused = Callable[[Send, dict[str, Any]], Coroutine[Any, Any, None]]
"""Decides on a request that waits: called with how to answer it and the event (Fetch.requestPaused)."""

Told = Callable[[str, str], None]
"""Called for each thing that was closed: with what it is, in words, and its address ("" if the browser names none)."""

_WORDS = {
    "page": "open a new tab",
    "tab": "open a new tab",
    "shared_worker": "start a shared worker",
    "service_worker": "start a service worker",
    "webview": "show another page within it",
    "fencedframe": "show a fenced frame",
}
_WATCHED = [{"type": each, "exclude": True} for each in ("browser", "browser_ui", "tab")] + [{}]
"""All targets but those of the browser's own interface, and tabs, which hold the pages that are watched."""

_OF_NETWORKS = frozenset({"http", "https", "ws", "wss", "ftp", "file"})
"""Schemes whose requests leave the browser; what it holds itself, as blobs, goes on."""

_ATTACHED = "Target.attachedToTarget"


class _Keeper(NamedTuple):
    """Who looks after a room: the gate of its page, and what is called when it wants to open something."""

    paused: Paused
    told: Told


class Targets:
    """Closes what pages of one browser open beside themselves.

    Args:
        session: a session of the protocol with the browser itself.
    """

    def __init__(self, session: CDPSession) -> None:
        self._session = session
        self._rooms: set[str] = set()
        """The rooms that have their page."""
        self._keepers: dict[str, _Keeper] = {}
        self._admitted: set[str] = set()
        """The requests that a gate has let through, as the protocol numbers them; a redirect keeps its number."""
        self._is_watching = False
        self._tasks = Tasks()

    async def watch(self) -> None:
        """Begin; what is there already goes on."""
        self._session.on(_ATTACHED, self._on_attached)
        given = {"autoAttach": True, "waitForDebuggerOnStart": True, "flatten": True, "filter": _WATCHED}
        await self._session.send("Target.setAutoAttach", given)
        self._session.on("Fetch.requestPaused", self._on_request)
        await self._session.send("Fetch.enable", {"patterns": [{"urlPattern": "*"}]})
        self._is_watching = True

    def admit(self, request: str) -> None:
        """Let a request go on that the gate of its page has let through; the page's own session pauses it first.

        Args:
            request: its number (networkId of Fetch.requestPaused).
        """
        self._admitted.add(request)

    def keep(self, room: str, paused: Paused, told: Told) -> None:
        """Look after a room.

        Args:
            room: the browser context, as the protocol names it.
            paused: the gate of its page.
            told: called with what its page wanted to open.
        """
        self._keepers[room] = _Keeper(paused, told)

    def forget(self, room: str) -> None:
        """Look after a room no more. It is closed; a page that it opens while it closes is still none of ours."""
        self._keepers.pop(room, None)
        if not self._keepers:
            self._admitted.clear()

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
            self._tasks.begin(self._send("Target.detachFromTarget", {"sessionId": event["sessionId"]}))
            return
        self._tasks.begin(self._send("Target.closeTarget", {"targetId": target["targetId"]}))
        keeper = self._keepers.get(room)
        if keeper is not None:
            keeper.told(_WORDS.get(kind, "start something beside it"), target.get("url", ""))

    def _on_request(self, event: dict[str, Any]) -> None:
        asks_a_network = event["request"]["url"].partition(":")[0] in _OF_NETWORKS
        if asks_a_network and event.get("networkId") not in self._admitted:
            self._tasks.begin(self._judge(event))
        else:
            self._tasks.begin(self._send("Fetch.continueRequest", {"requestId": event["requestId"]}))

    async def _judge(self, event: dict[str, Any]) -> None:
        """Take a request that no page's session has paused to the gate of its page, if it has one."""
        target: dict[str, Any] = {}
        with suppress(Error):  # most of what has no gate has no target either
            told = await self._session.send("Target.getTargetInfo", {"targetId": event.get("frameId", "")})
            target = told["targetInfo"]
        keeper = self._keepers.get(target.get("browserContextId", "")) if target.get("type") == "worker" else None
        if keeper is not None:
            await keeper.paused(self._session.send, event)
        else:
            await self._send("Fetch.failRequest", {"requestId": event["requestId"], "errorReason": "AccessDenied"})

    async def _send(self, method: str, given: dict[str, Any]) -> None:
        with suppress(Error):  # it may have ended meanwhile
            await self._session.send(method, given)
