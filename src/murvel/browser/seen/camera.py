"""Pictures of a page in a window, in the states and with the media that are asked for."""

from __future__ import annotations

import asyncio
import base64
import io
from collections.abc import AsyncIterator, Sequence
from contextlib import asynccontextmanager
from typing import Any, NamedTuple

from PIL import Image

from murvel.browser.seen.pixels import PROBE, Pictures, has_near
from murvel.browser.tab import Tab

HOVER = ("hover",)
FOCUS = ("focus", "focus-visible", "focus-within")
"""The pseudo-classes of the states that are looked at (CSS Selectors 4 §9)."""

_GROUP = "measuring"
_A_MOMENT = 0.05
"""Seconds in which a page takes up what a person prefers."""


class Window(NamedTuple):
    """The part of a page that a browser's window shows, in CSS pixels of the page, and its pixels for one of those."""

    left: float
    top: float
    height: float
    scale: float

    def shows(self, top: float, height: float) -> bool:
        """Whether all from a place down is in it."""
        return self.top <= top and top + height <= self.top + self.height


class Camera:
    """Takes pictures of what a tab shows."""

    def __init__(self, tab: Tab) -> None:
        self._tab = tab
        self._nodes: dict[int, int] = {}

    @asynccontextmanager
    async def at_work(self) -> AsyncIterator[None]:
        """Make states and paints possible; afterwards the page looks as it did, where it did."""
        extent = await self._tab.ask("extent()")
        await self._tab.send("DOM.getDocument", {"depth": 0})
        await self._tab.send("CSS.enable")
        try:
            yield
        finally:
            await self._tab.send("CSS.disable")
            await self._tab.send("Runtime.releaseObjectGroup", {"objectGroup": _GROUP})
            await self._tab.ask("paint('')")
            await self._tab.ask(f"scrollToPlace({extent['scroll'][0]}, {extent['scroll'][1]})")

    async def picture(self, paint: str = "still") -> Image.Image:
        """Return a picture of the window, painted in one of the ways of `measuring.js`."""
        (picture,) = await self._painted(paint)
        return picture

    async def pictures(self, window: Window) -> Pictures:
        """Return the pictures for the contrast of text where all of the text differs from its background."""
        behind, text = await self._painted("behind", "text")
        (again,) = await self._painted("behind") if await self._tab.ask("mayMove()") else (behind,)
        return Pictures(behind, text, again, (), window.left, window.top, window.scale)

    async def with_probes(self, pictures: Pictures) -> Pictures:
        """Return the same pictures, and those that show where text is in sight at all."""
        (probe,) = await self._painted("probe")
        other = await self._painted("other") if has_near(pictures.behind, PROBE) else []
        return pictures._replace(probes=(probe, *other))

    async def _painted(self, *paints: str) -> list[Image.Image]:
        """Pictures in some ways of painting; afterwards the page stands still in its own paint."""
        found = []
        for paint in paints:
            await self._tab.ask(f"paint('{paint}')")
            data = (await self._tab.send("Page.captureScreenshot", {"format": "png", "optimizeForSpeed": True}))["data"]
            found.append(asyncio.ensure_future(asyncio.to_thread(_image, data)))  # while the next one is taken
        if paints[-1] != "still":
            await self._tab.ask("paint('still')")
        return list(await asyncio.gather(*found))

    @asynccontextmanager
    async def in_state(
        self, numbers: Sequence[int], classes: Sequence[str], *, is_around: bool = False
    ) -> AsyncIterator[None]:
        """Give elements the styles of a state for a while.

        Args:
            numbers: the elements.
            classes: the pseudo-classes of the state.
            is_around: whether the elements around them get the states too, except the body, as under a pointer.
        """
        wanted = [*numbers, *(await self._tab.ask(f"around({list(numbers)})") if is_around else ())]
        nodes = await self._nodes_of(wanted)
        given = {"forcedPseudoClasses": list(classes)}
        await asyncio.gather(*(self._tab.send("CSS.forcePseudoState", {"nodeId": each, **given}) for each in nodes))
        try:
            yield
        finally:
            await self._tab.send("CSS.disable")  # takes all states back at once
            await self._tab.send("CSS.enable")

    @asynccontextmanager
    async def in_forced_colours(self) -> AsyncIterator[None]:
        """Paint the page in forced colours for a while (CSS Color Adjustment 1 §3)."""
        asked = self._tab.setup.browser
        await self._tab.page.emulate_media(forced_colors="active")
        try:
            yield
        finally:
            is_asked = asked is not None and asked.has_forced_colors
            await self._tab.page.emulate_media(forced_colors="active" if is_asked else "none")

    async def moving_with_less_motion(self) -> list[Any]:
        """Return what moves once the page knows that a person prefers less motion (Media Queries 5 §12.1)."""
        asked = self._tab.setup.browser
        await self._tab.page.emulate_media(reduced_motion="reduce")
        await asyncio.sleep(_A_MOMENT)
        found: list[Any] = await self._tab.ask("moving()")
        if asked is None or not asked.has_less_motion:
            await self._tab.page.emulate_media(reduced_motion="no-preference")
        return found

    async def _nodes_of(self, numbers: Sequence[int]) -> list[int]:
        """The numbers that the protocol's style commands have for those of some elements that are in the page."""
        unknown = [each for each in numbers if each not in self._nodes]
        if unknown:
            ask = {
                "expression": f"{unknown}.map(murvel.nodeOf)",
                "uniqueContextId": self._tab.worlds.page.name,
                "objectGroup": _GROUP,
            }
            there = (await self._tab.send("Runtime.evaluate", ask))["result"]["objectId"]
            listed = await self._tab.send("Runtime.getProperties", {"objectId": there, "ownProperties": True})
            objects = {
                unknown[int(each["name"])]: each["value"]["objectId"]
                for each in listed["result"]
                if each["name"].isdigit() and "objectId" in each["value"]
            }
            asked = (self._tab.send("DOM.requestNode", {"objectId": each}) for each in objects.values())
            for number, told in zip(objects, await asyncio.gather(*asked), strict=True):
                if told["nodeId"]:
                    self._nodes[number] = told["nodeId"]
        return [self._nodes[each] for each in numbers if each in self._nodes]


def _image(data: str) -> Image.Image:
    return Image.open(io.BytesIO(base64.b64decode(data))).convert("RGB")
