"""Measuring what is seen of a page: it is looked at window by window, from its top to its end."""

from __future__ import annotations

import asyncio
import base64
import io
from collections.abc import Mapping
from typing import Any, NamedTuple

from PIL import Image

from murvel.browser.seen.indicators import Compared, compared
from murvel.browser.seen.pixels import Looked, Overlaps, Pictures, edge_contrast, text_contrast, value_contrast
from murvel.browser.seen.targets import Told, targets_of
from murvel.browser.tab import Tab
from murvel.page.colours import Paint, parse_colour
from murvel.page.document import Element
from murvel.page.errors import PageError
from murvel.stage.seen import UNSEEN, EdgeSeen, IndicatorSeen, Pair, Seen, TextKind, TextSeen

_KINDS = (TextKind.TEXT, TextKind.VALUE, TextKind.PLACEHOLDER)
_OVERLAP = 0.25
"""How much of a window is seen in the next one again: what a bar at its edge covers is seen there."""

_MOST_WINDOWS = 60
_TRIES = 3
"""How often a window is looked at, if things move in it meanwhile."""

_GROUP = "measuring"
_BESIDE = 4.0
"""CSS pixels around a field that have to be in the window for its edge to be told."""

_MOVES = "what is behind it moves"


async def measured(tab: Tab, by_number: Mapping[int, Element], targets: list[int], stops: list[int]) -> Seen:
    """Return what is seen of a page.

    Args:
        tab: the page; it is scrolled, and stands where it stood afterwards.
        by_number: the elements by our numbers.
        targets: the numbers of what a pointer presses.
        stops: those of the Tab stops.

    Raises:
        BrowserError: the page does not answer.
    """
    extent = await tab.ask("extent()")
    await tab.send("DOM.getDocument", {"depth": 0})
    await tab.send("CSS.enable")
    looking = _Looking(tab, targets, stops)
    try:
        top = 0.0
        for _ in range(_MOST_WINDOWS):
            x, y = await tab.ask(f"scrollToPlace(0, {top})")
            await looking.look(x, y, extent["height"], extent["scale"])
            top = y + extent["height"] * (1 - _OVERLAP)
            if y + extent["height"] >= extent["pageHeight"] - 1:
                break
    finally:
        await tab.send("CSS.disable")
        await tab.send("Runtime.releaseObjectGroup", {"objectGroup": _GROUP})
        await tab.ask("paint('')")
        await tab.ask(f"scrollToPlace({extent['scroll'][0]}, {extent['scroll'][1]})")
    seen = looking.seen(by_number)
    pairs = await tab.ask("plainLinks()")
    seen.plain_links = [
        (by_number[link], by_number[around]) for link, around in pairs if {link, around} <= by_number.keys()
    ]
    seen.wide = [(by_number[number], beyond) for number, beyond in await tab.ask("wide()") if number in by_number]
    return seen


class _Window(NamedTuple):
    """The part of a page that a browser's window shows, in CSS pixels of the page, and its pixels for one of those."""

    left: float
    top: float
    height: float
    scale: float

    def shows(self, top: float, height: float) -> bool:
        """Whether all from a place down is in it."""
        return self.top <= top and top + height <= self.top + self.height


