"""Measuring what is seen of a page: it is looked at window by window, from its top to its end, and so is each box of it
that scrolls."""

from __future__ import annotations

import asyncio
import time
from collections.abc import Mapping, Sequence
from contextlib import suppress
from typing import Any, NamedTuple

from PIL import Image, ImageChops

from murvel.browser.errors import BrowserError
from murvel.browser.seen.camera import FOCUS, HOVER, Camera, Window
from murvel.browser.seen.clicks import Clicked, clicked
from murvel.browser.seen.copies import ByItself, done_by_itself
from murvel.browser.seen.forced import SeenBefore, is_clear, lost_in, lost_states
from murvel.browser.seen.indicators import Compared, compared, groups_apart
from murvel.browser.seen.marks import icon_contrast, meeting_areas
from murvel.browser.seen.movement import Find, moving
from murvel.browser.seen.pixels import Looked, Overlaps, Pictures, edge_contrast, text_contrast, value_contrast
from murvel.browser.seen.tabbing import Tabbed, tabbed
from murvel.browser.seen.targets import Told, targets_of
from murvel.browser.tab import Tab
from murvel.css.values.colours import Paint, parse_colour
from murvel.dom.document import Element
from murvel.loading.errors import PageError
from murvel.loading.problems import ProblemKind
from murvel.stage.seen import (
    UNSEEN,
    ChartSeen,
    ClickSeen,
    EdgeSeen,
    IconSeen,
    Indication,
    IndicatorSeen,
    LimitSeen,
    Lost,
    Pair,
    Seen,
    ShownSeen,
    State,
    TabSeen,
    TextKind,
    TextSeen,
)

_KINDS = (TextKind.TEXT, TextKind.VALUE, TextKind.PLACEHOLDER)
_LEAST_OVERLAP, _MOST_OVERLAP = 0.08, 0.4
"""How much of a window is seen in the next one again: lines at its edge, and what a bar that stays covers."""

_MOST_WINDOWS = 60
_MOST_STEPS = 60
"""How often boxes that scroll within the page are moved on."""

_MOST_SECONDS = 40.0
"""The seconds spent on looking at a page, window by window. The rest of it is a problem of the page."""

_TRIES = 3
"""How often a window is looked at, if things move in it meanwhile."""

_BESIDE = 4.0
"""CSS pixels around a field that have to be in the window for its edge to be told."""

_MOVES = "what is behind it moves"


async def measured(
    tab: Tab, by_number: Mapping[int, Element], targets: list[int], stops: list[int], find: Find, *, can_copy: bool
) -> Seen:
    """Return what is seen of a page.

    Args:
        tab: the page; it is scrolled, and stands where it stood afterwards.
        by_number: the elements by our numbers.
        targets: the numbers of what a pointer presses.
        stops: those of the Tab stops.
        find: returns the element at an absolute XPath.
        can_copy: whether the page can be opened once more beside.

    Raises:
        BrowserError: the page does not answer.
    """
    camera = Camera(tab)
    copying = asyncio.ensure_future(_on_copies(tab)) if can_copy else None
    copied = _Copied()
    try:
        seen = await _seen_in_windows(tab, camera, by_number, targets, stops)
        if copying is not None:
            copied = await copying
    finally:
        if copying is not None:
            copying.cancel()
            await asyncio.gather(copying, return_exceptions=True)  # its tab is closed then
    seen.moving = await moving(tab, camera, by_number, find, copied.by_itself)
    copied.add_to(seen, find, [by_number[each] for each in stops if each in by_number])
    return seen


