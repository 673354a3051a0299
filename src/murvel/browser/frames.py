"""A page and its frames of other origins, asked as one.

Our script reaches the frames of the page's own origin itself. Each document of another origin (another host, `data:`,
a sandbox) has a script of its own, which numbers nodes and styles by itself. Here the answers are put together: nodes
get numbers that are unique on the page, and the root of a frame's document stands in its frame (HTML §4.8.5).
"""

from __future__ import annotations

import asyncio
import json
from collections.abc import Awaitable, Callable
from dataclasses import dataclass, field
from typing import Any

from murvel.browser.closed import adopt_closed
from murvel.browser.errors import BrowserError
from murvel.browser.internals import said_by_internals
from murvel.browser.targets import Send
from murvel.browser.worlds import World, Worlds

Asked = Callable[[str, World], Awaitable[Any]]
"""Asks our script in a world a question, and returns its answer."""

_OWN = 1 << 26
"""How many numbers each document has; those of the page itself come first."""

_ATTRIBUTES, _STYLE = 4, 5
"""Where an element's entry has its attributes and its style."""

_GROUP = "frames"
_IS_HEARD = "typeof murvel === 'object' && !document.URL.startsWith('chrome-error:')"
_NUMBER = "function() { return murvel.numberOf(this); }"


@dataclass(slots=True)
class _Content:
    """A document: the page's own, or the content of a frame of another origin (HTML §7.3.1, content document).

    Attributes:
        world: where our script runs beside it.
        first: the number before the first of its own.
        owner: the number of its frame; 0 for the page.
        root: the number of its root element.
        styles: the page's numbers of its styles, by its own.
    """

    world: World
    first: int = 0
    owner: int = 0
    root: int = 0
    styles: list[int] = field(default_factory=list)

    def numbered(self, number: int) -> int:
        return self.first + number if number else self.owner


