"""The words for a browser that gives no answer, cannot do what was asked, or answers in words of its own."""

from __future__ import annotations

from playwright.async_api import Error

from murvel.browser.errors import BrowserError
from murvel.text import visible

ANSWER_SECONDS = 15.0
"""Seconds that a page may be busy before it is given up."""

UNSEEN = {
    "nothing": "its element has no size",
    "hidden": "its element is transparent or hidden",
    "outside": "its element is outside of the window",
    "covered": "something lies over its element",
}
"""Why a pointer cannot press an element, by what our script finds there."""

_LONGEST = 300


def gone() -> BrowserError:
    """Return the error for a page whose process has ended."""
    return BrowserError("The page in the browser is gone: its process has died", "open it again.")


def unanswered(seconds: float = ANSWER_SECONDS) -> BrowserError:
    """Return the error for a page that did not answer in time; the reason cannot be seen from outside."""
    return BrowserError(
        f"The page in the browser has not answered for {seconds:g} seconds: a script runs on, or it is too large",
        "open it again, or a part of it.",
    )


def one_line(text: str) -> str:
    """Return text of a page as one short line."""
    line = " ".join(visible(text).split())
    return line if len(line) <= _LONGEST else f"{line[:_LONGEST]}…"


def reason_of(error: Error) -> str:
    """Return the first line of the driver's words, without the call and the address in it."""
    line = one_line(error.message.strip().partition("\n")[0])
    return line.removeprefix("Page.goto: ").partition(" at http")[0]