class _Copied(NamedTuple):
    """What was learned on copies of a page, as far as it could be opened again."""

    by_itself: ByItself | None = None
    clicks: Sequence[Clicked] = ()
    tabbed: Tabbed | None = None

    def add_to(self, seen: Seen, find: Find, stops: list[Element]) -> None:
        """Put it into what is seen, by the elements of the page itself."""
        for limit in self.by_itself.limits if self.by_itself is not None else ():
            seen.limits.append(LimitSeen(find(limit.path) if limit.path else None, limit.minutes, limit.words))
        pressed = ((find(each.path), each.effect) for each in self.clicks)
        seen.clicks = [ClickSeen(element, str(effect or "")) for element, effect in pressed if element is not None]
        if self.tabbed is not None:
            came = {find(path) for path in self.tabbed.came if path is not None}
            is_known = self.tabbed.is_whole and None not in self.tabbed.came
            missed = tuple(each for each in stops if each not in came) if is_known else ()
            kept = find(self.tabbed.kept) if self.tabbed.kept is not None else None
            seen.tabbed = TabSeen(missed, kept, self.tabbed.is_freed)


async def _on_copies(tab: Tab) -> _Copied:
    by_itself: ByItself | None = None
    with suppress(BrowserError):
        by_itself = await done_by_itself(tab)
        clicks = await clicked(tab, [change.path for change in by_itself.changes])
        return _Copied(by_itself, clicks, await tabbed(tab))
    return _Copied(by_itself)


async def _seen_in_windows(
    tab: Tab, camera: Camera, by_number: Mapping[int, Element], targets: list[int], stops: list[int]
) -> Seen:
    """What is seen of a page, window by window; what moves is left out."""
    extent = await tab.ask("extent()")
    covered = await tab.ask("covering()")
    looking = _Looking(tab, camera, targets, stops)
    async with camera.at_work():
        top, bottom, end = 0.0, 0.0, time.monotonic() + _MOST_SECONDS
        for _ in range(_MOST_WINDOWS):
            x, y = await tab.ask(f"scrollToPlace(0, {top})")
            await looking.look(Window(x, y, extent["height"], extent["scale"]))
            top = _next_top(y, extent["height"], covered, await tab.ask("cutBelow()"))
            bottom = y + extent["height"]
            if bottom >= extent["pageHeight"] - 1 or time.monotonic() > end:
                break
        is_whole = bottom >= extent["pageHeight"] - 1
        is_whole &= await _look_in_boxes(tab, looking, extent, end)
    if not is_whole:
        text = (
            f"The page is too long to be looked at as a whole: the first {bottom:,.0f} of {extent['pageHeight']:,.0f} "
            "pixels were, and not all that scrolls within it. Nothing is known of how the rest looks."
        )
        tab.note(ProblemKind.LIMIT, text)
    looking.lost |= await lost_states(tab, camera)
    seen = looking.seen(by_number)
    seen.width = extent["width"]
    pairs = await tab.ask("plainLinks()")
    seen.plain_links = [
        (by_number[link], by_number[around]) for link, around in pairs if {link, around} <= by_number.keys()
    ]
    seen.wide = [(by_number[number], beyond) for number, beyond in await tab.ask("wide()") if number in by_number]
    seen.cut = [(by_number[number], part) for number, part in await tab.ask("cut()") if number in by_number]
    return seen


def _next_top(top: float, height: float, covered: float, cut: float | None) -> float:
    """Return where the next window begins.

    Args:
        top: where this one begins.
        height: the height of both.
        covered: the part of it that what stays in place covers.
        cut: where something begins that this window cuts, and the next one is to show whole; None if nothing is cut.
    """
    following = top + height * (1 - _LEAST_OVERLAP - covered)
    if cut is not None:
        following = min(following, cut - 2 * _BESIDE - covered * height)
    return max(following, top + height * (1 - _MOST_OVERLAP))


async def _look_in_boxes(tab: Tab, looking: _Looking, extent: Mapping[str, float], end: float) -> bool:
    """Look at what boxes that scroll within the page hold, step by step; they stand where they stood afterwards.

    Returns:
        Whether all of them were looked at, to their ends.
    """
    try:
        for _ in range(_MOST_STEPS):
            place = await tab.ask("scrollOn()")
            if place is None:
                return True
            if time.monotonic() > end:
                return False
            left, top = place
            await looking.look(Window(left, top, extent["height"], extent["scale"]))
        return False
    finally:
        await tab.ask("scrollBack()")


_Stills = tuple[Image.Image, Image.Image]
"""Pictures of a window without a state, and with it."""


