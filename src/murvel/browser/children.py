"""What runs for a page outside of its own frame: workers, and frames in processes of their own. They get the gate.

Each is attached before its first script runs. Requests of workers are paused with those of their page. Frames in
processes of their own get the same gate. Messages for them are packed into messages of their page: the driver's own
sessions do not reach them.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from contextlib import suppress
from itertools import count
from typing import Any, Protocol

from playwright.async_api import Error

from murvel.browser.targets import Paused, Send, Told
from murvel.browser.tasks import Tasks

_REQUESTS = {"patterns": [{"urlPattern": "*"}]}
_ATTACHING = {"autoAttach": True, "waitForDebuggerOnStart": True, "flatten": False}
_FETCHES = frozenset({"iframe", "page"})
_HARMLESS = frozenset({"worker", "worklet", "audio_worklet", "paint_worklet", "animation_worklet"})
"""What asks for all that it fetches by way of its page, whose gate sees it."""


class Session(Protocol):
    """A session of the protocol with a page."""

    def on(self, event: str, f: Callable[[dict[str, Any]], Any]) -> None:
        """Call something for each event of a name."""

    async def send(self, method: str, params: dict[str, Any] | None = None) -> Any:
        """Send a command."""


class Children:
    """Gives all that runs for a page outside of its frame the gate of the page.

    Args:
        session: the session with the page.
        paused: decides on a request that waits; called with a sender of commands and the event.
        told: called with what was refused, in words, and its address.
    """

    def __init__(self, session: Session, paused: Paused, told: Told) -> None:
        self._session = session
        self._paused = paused
        self._told = told
        self._numbers = count(1)
        self._tasks = Tasks()

    async def watch(self) -> None:
        """Begin."""
        self._session.on("Target.attachedToTarget", self._on_attached)
        self._session.on("Target.receivedMessageFromTarget", self._on_message)
        await self._session.send("Target.setAutoAttach", _ATTACHING)

    def _on_attached(self, event: dict[str, Any]) -> None:
        self._tasks.begin(self._admit(event["sessionId"], event["targetInfo"]))

    async def _admit(self, session: str, target: dict[str, Any]) -> None:
        send = self._sender(session)
        kind = target["type"]
        if kind in _FETCHES:
            await send("Fetch.enable", _REQUESTS)
            await send("Target.setAutoAttach", _ATTACHING)
        elif kind not in _HARMLESS:
            self._told("start something beside it", target.get("url", ""))
            await self._send("Target.closeTarget", {"targetId": target["targetId"]})
            return
        await send("Runtime.runIfWaitingForDebugger", {})

    def _on_message(self, event: dict[str, Any]) -> None:
        message = json.loads(event["message"])
        method, given = message.get("method"), message.get("params", {})
        if method == "Fetch.requestPaused":
            self._tasks.begin(self._paused(self._sender(event["sessionId"]), given))
        elif method == "Target.attachedToTarget":
            # What a frame in a process of its own starts would be three messages deep: it stays as it is, and waits.
            self._told("start something in a frame of another site", given.get("targetInfo", {}).get("url", ""))

    def _sender(self, session: str) -> Send:
        async def send(method: str, given: dict[str, Any]) -> None:
            message = json.dumps({"id": next(self._numbers), "method": method, "params": given})
            await self._send("Target.sendMessageToTarget", {"sessionId": session, "message": message})

        return send

    async def _send(self, method: str, given: dict[str, Any]) -> None:
        with suppress(Error):  # it may have ended meanwhile
            await self._session.send(method, given)