class Frames:
    """Asks a page and its frames of other origins.

    Args:
        ask: asks our script in one world.
        send: sends a command to the page.
        worlds: where our scripts run.
    """

    def __init__(self, ask: Asked, send: Send, worlds: Worlds) -> None:
        self._ask = ask
        self._send = send
        self._worlds = worlds
        self._page = _Content(World())
        self._contents: dict[str, _Content] = {}
        self._others: set[str] = set()
        """The worlds beside documents that the page's own script tells."""
        self._last = 0
        self._said: dict[int, dict[str, str]] = {}
        """The attributes that stand for internals of custom elements, by their numbers."""
        self._marked = (0, "")
        """The select whose list is open, and the option in it that was told last."""
        self._count = 0

    async def snapshot(self, *, is_anew: bool) -> dict[str, Any] | None:
        """Return the whole page (`snapshot` in recorder.js); None if the page shows no document.

        Args:
            is_anew: whether the page is followed from here on.

        Raises:
            BrowserError: the page does not answer.
        """
        if is_anew:
            self._page, self._contents, self._others = _Content(self._worlds.page), {}, set()
            self._said.clear()
        question = f"snapshot({'true' if is_anew else 'false'})"
        told: dict[str, Any] | None = await self._snapshot_of(self._page, question)
        if told is None:
            return None
        count = len(told["styles"])
        for content in await self._found() if is_anew else list(self._contents.values()):
            inside = await self._snapshot_of(content, question)
            if inside is None:
                continue
            self._contents[content.world.name] = content
            styles = list(range(count, count + len(inside["styles"])))
            count += len(styles)
            nodes = [_node(each, content, styles) for each in inside["nodes"]]
            content.root = nodes[0][0]
            told["nodes"] += nodes
            told["styles"] += inside["styles"]
            told["isOverrun"] |= inside["isOverrun"]
            told["unheard"] += [[content.numbered(number), address] for number, address in inside["unheard"]]
            told["focus"] = _focus(told["focus"], content, inside["focus"])
            if is_anew:
                content.styles = styles
        if is_anew:
            self._count = count
            self._page.styles = list(range(len(told["styles"])))
        owners = {content.owner for content in self._contents.values()}
        told["unheard"] = [address for number, address in told["unheard"] if number not in owners]
        return told

    async def collect(self, *, is_all: bool) -> dict[str, Any] | None:
        """Return what changed since this was last asked (`collect` in recorder.js); None if there is no document.

        Args:
            is_all: whether every element is looked at, also where nothing is known to have changed.

        Raises:
            BrowserError: the page does not answer.
        """
        question = f"collect({'true' if is_all else ''})"
        known = [self._page, *self._contents.values()]
        answers = await asyncio.gather(*(self._ask(question, each.world) for each in known), return_exceptions=True)
        raw: list[tuple[_Content, dict[str, Any]]] = []
        for content, answer in zip(known, answers, strict=True):
            if isinstance(answer, BaseException):
                if content is self._page or content.world in self._worlds.others():
                    raise answer
            elif answer is not None:  # a document without an answer is gone; its frame is emptied below
                raw.append((content, answer))
        if not raw or raw[0][0] is not self._page:
            return None
        is_still = is_all and not any(each["batches"] or each["focusMoves"] for _, each in raw)
        completed: list[tuple[_Content, dict[str, Any]]] = []
        for content, each in raw:
            try:
                completed.append((content, await self._completed(content, each, question, is_still=is_still)))
            except BrowserError:
                if content is self._page or content.world in self._worlds.others():
                    raise
        (_, told), *others = completed
        for content in [each for each in self._contents.values() if each.world not in self._worlds.others()]:
            self._contents.pop(content.world.name)
            told["batches"].append(_batch(told["now"], children=[[content.owner, []]]))
        for content, inside in others:
            if content.world.name in self._contents:
                _join(told, content, inside)
        for content in await self._found():
            await self._add(told, content)
        roots = {content.owner: content.root for content in self._contents.values()}
        for batch in told["batches"] if roots else ():
            batch["children"] = [
                [number, [roots[number]] if number in roots else inside] for number, inside in batch["children"]
            ]
        return told

    async def _snapshot_of(self, content: _Content, question: str) -> Any:
        told = await self._ask(question, content.world)
        if told is not None and await adopt_closed(self._send, content.world, which="new"):
            told = await self._ask(question, content.world)
        if told is not None:
            said = await self._internals(content)
            for node in told["nodes"] if said else ():
                if content.numbered(node[0]) in said:
                    node[_ATTRIBUTES] += [each for pair in said[content.numbered(node[0])].items() for each in pair]
        return told

    async def _internals(self, content: _Content) -> dict[int, dict[str, str]]:
        """What custom elements of a document say by their internals now, by the page's numbers."""
        customs = await self._ask("customs()", content.world)
        said = await said_by_internals(self._send, content.world, customs) if customs else {}
        now = {content.numbered(number): attributes for number, attributes in said.items()}
        self._said.update(now)
        return now

    async def _news_of_internals(self, content: _Content, at: float) -> list[dict[str, Any]]:
        """What custom elements say by their internals now and did not say before, as a batch."""
        before = dict(self._said)
        changed = [
            [number, name, attributes.get(name)]
            for number, attributes in (await self._internals(content)).items()
            for name in sorted({*attributes, *before.get(number, {})})
            if attributes.get(name) != before.get(number, {}).get(name)
        ]
        return [_batch(at, attributes=changed)] if changed else []

    async def _completed(
        self, content: _Content, told: dict[str, Any], question: str, *, is_still: bool
    ) -> dict[str, Any]:
        """Return what changed in one document, with what its script cannot see, and with the numbers of the page.

        Args:
            content: the document.
            told: what its script told.
            question: what was asked, to ask once more.
            is_still: whether a key did nothing anywhere, as far as scripts told.
        """
        which = _suspected(told, is_still=is_still)
        has_more = bool(which) and await adopt_closed(self._send, content.world, which=which)
        if told["openList"]:
            has_more |= await self._mark(content, told["openList"])
        elif self._marked[0] // _OWN == content.first // _OWN:
            self._marked = (0, "")
        if has_more:
            more = await self._ask(question, content.world)
            if more is not None:
                for key in ("batches", "styles", "focusMoves"):
                    more[key] = told[key] + more[key]
                told = more
        content.styles += range(self._count, self._count + len(told["styles"]))
        self._count += len(told["styles"])
        if self._contents or content.first:
            for batch in told["batches"]:
                _renumber(batch, content)
        if "true" in question or which == "new":
            told["batches"] += await self._news_of_internals(content, told["now"])
        return told

    async def _mark(self, content: _Content, select: int) -> bool:
        """Tell our script which option the keys went to in an open list; return whether that is another one."""
        given = {"expression": f"murvel.nodeOf({select})", "uniqueContextId": content.world.name, "objectGroup": _GROUP}
        found = (await self._send("Runtime.evaluate", given))["result"]
        asked = {"objectId": found["objectId"], "fetchRelatives": False}
        nodes = (await self._send("Accessibility.getPartialAXTree", asked))["nodes"]
        await self._send("Runtime.releaseObjectGroup", {"objectGroup": _GROUP})
        value = str(nodes[0].get("value", {}).get("value", "")) if nodes else ""
        if (content.first + select, value) == self._marked:
            return False
        self._marked = (content.first + select, value)
        await self._ask(f"mark({select}, {json.dumps(value)})", content.world)
        return True

    async def _add(self, told: dict[str, Any], content: _Content) -> None:
        """Tell a document that came into a frame."""
        inside = await self._snapshot_of(content, "snapshot(true)")
        if inside is None:
            return
        content.styles = list(range(self._count, self._count + len(inside["styles"])))
        self._count += len(content.styles)
        nodes = [_node(each, content, content.styles) for each in inside["nodes"]]
        content.root = nodes[0][0]
        self._contents[content.world.name] = content
        inside["batches"] = [_batch(inside["now"], added=nodes, children=[[content.owner, [content.root]]])]
        _join(told, content, inside)

    async def _found(self) -> list[_Content]:
        """Return the new documents of other origins; a document follows the one that holds its frame."""
        waiting = [each for each in self._worlds.others() if each.name not in self._contents.keys() | self._others]
        found: list[_Content] = []
        for world in waiting:
            given = {"expression": _IS_HEARD, "uniqueContextId": world.name, "returnByValue": True}
            try:
                if not (await self._send("Runtime.evaluate", given))["result"].get("value"):
                    self._others.add(world.name)
                    continue
                around = [self._page, *self._contents.values(), *found]
                owner = await self._owner(world, around)
            except BrowserError:
                continue  # it goes
            if owner:
                self._last += 1
                found.append(_Content(world, self._last * _OWN, owner))
        return found

    async def _owner(self, world: World, around: list[_Content]) -> int:
        """The number of the frame that a document stands in; 0 if no document that is known has it."""
        node = (await self._send("DOM.getFrameOwner", {"frameId": world.frame}))["backendNodeId"]
        for content in around:
            given = {"backendNodeId": node, "executionContextId": content.world.number, "objectGroup": _GROUP}
            found = (await self._send("DOM.resolveNode", given))["object"]
            if "objectId" not in found:
                continue  # scripts beside this document may not reach it
            call = {"functionDeclaration": _NUMBER, "objectId": found["objectId"], "returnByValue": True}
            number: int = (await self._send("Runtime.callFunctionOn", call))["result"]["value"]
            await self._send("Runtime.releaseObjectGroup", {"objectGroup": _GROUP})
            return content.numbered(number)
        return 0

    # What is asked of all, or of one element

    async def looks(self) -> dict[str, Any]:
        """Return what elements look like (`looks` in pointing.js).

        Raises:
            BrowserError: the page does not answer.
        """
        told: dict[str, Any] = await self._ask("looks()", self._page.world)
        for content in self._contents.values():
            inside = await self._ask("looks()", content.world)
            count = len(told["list"])
            told["list"] += inside["list"]
            pairs = zip(inside["of"][::2], inside["of"][1::2], strict=True)
            told["of"] += [each for number, look in pairs for each in (content.numbered(number), count + look)]
            for key in ("byPointer", "byFocus"):
                told[key] += [content.numbered(number) for number in inside[key]]
        return told

    async def boxes(self) -> list[float]:
        """Return the boxes of elements on the page: a number, left, top, width and height each, in CSS pixels.

        Raises:
            BrowserError: the page does not answer.
        """
        found: list[float] = await self._ask("boxes()", self._page.world)
        for content in self._contents.values():
            left, top = await self._shift(content)
            inside = iter(await self._ask("boxes()", content.world))
            for number, x, y, width, height in zip(inside, inside, inside, inside, inside, strict=True):
                found += (content.numbered(number), x + left, y + top, width, height)
        return found

    async def box(self, number: int) -> list[float] | None:
        """Return the box of an element on the page: left, top, width and height in CSS pixels; None if it has none.

        Raises:
            BrowserError: the page does not answer.
        """
        told: list[float] | None = await self.ask_of(number, "boxOf({})")
        if told is None:
            return None
        left, top = await self._shift(self._content_of(number))
        return [told[0] + left, told[1] + top, *told[2:]]

    async def matching(self, selector: str) -> list[int] | None:
        """Return the numbers of the elements that a selector matches; None if it is not understood.

        Args:
            selector: as a string of JavaScript.

        Raises:
            BrowserError: the page does not answer.
        """
        found: list[int] | None = await self._ask(f"matching({selector})", self._page.world)
        if found is None:
            return None
        for content in self._contents.values():
            found += [content.numbered(number) for number in await self._ask(f"matching({selector})", content.world)]
        return found

    def of_page(self, numbers: list[int | None]) -> list[int]:
        """Return those numbers that are of the page's own document and the frames of its origin."""
        return [number for number in numbers if number is not None and number < _OWN]

    def documents(self) -> list[tuple[World, int]]:
        """Return the world of each document, and the number before the first of its own."""
        return [(content.world, content.first) for content in (self._page, *self._contents.values())]

    @property
    def has_others(self) -> bool:
        """Whether the page has frames of other origins that are heard."""
        return bool(self._contents)

    def place(self, number: int) -> tuple[World, int]:
        """Return the world of an element, and its number there."""
        content = self._content_of(number)
        return content.world, number - content.first

    async def ask_of(self, number: int, question: str) -> Any:
        """Ask about one element.

        Args:
            number: its number.
            question: as for our script, with `{}` for the number.

        Raises:
            BrowserError: the page does not answer.
        """
        world, local = self.place(number)
        return await self._ask(question.format(local), world)

    async def bring_into_sight(self, number: int) -> None:
        """Scroll to the frames that an element stands in, the outermost first."""
        owner = self._content_of(number).owner
        if owner:
            await self.bring_into_sight(owner)
            await self.ask_of(owner, "aim({}, false)")

    async def offset(self, number: int) -> tuple[float, float]:
        """Return where the document of an element begins in the page's viewport, in CSS pixels."""
        return await self._offset(self._content_of(number))

    async def _offset(self, content: _Content) -> tuple[float, float]:
        if not content.owner:
            return 0.0, 0.0
        around = await self._offset(self._content_of(content.owner))
        place = await self.ask_of(content.owner, "frameAt({})") or (0.0, 0.0)
        return around[0] + place[0], around[1] + place[1]

    async def _shift(self, content: _Content) -> tuple[float, float]:
        """How far a place on the page is from the same place in a document, both with what is scrolled away."""
        if not content.owner:
            return 0.0, 0.0
        left, top = await self._offset(content)
        page, own = [(await self._ask("extent()", each.world))["scroll"] for each in (self._page, content)]
        return left + page[0] - own[0], top + page[1] - own[1]

    def _content_of(self, number: int) -> _Content:
        first = number - number % _OWN
        return next((content for content in self._contents.values() if content.first == first), self._page)