class _Looking:
    """What was seen so far, by number; of texts, by number and kind as well."""

    def __init__(self, tab: Tab, camera: Camera, targets: list[int], stops: list[int]) -> None:
        self._tab, self._camera = tab, camera
        self._target_numbers, self._stops = targets, stops
        self._targets: dict[int, Told] = {}
        self._indicators: dict[int, Compared] = {}
        self._texts: dict[tuple[int, int], list[Any]] = {}
        self._found: dict[tuple[int, int], Any] = {}
        self._moving: set[tuple[int, int]] = set()
        self._edges: dict[int, tuple[list[Any], Pair | None]] = {}
        self._icons: dict[int, tuple[int, Pair | None]] = {}
        self._charts: dict[int, tuple[Pair, ...]] = {}
        self._in_state: dict[tuple[int, int, State], tuple[list[Any], Any]] = {}
        self._shown: dict[int, tuple[int, bool]] = {}
        self._pointed: set[int] = set()
        self._without_outline: list[int] = []
        self.lost: set[tuple[int, Lost]] = set()

    async def look(self, window: Window) -> None:
        """Look at the window that is scrolled to; where the page moves things meanwhile, once more."""
        for _ in range(_TRIES):
            texts, edges = await self._told()
            for told in texts:
                self._texts.setdefault((told[0], told[1]), told)
            for told in edges:
                self._edges.setdefault(told[0], (told, None))
            contrasts, pairs = await self._colours(texts, edges, window)
            still = await self._camera.picture()
            indicators = await self._focus(still, texts, window)
            targets = [Told(*told) for told in await self._tab.ask(f"targets({self._target_numbers})")]
            if await self._told() == (texts, edges):
                break
        else:
            return  # it never stood still, so nothing here can be judged
        for key, looked in contrasts.items():
            if looked.contrast is not None:
                self._found[key] = looked.contrast
                self._moving.discard(key)
            elif looked.moves:
                self._moving.add(key)
        self._edges |= pairs
        self._indicators |= indicators
        for each in targets:
            self._targets.setdefault(each.number, each)
        icons = await self._drawn(still, window)
        await self._states(still, texts, window)
        before = SeenBefore(
            [each for each in self._without_outline if indicators[each].indication is Indication.CLEAR],
            [told for told, pair in pairs.values() if is_clear(pair)],
            [told for told in icons if is_clear(self._icons[told[0]][1])],
        )
        self.lost |= await lost_in(self._tab, self._camera, window, before)

    async def _told(self) -> tuple[list[Any], list[Any]]:
        return await self._tab.ask("texts()"), await self._tab.ask("edges()")

    async def _colours(
        self, texts: list[Any], edges: list[Any], window: Window
    ) -> tuple[dict[tuple[int, int], Looked], dict[int, tuple[list[Any], Pair | None]]]:
        """The contrast of texts and of edges that are in the window and not known yet."""
        contrasts: dict[tuple[int, int], Looked] = {}
        pairs: dict[int, tuple[list[Any], Pair | None]] = {}
        pictures: Pictures | None = None
        others = _overlaps(texts)
        for told in texts:
            key, (hinders, _, rects) = (told[0], told[1]), told[5:]
            if key in self._found or hinders or not any(window.shows(rect[1], 0.0) for rect in rects):
                continue
            pictures = pictures or await self._camera.pictures(window)
            pictures, looked = await self._looked_at(told, others, pictures)
            if looked is not None:
                contrasts[key] = looked
        for told in edges:
            number, _, borders, rect, is_round = told
            if self._edges[number][1] is None and window.shows(rect[1] - _BESIDE, rect[3] + 2 * _BESIDE):
                pictures = pictures or await self._camera.pictures(window)
                pairs[number] = (told, edge_contrast(pictures, rect, borders, is_round=bool(is_round)))
        return contrasts, pairs

    async def _looked_at(self, told: list[Any], others: Overlaps, pictures: Pictures) -> tuple[Pictures, Looked | None]:
        """The contrast of a text, and the pictures with all that were needed for it."""
        looked = _contrast(pictures, told, others)
        if looked is not None and looked.needs_probes:
            pictures = await self._camera.with_probes(pictures)
            looked = _contrast(pictures, told, others)
        return pictures, looked

    async def _focus(self, without: Image.Image, texts: list[Any], window: Window) -> dict[int, Compared]:
        """Compare the stops in the window with and without the styles of focus, those at once that are apart."""
        found: dict[int, Compared] = {}
        self._without_outline = []
        near = await self._near(self._stops, self._indicators)
        colours = dict(zip(near, await self._tab.ask(f"coloursIn({near})"), strict=True))
        for some in groups_apart(near, dict(await self._tab.ask(f"places({near})"))):
            async with self._camera.in_state(some, FOCUS):
                with_focus = await self._camera.picture()
                without_outline = await self._tab.ask(f"withoutOutline({some})")
                places = await self._tab.ask(f"places({some})")  # what is out of sight may come in with the focus
                if await self._tab.ask(f"coloursIn({some})") != [colours[each] for each in some]:
                    await self._text_in_state(State.FOCUS, some, (without, with_focus), texts, window)
            for number, (x, y, width, height) in places:
                if x + width > window.left and x < window.left + without.width / window.scale:
                    rect = (x - window.left, y - window.top, width, height)
                    found[number] = compared(without, with_focus, rect, window.scale)
            self._without_outline += [each for each in without_outline if each in found]
        return found

    async def _near(self, numbers: list[int], known: Mapping[int, Any] | set[int]) -> list[int]:
        """Those of some elements that are in the window and were not looked at yet."""
        found: list[int] = await self._tab.ask(f"near({[each for each in numbers if each not in known]})")
        return found

    async def _drawn(self, still: Image.Image, window: Window) -> list[Any]:
        """Look at icons and charts that are in the window and not known yet; return the icons as they were told."""
        found = []
        for told in await self._tab.ask("icons()"):
            number, is_inactive, (x, y, width, height) = told
            if self._icons.get(number, (0, None))[1] is None and window.shows(y - 1, height + 2):
                pair, is_drawn = icon_contrast(still, (x - window.left, y - window.top, width, height), window.scale)
                if is_drawn:
                    self._icons[number] = (is_inactive, pair)
                    found.append(told)
        for number, (x, y, width, height) in await self._tab.ask("charts()"):
            if number not in self._charts and window.shows(y, height):
                rect = (x - window.left, y - window.top, width, height)
                self._charts[number] = meeting_areas(still, rect, window.scale)
        return found

    async def _states(self, still: Image.Image, texts: list[Any], window: Window) -> None:
        """Look at what is pressed while a pointer is on it: at its text, and at what shows."""
        fresh = await self._near(self._target_numbers, self._pointed)
        self._pointed |= set(fresh)
        near = await self._tab.ask(f"answering({fresh})")
        if not near:
            return
        before = {shown for _, shown in await self._tab.ask(f"shownBeside({near})")}
        colours = await self._tab.ask(f"coloursIn({near})")
        async with self._camera.in_state(near, HOVER, is_around=True):
            shown = await self._shown_in_state(near, before)
            if await self._tab.ask(f"coloursIn({near})") != colours:
                await self._text_in_state(State.HOVER, near, (still, await self._camera.picture()), texts, window)
        if shown:
            async with self._camera.in_state(near, FOCUS, is_around=True):
                on_focus = set((await self._shown_in_state(near, before)).values())
            self._shown |= {number: (each, each in on_focus) for number, each in shown.items()}

    async def _shown_in_state(self, numbers: list[int], before: set[int]) -> dict[int, int]:
        """What some elements show in the state that they have now, and did not show before."""
        shown = await self._tab.ask(f"shownBeside({numbers})")
        return {number: each for number, each in shown if each not in before}

    async def _text_in_state(
        self,
        state: State,
        numbers: list[int],
        stills: tuple[Image.Image, Image.Image],
        texts: list[Any],
        window: Window,
    ) -> None:
        """Measure the texts that look different in a state that some elements have now.

        Args:
            state: the state.
            numbers: the elements.
            stills: the window.
            texts: the texts of the page.
            window: the window.
        """
        now = await self._tab.ask(f"textsIn({numbers})")
        changed = [told for told in now if not told[5] and any(_differs(*stills, rect, window) for rect in told[7])]
        if not changed:
            return
        pictures, others = await self._camera.pictures(window), _overlaps([*texts, *now])
        for told in changed:
            pictures, looked = await self._looked_at(told, others, pictures)
            if looked is not None and looked.contrast is not None:
                self._in_state.setdefault((told[0], told[1], state), (told, looked.contrast))

    def seen(self, by_number: Mapping[int, Element]) -> Seen:
        """Return all that was seen."""
        found = Seen()
        for key, told in self._texts.items():
            if told[0] in by_number:
                contrast = self._found.get(key)
                reason = "" if contrast is not None else told[5] or (_MOVES if key in self._moving else UNSEEN)
                found.texts.append(_text_seen(by_number, told, contrast, reason))
        for (number, kind, state), (told, contrast) in self._in_state.items():
            if number in by_number and contrast != self._found.get((number, kind)):
                found.texts.append(_text_seen(by_number, told, contrast, state=state))
        found.edges = [
            EdgeSeen(by_number[number], bool(told[1]), pair)
            for number, (told, pair) in self._edges.items()
            if number in by_number
        ]
        found.targets = targets_of(self._targets, by_number)
        found.indicators = [
            IndicatorSeen(by_number[number], *each) for number, each in self._indicators.items() if number in by_number
        ]
        found.icons = [
            IconSeen(by_number[number], bool(is_inactive), pair)
            for number, (is_inactive, pair) in self._icons.items()
            if number in by_number
        ]
        found.charts = [
            ChartSeen(by_number[number], pairs) for number, pairs in self._charts.items() if number in by_number
        ]
        found.shown = [
            ShownSeen(by_number[number], by_number[shown], is_on_focus)
            for number, (shown, is_on_focus) in self._shown.items()
            if {number, shown} <= by_number.keys()
        ]
        found.lost = [(by_number[number], lost) for number, lost in self.lost if number in by_number]
        found.lost.sort(key=lambda each: (each[0].order, each[1]))
        for some in (found.texts, found.edges, found.indicators, found.icons, found.charts, found.shown):
            some.sort(key=lambda each: each.element.order)
        return found


