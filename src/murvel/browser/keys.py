"""Keys and the pointer, given to a page as the browser gives them."""

from __future__ import annotations

import asyncio
from contextlib import suppress
from typing import Any

from playwright.async_api import Error

from murvel.browser.errors import BrowserError
from murvel.browser.tab import Tab
from murvel.dom.document import Element
from murvel.dom.html.controls import field_value
from murvel.dom.html.facts import is_disabled, is_editable
from murvel.dom.html.inputs import TYPED, control_type
from murvel.stage.inputs import BACKSPACE, Activate, Focus, Hover, Input, Keystroke, Press, Type
from murvel.stage.inputs import Tab as TabKey

_NAMES = {Keystroke.SPACE: "Space"}
_MOST_SCROLLS, _AFTER_SCROLL = 5, 0.04
"""How often a page is scrolled to an element before it is pressed, and the seconds after each time."""


class Keyboard:
    """The keyboard and the pointer of one page."""

    def __init__(self, tab: Tab) -> None:
        self._tab = tab

    async def give(self, given: Input, number: int | None) -> None:
        """Give the page what a person does.

        Args:
            given: what that is.
            number: the browser's number of the element it is done to, None if it goes to the page.

        Raises:
            BrowserError: the page does not answer.
        """
        try:
            match given:
                case TabKey(is_back):
                    if number is not None:
                        await self._ask_of(number, f"startAt({{}}, {'true' if is_back else 'false'})")
                    await self._tab.page.keyboard.press("Shift+Tab" if is_back else "Tab")
                case Focus():
                    await self._ask_of(number, "focusOn({})")
                case Press(stroke):
                    if number is not None:
                        await self._ask_of(number, "focusOn({})")
                    await self._tab.page.keyboard.press(_NAMES.get(stroke, stroke.value))
                case Type(_, character):
                    await self._ask_of(number, "focusOn({})")
                    if character == BACKSPACE:
                        await self._tab.page.keyboard.press("Backspace")
                    else:
                        await self._tab.page.keyboard.type(character)
                case Activate():
                    await self._click(number)
                case Hover(None):
                    await self._tab.page.mouse.move(0, 0)
                case Hover():
                    point = await self._point(number)
                    if point is None:
                        raise BrowserError("A pointer does not reach it: it has no box, or something lies over it.")
                    await self._tab.page.mouse.move(*point)
        except Error as error:
            raise BrowserError("The page in the browser took no key", "open it again.") from error

    async def _point(self, number: int | None, *, is_focus: bool = False) -> list[float] | None:
        """Where the pointer reaches an element, which may get the focus first; pages often change as they are
        scrolled to it."""
        if number is None:
            return None
        point: list[float] | None = None
        await self._tab.frames.bring_into_sight(number)
        for turn in range(_MOST_SCROLLS):
            moved, point = await self._ask_of(number, f"aim({{}}, {'true' if is_focus and not turn else 'false'})")
            if not moved:
                break
            await asyncio.sleep(_AFTER_SCROLL)
        if point is None:
            return None
        left, top = await self._tab.frames.offset(number)
        return [point[0] + left, point[1] + top]

    async def _ask_of(self, number: int | None, question: str) -> Any:
        """Return the answer about an element; None if there is no element."""
        return await self._tab.frames.ask_of(number, question) if number is not None else None

    async def _click(self, number: int | None) -> None:
        """Give an element the focus and click at it with the pointer; where that does not reach it, as assistive
        technology does."""
        point = await self._point(number, is_focus=True)
        if point is None:
            await self._ask_of(number, "click({})")
            return
        with suppress(Error):
            await self._tab.page.mouse.click(*point)


def echo(element: Element | None, character: str) -> str:
    """Return the character that is typed into an element, or taken away; empty where nothing takes it."""
    if element is None or is_disabled(element) or "readonly" in element.attributes:
        return ""
    is_field = element.tag == "textarea" or control_type(element) in TYPED
    if not is_field and not is_editable(element):
        return ""
    if character != BACKSPACE:
        return character
    return (field_value(element) if is_field else element.text())[-1:]