class _Looking:
    """What was seen so far, by number and kind of text."""

    def __init__(self, tab: Tab, targets: list[int], stops: list[int]) -> None:
        self._tab = tab
        self._target_numbers, self._stops = targets, stops
        self._targets: dict[int, Told] = {}
        self._indicators: dict[int, Compared] = {}
        self._texts: dict[tuple[int, int], list[Any]] = {}
        self._found: dict[tuple[int, int], Any] = {}
        self._moving: set[tuple[int, int]] = set()
        self._edges: dict[int, tuple[list[Any], Any]] = {}

    async def look(self, left: float, top: float, height: float, scale: float) -> None:
        """Look at the window that is scrolled to; where the page moves things meanwhile, once more."""
        for _ in range(_TRIES):
            texts, edges = await self._told()
            for told in texts:
                self._texts.setdefault((told[0], told[1]), told)
            for told in edges:
                self._edges.setdefault(told[0], (told, None))
            contrasts, pairs = await self._colours(texts, edges, _Window(left, top, height, scale))
            indicators = await self._focus(left, top, scale)
            targets = [Told(*told) for told in await self._tab.ask(f"targets({self._target_numbers})")]
            if await self._told() == (texts, edges):
                break
        else:
            return  # it never stood still: nothing is told of what is here
        for key, looked in contrasts.items():
            if looked.contrast is not None:
                self._found[key] = looked.contrast
                self._moving.discard(key)
            elif looked.moves:
                self._moving.add(key)
        for number, (told, pair) in pairs.items():
            self._edges[number] = (told, pair)
        self._indicators |= indicators
        for each in targets:
            self._targets.setdefault(each.number, each)

    async def _told(self) -> tuple[list[Any], list[Any]]:
        return await self._tab.ask("texts()"), await self._tab.ask("edges()")

    async def _colours(
        self, texts: list[Any], edges: list[Any], window: _Window
    ) -> tuple[dict[tuple[int, int], Looked], dict[int, tuple[list[Any], Pair | None]]]:
        """The contrast of texts and of edges that are in the window and not known yet."""
        contrasts: dict[tuple[int, int], Looked] = {}
        pairs: dict[int, tuple[list[Any], Pair | None]] = {}
        pictures: Pictures | None = None
        others = Overlaps((told[0], rect) for told in texts for rect in told[7])
        for told in texts:
            key, (hinders, _, rects) = (told[0], told[1]), told[5:]
            if key in self._found or hinders or not any(window.shows(rect[1], 0.0) for rect in rects):
                continue
            pictures = pictures or await self._pictures(window)
            within = [rect for rect in rects if pictures.holds(rect)]
            paint = _paint(told[4])
            if within and paint is not None:
                over = [each for rect in within for each in others.with_(told[0], rect)]
                contrasts[key] = (
                    value_contrast(pictures, within, over, paint)
                    if told[1]
                    else text_contrast(pictures, within, over, paint.alpha)
                )
        for told in edges:
            number, _, borders, rect = told
            if self._edges[number][1] is None and window.shows(rect[1] - _BESIDE, rect[3] + 2 * _BESIDE):
                pictures = pictures or await self._pictures(window)
                pairs[number] = (told, edge_contrast(pictures, rect, borders))
        return contrasts, pairs

    async def _focus(self, left: float, top: float, scale: float) -> dict[int, Compared]:
        """Compare the stops in the window with and without the styles of focus, every second one at once: what shows
        at one reaches its neighbours."""
        found: dict[int, Compared] = {}
        near = await self._tab.ask(f"near({[each for each in self._stops if each not in self._indicators]})")
        if not near:
            return found
        without = await self._picture("still")
        for some in filter(None, (near[0::2], near[1::2])):
            nodes = [each for each in await asyncio.gather(*map(self._node, some)) if each is not None]
            await asyncio.gather(*(self._force(each, ["focus", "focus-visible", "focus-within"]) for each in nodes))
            with_focus = await self._picture("still")
            places = await self._tab.ask(f"places({some})")  # what is out of sight may come in with the focus
            await asyncio.gather(*(self._force(each, []) for each in nodes))
            for number, (x, y, width, height) in places:
                if _is_in_sight(x - left, width, without.width / scale):
                    rect = (x - left, y - top, width, height)
                    found[number] = compared(without, with_focus, rect, scale)
        return found

    async def _node(self, number: int) -> int | None:
        """The number that the protocol's style commands have for an element."""
        given = {"expression": f"murvel.nodeOf({number})", "uniqueContextId": self._tab.world, "objectGroup": _GROUP}
        found = (await self._tab.send("Runtime.evaluate", given))["result"]
        if "objectId" not in found:
            return None
        node: int = (await self._tab.send("DOM.requestNode", {"objectId": found["objectId"]}))["nodeId"]
        return node or None

    async def _force(self, node: int, classes: list[str]) -> None:
        await self._tab.send("CSS.forcePseudoState", {"nodeId": node, "forcedPseudoClasses": classes})

    async def _picture(self, paint: str) -> Image.Image:
        await self._tab.ask(f"paint('{paint}')")
        data = (await self._tab.send("Page.captureScreenshot", {"format": "png", "optimizeForSpeed": True}))["data"]
        return Image.open(io.BytesIO(base64.b64decode(data))).convert("RGB")

    async def _pictures(self, window: _Window) -> Pictures:
        behind, text, probe, other = [await self._picture(name) for name in ("behind", "text", "probe", "other")]
        again = await self._picture("behind") if await self._tab.ask("mayMove()") else behind
        await self._tab.ask("paint('still')")
        return Pictures(behind, text, probe, other, again, window.left, window.top, window.scale)

    def seen(self, by_number: Mapping[int, Element]) -> Seen:
        """Return all that was seen."""
        found = Seen()
        for key, (number, kind, pixels, weight, _, hinders, inactive, _) in self._texts.items():
            element = by_number.get(number)
            if element is None:
                continue
            contrast = self._found.get(key)
            reason = "" if contrast is not None else hinders or (_MOVES if key in self._moving else UNSEEN)
            found.texts.append(TextSeen(element, _KINDS[kind], pixels, weight, bool(inactive), contrast, reason))
        for number, (told, pair) in self._edges.items():
            element = by_number.get(number)
            if element is not None:
                found.edges.append(EdgeSeen(element, bool(told[1]), pair))
        found.targets = targets_of(self._targets, by_number)
        for number, compared_ in self._indicators.items():
            element = by_number.get(number)
            if element is not None:
                found.indicators.append(IndicatorSeen(element, *compared_))
        found.indicators.sort(key=lambda each: each.element.order)
        found.texts.sort(key=lambda each: each.element.order)
        found.edges.sort(key=lambda each: each.element.order)
        return found


def _is_in_sight(x: float, width: float, window: float) -> bool:
    return x + width > 0 and x < window


def _paint(text: str) -> Paint | None:
    """The colour a browser computed; None for a notation that is not known: no colour is better than a wrong one."""
    try:
        return parse_colour(text)
    except PageError:
        return None
