"""Asking Chromium for what it makes of a page whose scripts are off: what our own tree of the markup is measured by.

The viewport is 1280 by 800 CSS pixels.
"""

from __future__ import annotations

from collections.abc import Coroutine, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from playwright.sync_api import BrowserContext, Error, Page, sync_playwright

from murvel.browser.errors import BrowserError
from murvel.browser.exposed import exposed as exposed_by
from murvel.browser.launch import FLAGS, find_chromium
from murvel.tree.exchange.agreement import MOST_STOPS, BrowserNode

VIEWPORT = (1280, 800)
"""The viewport's width and height in CSS pixels."""

_FOCUSED = """() => {
    let element = document.activeElement, path = "";
    if (!element || element === document.body) return "";
    while (true) {
        let own = "";
        for (let each = element; each;) {
            const parent = each.parentNode;
            const same = [...parent.children].filter((other) => other.localName === each.localName);
            own = `/${each.localName}[${same.indexOf(each) + 1}]` + own;
            if (parent instanceof ShadowRoot) { own = "/template[1]" + own; each = parent.host; }
            else each = parent === each.ownerDocument ? null : parent;
        }
        path += own;
        if (element.shadowRoot?.activeElement) {
            element = element.shadowRoot.activeElement;
            path = path.slice(0, -own.length);
        }
        else if (element.localName === "iframe" && element.contentDocument?.activeElement) {
            const inside = element.contentDocument;
            if (inside.activeElement === inside.body) return path;
            element = inside.activeElement;
        }
        else return path;
    }
}"""
"""The absolute XPath of what has the focus, in shadow trees and frames too; empty if it is the page."""


@contextmanager
def chromium() -> Iterator[BrowserContext]:
    """Start Chromium without scripts and close it afterwards.

    Raises:
        BrowserError: there is none, or it does not start.
    """
    path = find_chromium()
    if path is None:
        raise BrowserError("No Chromium was found", "install your system's chromium package.")
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=path, args=["--no-sandbox", *FLAGS])
            viewport = {"width": VIEWPORT[0], "height": VIEWPORT[1]}
            yield browser.new_context(java_script_enabled=False, viewport=viewport)  # type: ignore[arg-type]
            browser.close()
    except Error as error:
        raise BrowserError(
            f"Chromium could not be used ({error.message.splitlines()[0]})", "check its installation."
        ) from error


def exposed(context: BrowserContext, path: Path) -> list[BrowserNode]:
    """Return what the browser exposes for the elements of a local page, in the order of its tree.

    Raises:
        BrowserError: the page cannot be opened.
    """
    with _opened(context, path) as page:
        session = page.context.new_cdp_session(page)

        async def send(method: str, given: dict[str, Any]) -> dict[str, Any]:
            return session.send(method, given)

        return _done(exposed_by(send))


def _done(work: Coroutine[Any, Any, list[BrowserNode]]) -> list[BrowserNode]:
    """Return what comes of work that never has to wait."""
    try:
        work.send(None)
    except StopIteration as done:
        return done.value  # type: ignore[no-any-return]
    raise BrowserError("The browser gave no answer.")


def tab_order(context: BrowserContext, path: Path) -> list[str]:
    """Return the absolute XPaths of what gets the focus as Tab is pressed on a local page, in order.

    Raises:
        BrowserError: the page cannot be opened.
    """
    order: list[str] = []
    with _opened(context, path) as page:
        for _ in range(10 * MOST_STOPS):  # some fields have several places that Tab stops at
            if len(order) == MOST_STOPS:
                break
            page.keyboard.press("Tab")
            focused = page.evaluate(_FOCUSED)
            if not focused or (order and focused == order[0]):
                break
            if order[-1:] != [focused]:
                order.append(focused)
    return order


@contextmanager
def _opened(context: BrowserContext, path: Path) -> Iterator[Page]:
    page = context.pages[0] if context.pages else context.new_page()
    try:
        page.goto(path.resolve().as_uri(), wait_until="load", timeout=60_000)
        yield page
    except Error as error:
        raise BrowserError(f"{path} cannot be opened in Chromium ({error.message.splitlines()[0]}).") from error