def _suspected(told: dict[str, Any], *, is_still: bool) -> str:
    """Return which elements may have an unknown closed shadow root; empty for none."""
    if any(batch["added"] for batch in told["batches"]):
        return "new"
    if told["batches"] or told["focusMoves"]:
        return "changed"
    return "again" if is_still else ""


def _batch(at: float, **told: Any) -> dict[str, Any]:
    empty: dict[str, Any] = {key: [] for key in ("attributes", "texts", "children", "added", "styles", "states")}
    return {"at": at, **empty, **told}


def _node(node: list[Any], content: _Content, styles: list[int]) -> list[Any]:
    """A node with the numbers of the page."""
    numbered = [content.numbered(node[0]), content.numbered(node[1]), *node[2:]]
    if len(node) > _STYLE:  # an element
        numbered[_ATTRIBUTES] = [_value(each, content) for each in node[_ATTRIBUTES]]
        numbered[_STYLE] = styles[node[_STYLE]]
    return numbered


def _value(value: Any, content: _Content) -> Any:
    """The value of an attribute, or the numbers of the elements that it refers to."""
    return [content.numbered(number) for number in value] if isinstance(value, list) else value


def _renumber(batch: dict[str, Any], content: _Content) -> None:
    numbered = content.numbered
    batch["attributes"] = [
        [numbered(number), name, _value(value, content)] for number, name, value in batch["attributes"]
    ]
    for key in ("texts", "states"):
        batch[key] = [[numbered(number), *rest] for number, *rest in batch[key]]
    batch["added"] = [_node(each, content, content.styles) for each in batch["added"]]
    batch["children"] = [[numbered(number), [*map(numbered, inside)]] for number, inside in batch["children"]]
    batch["styles"] = [[numbered(number), content.styles[style]] for number, style in batch["styles"]]


def _join(told: dict[str, Any], content: _Content, inside: dict[str, Any]) -> None:
    """Add what one document tells to what the page tells, in the order and by the clock of the page."""
    ahead = told["now"] - inside["now"]
    for batch in inside["batches"]:
        batch["at"] += ahead
    told["batches"] = sorted([*told["batches"], *inside["batches"]], key=lambda batch: batch["at"])
    told["styles"] += inside["styles"]
    told["isOverrun"] |= inside["isOverrun"]
    moves = [[at + ahead, content.numbered(number) if number else 0] for at, number in inside["focusMoves"]]
    told["focusMoves"] = sorted([*told["focusMoves"], *moves])
    told["focus"] = _focus(told["focus"], content, inside["focus"])


def _focus(around: int, content: _Content, inside: int) -> int:
    """The focus as the page knows it, by its frame, or the element in there that has it."""
    return content.numbered(inside) if inside and around == content.owner else around