def _text_seen(
    by_number: Mapping[int, Element], told: list[Any], contrast: Any, reason: str = "", state: State = State.REST
) -> TextSeen:
    number, kind, pixels, weight, _, _, inactive, _ = told
    return TextSeen(by_number[number], _KINDS[kind], pixels, weight, bool(inactive), contrast, reason, state)


def _overlaps(texts: Sequence[list[Any]]) -> Overlaps:
    return Overlaps((told[0], rect) for told in texts for rect in told[7])


def _contrast(pictures: Pictures, told: list[Any], others: Overlaps) -> Looked | None:
    """The contrast of a text as far as it is in pictures; None if it is not, or its colour is not known or is none."""
    within = [rect for rect in told[7] if pictures.holds(rect)]
    paint = _paint(told[4])
    if not within or paint is None or not paint.alpha:
        return None
    over = [each for rect in within for each in others.with_(told[0], rect)]
    return (
        value_contrast(pictures, within, over, paint) if told[1] else text_contrast(pictures, within, over, paint.alpha)
    )


def _differs(one: Image.Image, other: Image.Image, rect: Sequence[float], window: Window) -> bool:
    """Whether two pictures of a window differ in a rectangle of the page."""
    left, top, width, height = rect
    x, y = (left - window.left) * window.scale, (top - window.top) * window.scale
    box = (int(x), int(y), int(x + width * window.scale), int(y + height * window.scale))
    if box[0] < 0 or box[1] < 0 or box[2] > one.width or box[3] > one.height:
        return False
    return ImageChops.difference(one.crop(box), other.crop(box)).getbbox() is not None


def _paint(text: str) -> Paint | None:
    """The colour a browser computed; None for a notation that is not known: no colour is better than a wrong one."""
    try:
        return parse_colour(text)
    except PageError:
        return None
