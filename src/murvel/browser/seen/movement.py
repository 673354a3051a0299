"""What moves by itself on a page for longer than five seconds, and what counts down (WCAG 2.2, 2.2.1 and 2.2.2)."""

from __future__ import annotations

import asyncio
import base64
import io
import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from itertools import islice
from typing import NamedTuple

from PIL import Image, UnidentifiedImageError

from murvel.browser.errors import BrowserError
from murvel.browser.seen.camera import Camera
from murvel.browser.seen.copies import ByItself, Change
from murvel.browser.tab import Tab
from murvel.dom.document import Element
from murvel.patterns import pattern
from murvel.stage.seen import Movement, MovingSeen

_LONG = 5.0
"""Seconds from which on movement has to be one that a person can stop."""

_CALM = 1.2
"""Seconds without a change after which a page is not watched for what scripts change."""

_WATCHED = 2.4
"""Seconds in which it is watched; what counts seconds changes twice in them."""

_LEAST_TIMES, _LEAST_TIMES_OF_TEXT = 3, 2
_LEAST_SPAN = 0.8
_FRAMED = ("GIF", "WEBP", "PNG")
_MOST_PICTURES, _MOST_BYTES = 20, 5_000_000

_TIME = pattern(r"\b\d{1,2}:\d\d\b|\b\d+\s*(?:s|sec|min)", re.IGNORECASE)
"""What a text that counts down looks like, in any language that writes times with figures."""


Find = Callable[[str], Element | None]
"""Returns the element at an absolute XPath, None if there is none."""


class _Scripted(NamedTuple):
    """An element that scripts change: the kind of change, and how often."""

    element: Element
    kind: str
    times: int
    words: str


async def moving(
    tab: Tab, camera: Camera, by_number: Mapping[int, Element], find: Find, copied: ByItself | None
) -> list[MovingSeen]:
    """Return what moves by itself, in document order.

    Args:
        tab: the page.
        camera: sets what a person prefers.
        by_number: the elements by our numbers.
        find: returns the element at an absolute XPath.
        copied: what a copy of the page does by itself; None if there is no such copy, and the page is watched.

    Raises:
        BrowserError: the page does not answer.
    """
    told = [tuple(each) for each in await tab.ask("moving()")]
    pictures = await _with_frames(tab)
    scripted = _on_copy(copied.changes, find) if copied is not None else await _watched(tab, by_number)
    resting: set[int] = set()
    if told:
        still_moving = {number for number, *_ in await camera.moving_with_less_motion()}
        resting = {number for number, *_ in told} - still_moving
    found = [
        MovingSeen(by_number[number], Movement(kind), seconds, number in resting)
        for number, kind, seconds in told
        if number in by_number and (seconds is None or seconds > _LONG)
    ]
    known = {each.element for each in found}
    found += [
        MovingSeen(by_number[number], Movement.PICTURE, seconds, rests=False)
        for number, seconds in pictures
        if number in by_number
    ]
    for element, kind, times, words in scripted:
        if element in known or times < _LEAST_TIMES_OF_TEXT:
            continue
        if kind == "text" and _TIME.search(words):
            found.append(MovingSeen(element, Movement.COUNTDOWN, None, rests=False, words=words))
        elif times >= _LEAST_TIMES:
            found.append(MovingSeen(element, Movement.SCRIPT, None, rests=False))
    return _one_a_cause(sorted(found, key=lambda each: each.element.order))


def _one_a_cause(found: list[MovingSeen]) -> list[MovingSeen]:
    """Put together what a script moves in one part of the page, as the slides, dots and words of a carousel."""
    kept: list[MovingSeen] = []
    for each in found:
        last = kept[-1] if kept else None
        around = None
        if last is not None and {last.movement, each.movement} == {Movement.SCRIPT}:
            around = _part_around(last.element, each.element)
        if around is None or last is None:
            kept.append(each)
        else:
            kept[-1] = replace(last, element=around, rests=last.rests and each.rests)
    return kept


def _part_around(one: Element, other: Element) -> Element | None:
    """The nearest element that holds two, None if it is the page or a large part of it, or far above one of them."""
    if one.contains(other):
        return one
    for around in islice(other.ancestors(), _MOST_LEVELS):
        if around.tag in _LARGE:
            return None
        if around.contains(one):
            return around
    return None


_LARGE = frozenset({"html", "body", "main", "header", "footer", "article"})
_MOST_LEVELS = 5


def _on_copy(changes: Iterable[Change], find: Find) -> list[_Scripted]:
    """What scripts change for more than five seconds on a copy."""
    elements = ((find(each.path), each) for each in changes if each.span >= _LONG)
    return [_Scripted(element, each.kind, each.times, each.words) for element, each in elements if element is not None]


async def _watched(tab: Tab, by_number: Mapping[int, Element]) -> list[_Scripted]:
    """What scripts change all the time; a page that has come to rest is not waited for."""
    await asyncio.sleep(max(_CALM - await tab.ask("calm()"), 0))
    if await tab.ask("calm()") >= _CALM:
        return []
    await tab.ask("watch()")
    await asyncio.sleep(_WATCHED)
    told = await tab.ask("watchedNow()")
    return [
        _Scripted(by_number[number], kind, times, words)
        for number, kind, times, span, words in told
        if number in by_number and span >= _LEAST_SPAN
    ]


async def _with_frames(tab: Tab) -> list[tuple[int, float | None]]:
    """The pictures that move for longer than five seconds: their numbers, and for how long."""
    found = []
    for number, address in (await tab.ask("framed()"))[:_MOST_PICTURES]:
        seconds = _duration(await _content(tab, address))
        if seconds is None or seconds > _LONG:
            found.append((number, seconds))
    return found


async def _content(tab: Tab, address: str) -> bytes:
    """What a picture holds, as the browser has it; nothing where it is too large or the browser does not give it."""
    if address.startswith("data:"):
        head, _, data = address.partition(",")
        try:
            return base64.b64decode(data[:_MOST_BYTES]) if head.endswith(";base64") else b""
        except ValueError:
            return b""
    try:
        given = {"frameId": tab.frame, "url": address}
        content = await tab.send("Page.getResourceContent", given)
    except BrowserError:
        return b""
    return (
        base64.b64decode(content["content"])
        if content["base64Encoded"] and len(content["content"]) < _MOST_BYTES
        else b""
    )


def _duration(data: bytes) -> float | None:
    """For how many seconds a picture moves; 0 if it stands still or cannot be read, None if it does not end."""
    if not data:
        return 0.0
    try:
        with Image.open(io.BytesIO(data), formats=_FRAMED) as picture:
            frames = getattr(picture, "n_frames", 1)
            if frames < 2:
                return 0.0
            rounds = picture.info.get("loop", 1)
            return None if rounds == 0 else rounds * frames * float(picture.info.get("duration", 100)) / 1000
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError):
        return 0.0
