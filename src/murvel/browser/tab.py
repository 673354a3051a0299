"""One page in a browser: it is opened, watched from inside, and asked.

Scripts of ours (`recorder.js`, `pointing.js`) run in a world of their own, from before the first script of the page.
This module asks them, and keeps what the browser itself tells: requests that failed, errors of scripts, dialogs, new
tabs, navigation, a renderer that dies.
"""

from __future__ import annotations

import asyncio
import base64
import json
import time
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from playwright.async_api import CDPSession, Dialog, Error, Page

from murvel.browser.answering import ANSWER_SECONDS, gone, one_line, reason_of, unanswered
from murvel.browser.children import Children
from murvel.browser.cookies import cookies_for
from murvel.browser.door import Door
from murvel.browser.errors import BrowserError
from murvel.browser.frames import Frames
from murvel.browser.gate import Gate, RefusedError, Request
from murvel.browser.launch import Chromium, Room
from murvel.browser.refusals import Refusals
from murvel.browser.targets import Send
from murvel.browser.tasks import Tasks
from murvel.browser.worlds import NAME, World, Worlds
from murvel.loading.addresses import scheme_of, shown
from murvel.loading.problems import Problem, ProblemKind
from murvel.loading.setup import Setup

_NEWS = "murvelNews"
_FILES = (
    "recorder.js", "closed.js", "pointing.js", "scrolling.js", "measuring.js", "marks.js", "moving.js", "clicking.js",
)  # fmt: skip
_SCRIPTS = "\n".join(Path(__file__).with_name(name).read_text(encoding="utf-8") for name in _FILES)
_MOST_PROBLEMS = 50
_STEPS, _STEP = 50, 0.02
_FOR_BROWSERS = frozenset({"http", "https", "about", "blob", "data", "javascript", "file", "chrome-error", ""})
_MOST_TASKS = 10_000
"""The most tasks of a page that may run at one moment of its own time."""

WHOLE_PAGE_SECONDS = 60.0
"""Seconds that a question about the whole page may take: the page may be large."""

_OF_WHOLE_PAGES = ("snapshot(", "looks(", "boxes(", "texts(", "edges(", "targets(", "near(", "charts(", "icons(", "cut")

LOAD_SECONDS = 30.0
"""Seconds that a page may take to load; after that, it is taken as it is."""


@dataclass(slots=True)
class Happened:
    """What the browser told beside changes of the page, since it was last asked.

    Attributes:
        notes: what a person should know, in words: dialogs, new tabs, downloads.
        is_new_page: whether another page was loaded in place of the one before.
        is_gone: whether the page's process has died, or the tab was closed.
    """

    notes: list[str] = field(default_factory=list)
    is_new_page: bool = False
    is_gone: bool = False


