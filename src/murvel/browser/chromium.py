"""Starting Chromium and asking it for a page's accessibility tree.

Scripts are off and the viewport is 1280 by 800 CSS pixels. `DOMSnapshot.captureSnapshot` gives the DOM, since it is
quick and does not break on pages nested hundreds of levels; `Accessibility.getFullAXTree` gives the tree; both name
elements by their backend node id.
"""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from playwright.sync_api import BrowserContext, Error, Page, sync_playwright

from murvel.browser.errors import BrowserError

VIEWPORT = (1280, 800)
"""The viewport's width and height in CSS pixels."""

_NAMES = ("chromium", "chromium-browser", "google-chrome")
_FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-quic",
]
_ELEMENT = 1


@dataclass(frozen=True, slots=True)
class BrowserNode:
    """What the browser exposes for one element.

    Attributes:
        xpath: the element's absolute XPath.
        role: the browser's own role name.
        name, description, value: as text.
        states: its properties by name.
    """

    xpath: str
    role: str
    name: str
    description: str
    value: str
    states: dict[str, Any] = field(default_factory=dict)


def find_chromium() -> str | None:
    """Return the path of an installed Chromium, None where there is none."""
    return next((path for name in _NAMES if (path := shutil.which(name)) is not None), None)


@contextmanager
def chromium() -> Iterator[BrowserContext]:
    """Start Chromium without scripts and close it afterwards.

    Raises:
        BrowserError: there is none, or it does not start.
    """
    path = find_chromium()
    if path is None:
        raise BrowserError("No Chromium was found; install your system's chromium package.")
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=path, args=_FLAGS)
            viewport = {"width": VIEWPORT[0], "height": VIEWPORT[1]}
            yield browser.new_context(java_script_enabled=False, viewport=viewport)  # type: ignore[arg-type]
            browser.close()
    except Error as error:
        raise BrowserError(
            f"Chromium could not be used ({error.message.splitlines()[0]}); check its installation."
        ) from error


def exposed(context: BrowserContext, path: Path) -> list[BrowserNode]:
    """Return what the browser exposes for the elements of a local page, in the order of its tree.

    Raises:
        BrowserError: the page cannot be opened.
    """
    page = context.pages[0] if context.pages else context.new_page()
    try:
        page.goto(path.resolve().as_uri(), wait_until="load", timeout=60_000)
        return _nodes(page)
    except Error as error:
        raise BrowserError(f"{path} cannot be opened in Chromium ({error.message.splitlines()[0]}).") from error


def _nodes(page: Page) -> list[BrowserNode]:
    session = page.context.new_cdp_session(page)
    snapshot = session.send("DOMSnapshot.captureSnapshot", {"computedStyles": []})
    paths = _xpaths(snapshot)
    result = []
    for node in session.send("Accessibility.getFullAXTree")["nodes"]:
        path = paths.get(node.get("backendDOMNodeId", -1))
        if path is None or node.get("ignored"):
            continue
        result.append(
            BrowserNode(
                path,
                node["role"]["value"],
                _value(node, "name"),
                _value(node, "description"),
                _value(node, "value"),
                {each["name"]: each["value"].get("value") for each in node.get("properties", [])},
            )
        )
    return result


def _value(node: dict[str, Any], key: str) -> str:
    return str(node.get(key, {}).get("value", ""))


def _xpaths(snapshot: dict[str, Any]) -> dict[int, str]:
    """Return the absolute XPath of each element of the main document by its backend node id."""
    strings = snapshot["strings"]
    nodes = snapshot["documents"][0]["nodes"]
    paths: dict[int, str] = {}
    by_index: dict[int, str] = {}
    counts: dict[tuple[int, str], int] = {}
    for index, parent in enumerate(nodes["parentIndex"]):
        if nodes["nodeType"][index] != _ELEMENT:
            continue
        name = strings[nodes["nodeName"][index]]
        tag = name.lower() if name.isupper() else name
        counts[parent, tag] = counts.get((parent, tag), 0) + 1
        by_index[index] = f"{by_index.get(parent, '')}/{tag}[{counts[parent, tag]}]"
        paths[nodes["backendNodeId"][index]] = by_index[index]
    return paths