class Tab:
    """A page in the browser. Everything but `close` runs in the browser's thread.

    Attributes:
        gate: what the page may ask for.
        worlds: where our scripts run.
        frames: the page and its frames of other origins, asked as one.
        happened: what the browser told beside changes.
        requested: the last addresses that the page asked for.
        arrivals: the addresses of the documents that came, in order, each by HTTP's redirects at last.
        is_first: whether nobody has arrived at a page yet.
        last_change: when the page last changed or asked for something, by `time.monotonic`.
        told: called in the browser's thread when something changed or happened; None if nobody asks.
    """

    def __init__(self, browser: Chromium, setup: Setup, gate: Gate) -> None:
        assert setup.browser is not None
        self.browser = browser
        self.setup = setup
        self.gate = gate
        self._problems: dict[Problem, None] = {}
        self._refusals = Refusals()
        self.happened = Happened()
        self.last_change = time.monotonic()
        self.told: Callable[[], None] | None = None
        self._room: Room | None = None
        self._room_number = ""
        self._has_stopped = asyncio.Event()
        self._door = Door(None if gate.is_offline else gate.reach, self._refused)
        self._page: Page | None = None
        self._session: CDPSession | None = None
        self._frame = ""
        self.worlds = Worlds()
        self.frames = Frames(self._ask, self.send, self.worlds)
        self._requests: dict[str, str] = {}
        """What the page waits for: addresses by the browser's numbers of the requests."""
        self.requested: list[str] = []
        self.arrivals: list[str] = []
        self.is_first = True
        self._page_refused = ""
        self._tasks = Tasks()
        self._asked: set[asyncio.Future[dict[str, Any]]] = set()
        """The answers that are waited for."""

    @property
    def frame(self) -> str:
        """The page's own frame, as the protocol names it."""
        return self._frame

    @property
    def page(self) -> Page:
        """Playwright's page."""
        assert self._page is not None
        return self._page

    @property
    def problems(self) -> list[Problem]:
        """What went wrong so far, and what was refused."""
        return [*self._problems, *(Problem(ProblemKind.NOT_READ, text) for text in self._refusals.sentences())]

    def note(self, kind: ProblemKind, text: str) -> None:
        """Add to what went wrong, up to a limit.

        Args:
            kind: what it is about.
            text: a sentence; its full stop may be missing.
        """
        if len(self._problems) < _MOST_PROBLEMS:
            self._problems[Problem(kind, text if text.endswith(".") else f"{text}.")] = None

    @property
    def is_busy(self) -> bool:
        """Whether the page waits for something that it asked for."""
        return bool(self._requests)

    async def open(self) -> None:
        """Make the tab and load the page.

        Raises:
            BrowserError: the page cannot be loaded.
        """
        assert self.setup.browser is not None
        try:
            await self._door.open()
            self._room = await self.browser.room(self.setup.browser, self.setup.width, self._door)
            context = self._room.context
            await context.add_cookies(cookies_for(self.setup))  # type: ignore[arg-type]
            self._page = context.pages[0] if context.pages else await context.new_page()
            self._session = await context.new_cdp_session(self._page)
            await self._prepare()
            await self._load()
        except Error as error:
            raise self._unopened(error) from error

    def _unopened(self, error: Error) -> BrowserError:
        """Say why the page could not be opened, by what was seen."""
        address = shown(self.gate.own_address(self.gate.address))
        if self.happened.is_gone:
            return BrowserError(
                f"The browser's process for {address} died while the page loaded", "try a smaller part of the page."
            )
        if self._page_refused:
            return BrowserError(f"{address} was not opened: {self._page_refused}", "open the address it leads to.")
        reason = self._door.failure or reason_of(error)
        return BrowserError(f"{address} cannot be opened in the browser ({reason})", "check the address.")

    async def _prepare(self) -> None:
        page, session = self.page, self._session
        assert session is not None
        page.on("dialog", self._on_dialog)
        page.on("crash", lambda _: self._gone("the page's process has died"))
        page.on("close", lambda _: self._gone("the page closed itself"))
        page.on("console", lambda message: self._on_console(message.type, message.text))
        page.on("pageerror", lambda error: self.note(ProblemKind.ERRORS, f"A script failed: {one_line(str(error))}"))
        page.on(
            "download", lambda download: self._tell(f"a download was refused: {one_line(download.suggested_filename)}")
        )
        session.on("Runtime.executionContextCreated", self._on_world)
        session.on("Runtime.executionContextDestroyed", self._on_world_gone)
        session.on("Runtime.executionContextsCleared", lambda _: self.worlds.clear())
        session.on("Runtime.bindingCalled", lambda _: self._changed())
        session.on("Fetch.requestPaused", lambda event: self._tasks.begin(self._on_request(session.send, event)))
        session.on("Network.requestWillBeSent", self._on_asked)
        session.on("Network.loadingFinished", self._on_finished)
        session.on("Network.loadingFailed", self._on_failed)
        session.on("Network.responseReceived", self._on_response)
        session.on("Page.loadEventFired", lambda _: self._has_stopped.set())
        session.on("Page.frameStoppedLoading", self._on_stopped)
        session.on("Page.frameNavigated", self._on_navigated)
        session.on("Page.windowOpen", self._on_window)
        session.on("Page.frameRequestedNavigation", self._on_wanted)
        await session.send("Page.enable")
        self._frame = (await session.send("Page.getFrameTree"))["frameTree"]["frame"]["id"]
        self.worlds.begin(self._frame)
        assert self._room is not None
        target = (await session.send("Target.getTargetInfo"))["targetInfo"]
        self._room_number = target.get("browserContextId", "")
        self._room.targets.keep(self._room_number, self._on_request, self._on_opened)
        for name in ("Runtime", "Network", "DOM"):
            await session.send(f"{name}.enable")
        if self.gate.site is not None and self.gate.site.note():
            self.note(ProblemKind.NOTE, self.gate.site.note())
        await session.send("Fetch.enable", {"patterns": [{"urlPattern": "*"}]})
        await Children(session, self._on_request, self._on_opened).watch()
        await session.send("Runtime.addBinding", {"name": _NEWS, "executionContextName": NAME})
        await session.send(
            "Page.addScriptToEvaluateOnNewDocument", {"source": _SCRIPTS, "worldName": NAME, "runImmediately": True}
        )

    async def _load(self) -> None:
        """Go to the page and wait until it has loaded, or stopped: a page that goes elsewhere in vain never loads."""
        self._has_stopped.clear()
        try:
            async with asyncio.timeout(LOAD_SECONDS):
                await self.page.goto(self.gate.address, wait_until="commit", timeout=0)
                await self._has_stopped.wait()
        except TimeoutError:
            words = f"The page had not loaded after {LOAD_SECONDS:g} seconds; what was there then is judged."
            self.note(ProblemKind.BROWSER, words)
        except Error as error:
            if "interrupted by another navigation" in error.message:
                return  # whoever arrives waits for that one
            if "ERR_ABORTED" in error.message and self.happened.notes:
                raise BrowserError(f"There is no page: {self.happened.notes[-1]}.") from error
            raise
        self.last_change = time.monotonic()

    # What the browser tells

    def _changed(self) -> None:
        self.last_change = time.monotonic()
        if self.told is not None:
            self.told()

    def _tell(self, words: str) -> None:
        if len(self.happened.notes) < _MOST_PROBLEMS:
            self.happened.notes.append(words)
        self._changed()

    def _gone(self, words: str) -> None:
        self.happened.is_gone = True
        for each in self._asked:
            each.cancel()
        self._tell(words)

    def _refused(self, address: str, reason: str) -> None:
        self._refusals.add(self.gate.own_address(address), reason)
        self.last_change = time.monotonic()

    def _on_opened(self, what: str, address: str) -> None:
        """Tell that the page wants something that runs beside it, and that it did not get it."""
        if what == "open a new tab" and not address:
            return  # `_on_window` knows where it leads
        where = f" ({shown(self.gate.own_address(address))})" if address else ""
        self._tell(f"the page wants to {what}{where}; that was refused")

    def _on_world(self, event: dict[str, Any]) -> None:
        if self.worlds.note_created(event):
            self._changed()

    def _on_world_gone(self, event: dict[str, Any]) -> None:
        self.worlds.note_destroyed(event)
        self._changed()

    def _on_stopped(self, event: dict[str, Any]) -> None:
        if event["frameId"] == self._frame:
            self._has_stopped.set()

    def _on_navigated(self, event: dict[str, Any]) -> None:
        if "parentId" not in event["frame"]:
            self.happened.is_new_page = bool(self.arrivals)
            self.arrivals.append(event["frame"]["url"])
            self._changed()

    def _on_asked(self, event: dict[str, Any]) -> None:
        if event.get("type") not in ("EventSource", "WebSocket", "Ping", "Media"):
            self._requests[event["requestId"]] = event["request"]["url"]
        self.requested = [*self.requested[1 - _MOST_PROBLEMS :], event["request"]["url"]]
        self.last_change = time.monotonic()

    def _on_finished(self, event: dict[str, Any]) -> None:
        self._requests.pop(event["requestId"], None)
        self.last_change = time.monotonic()

    def _on_failed(self, event: dict[str, Any]) -> None:
        address = self._requests.pop(event["requestId"], "")
        reason = event.get("errorText", "")
        if address and not event.get("canceled") and "ACCESS_DENIED" not in reason and event.get("type") != "Document":
            words = reason.removeprefix("net::ERR_").replace("_", " ").lower()
            self.note(ProblemKind.ERRORS, f"{shown(self.gate.own_address(address))} did not come ({words})")
        self.last_change = time.monotonic()

    def _on_response(self, event: dict[str, Any]) -> None:
        status = event["response"]["status"]
        address = self.gate.own_address(event["response"]["url"])
        if status >= 400 and not address.endswith("/favicon.ico"):
            reason = "there is no such file" if self.gate.is_local else f"the server says {status}"
            self.note(ProblemKind.ERRORS, f"{shown(address)} did not come: {reason}")

    async def _on_request(self, send: Send, event: dict[str, Any]) -> None:
        """Answer a request that waits.

        Args:
            send: sends the answer to where the request came from.
            event: the request (Fetch.requestPaused).
        """
        asked, identity = self._request(event), {"requestId": event["requestId"]}
        try:
            answer = await self.gate.answer(asked)
        except RefusedError as error:
            self._refused(asked.address, str(error))
            # A page that may not go elsewhere stays; the browser would show a page of its own in its place.
            stays = asked.is_page and bool(self.arrivals)
            self._page_refused = str(error) if asked.is_page else self._page_refused
            if stays:
                address = shown(self.gate.own_address(asked.address))
                self._tell(f"the page wants to go to {address}; that was refused: {error}")
            with suppress(Error):
                await send("Fetch.failRequest", {**identity, "errorReason": "Aborted" if stays else "AccessDenied"})
            return
        with suppress(Error):
            if answer is not None:
                await send("Fetch.fulfillRequest", {**identity, **answer.as_protocol()})
                return
            if self._room is not None:
                self._room.targets.admit(event.get("networkId", ""))
            more = self.gate.headers_for(asked.address)
            if not more:
                await send("Fetch.continueRequest", identity)
                return
            known = {**event["request"]["headers"], **dict(more)}
            headers = [{"name": name, "value": value} for name, value in known.items()]
            await send("Fetch.continueRequest", {**identity, "headers": headers})

    def _request(self, event: dict[str, Any]) -> Request:
        request, frame = event["request"], event.get("frameId", "")
        is_document = event["resourceType"] == "Document"
        entries = request.get("postDataEntries") or ()
        return Request(
            request["url"],
            is_page=is_document and frame == self._frame,
            frame=frame,
            is_document=is_document,
            chain=event["requestId"],
            before=event.get("redirectedRequestId", ""),
            method=request["method"],
            headers=tuple(request["headers"].items()),
            body=b"".join(base64.b64decode(each.get("bytes", "")) for each in entries),
        )

    async def _on_dialog(self, dialog: Dialog) -> None:
        words = one_line(dialog.message)
        if dialog.type == "beforeunload":
            await dialog.accept()
            return
        self._tell(f"the page shows a browser dialog ({dialog.type}): “{words}”; it was closed")
        with suppress(Error):
            await (dialog.accept() if dialog.type == "alert" else dialog.dismiss())

    def _on_console(self, kind: str, text: str) -> None:
        if kind == "error" and not text.startswith("Failed to load resource"):
            self.note(ProblemKind.ERRORS, f"The page's console has an error: {one_line(text)}")

    def _on_window(self, event: dict[str, Any]) -> None:
        address = self.gate.own_address(event["url"])
        self._tell(f"the page wants to open a new tab ({shown(address)}); it was not opened")

    def _on_wanted(self, event: dict[str, Any]) -> None:
        """Tell of an address that is for another program, as mailto: is for one for mail."""
        address = event["url"]
        if scheme_of(address) not in _FOR_BROWSERS:
            self._tell(f"the page wants another program to open {shown(address)}; that was refused")

    # What is asked

    async def send(self, method: str, given: dict[str, Any] | None = None) -> dict[str, Any]:
        """Send a command of the DevTools protocol.

        Raises:
            BrowserError: the page does not answer to it.
        """
        assert self._session is not None
        if self.happened.is_gone:
            raise gone()
        asked = asyncio.ensure_future(self._session.send(method, given or {}))
        self._asked.add(asked)
        try:
            return await asked
        except Error as error:
            raise BrowserError(
                f"The page in the browser does not answer ({reason_of(error)})", "open it again."
            ) from error
        except asyncio.CancelledError:
            if self.happened.is_gone:  # it died meanwhile, and nobody else would answer
                raise gone() from None
            asked.cancel()
            raise
        finally:
            self._asked.discard(asked)

    async def ask(self, question: str) -> Any:
        """Ask the script in the page, and return its answer.

        Args:
            question: a call of one of its functions, as "calm()".

        Raises:
            BrowserError: the page does not answer.
        """
        return await self._ask(question, self.worlds.page)

    async def _ask(self, question: str, world: World) -> Any:
        given = {"expression": f"JSON.stringify(murvel.{question})", "returnByValue": True}
        seconds = WHOLE_PAGE_SECONDS if question.startswith(_OF_WHOLE_PAGES) else ANSWER_SECONDS
        try:
            asked = self.send("Runtime.evaluate", {**given, "uniqueContextId": world.name})
            answer = await asyncio.wait_for(asked, seconds)
        except TimeoutError as error:
            raise unanswered(seconds) from error
        if "exceptionDetails" in answer:
            details = answer["exceptionDetails"]
            words = details.get("exception", {}).get("description", details.get("text", ""))
            raise BrowserError(f"The page in the browser could not be looked at ({one_line(words)}).")
        value = answer["result"].get("value")
        return json.loads(value) if isinstance(value, str) else None

    async def cut_off(self) -> None:
        """Let nothing of the page reach a network any more, also by what it has opened."""
        self.gate.is_cut = True
        await self._door.close()
        await self.page.context.set_offline(True)

    async def pass_time(self, seconds: float, patience: float) -> None:
        """Let a page's own time pass at once, without the network. Its clock stands still from then on.

        Args:
            seconds: how much passes for the page.
            patience: the seconds that it may really take.

        Raises:
            BrowserError: it takes longer, or the page is gone.
        """
        assert self._session is not None
        passed: asyncio.Future[None] = asyncio.get_running_loop().create_future()

        def on_passed(_event: object) -> None:
            if not passed.done():
                passed.set_result(None)

        self._session.once("Emulation.virtualTimeBudgetExpired", on_passed)
        await self.page.context.set_offline(True)
        budget = {"budget": seconds * 1000, "maxVirtualTimeTaskStarvationCount": _MOST_TASKS}
        await self.send("Emulation.setVirtualTimePolicy", {"policy": "advance", **budget})
        try:
            await asyncio.wait_for(passed, patience)
        except TimeoutError as error:
            raise BrowserError(f"The page's scripts took more than {patience:g} seconds.") from error

    async def is_leaving(self) -> bool:
        """Whether the page does not answer because another one takes its place, or it is gone."""
        for _ in range(_STEPS):
            if self.happened.is_new_page or self.happened.is_gone:
                return True
            await asyncio.sleep(_STEP)
        return False

    def take_happened(self) -> Happened:
        """Return what the browser told since this was last asked."""
        happened, self.happened = self.happened, Happened(is_gone=self.happened.is_gone)
        return happened

    async def close(self) -> None:
        """Close the tab and its room."""
        self.told = None
        if self._room is not None:
            self._room.targets.forget(self._room_number)
            with suppress(Error):
                await self._room.context.close()
        await self._door.close()
