"""Starting Chromium and asking it for a page's accessibility tree.

Scripts are off and the viewport is 1280 by 800 CSS pixels. `DOMSnapshot.captureSnapshot` gives the DOM, since it is
quick and does not break on pages nested hundreds of levels; `Accessibility.getFullAXTree` gives the tree; both name
elements by their backend node id.
"""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from playwright.sync_api import BrowserContext, CDPSession, Error, Page, sync_playwright

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
_ELEMENT, _TEXT = 1, 3
"""The types of elements and texts among nodes (DOM §4.4)."""

STATIC_TEXT = "StaticText"
"""The browser's role for text; generated content is text too."""

_MARKER, _BULLETS = "ListMarker", frozenset({"", "• ", "◦ ", "▪ ", "■ ", "▾ ", "▸ ", "▾", "▸"})
"""The browser's role for what marks a list item; these say no more than that there is one."""

_FIELD = re.compile(r"/(?:audio|input|object|textarea|video)\[\d+\]$")
"""Elements in which the browser's own trees show a value once more, as text."""

_PART = "/"
"""What the path of a text or a pseudo-element ends in: it is that of the element it belongs to."""

MOST_STOPS = 200
"""How many stops Tab is pressed for, at most."""

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
"""The absolute XPath of what has the focus, in shadow trees and frames too; empty where it is the page."""


@dataclass(frozen=True, slots=True)
class BrowserNode:
    """What the browser exposes for one element or text.

    Attributes:
        xpath: the absolute XPath of the element; of a text, that of the element around it.
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
        raise BrowserError("No Chromium was found", "install your system's chromium package.")
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=path, args=_FLAGS)
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
        return _nodes(page)


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


def _nodes(page: Page) -> list[BrowserNode]:
    session = page.context.new_cdp_session(page)
    snapshot = session.send("DOMSnapshot.captureSnapshot", {"computedStyles": []})
    paths = _xpaths_with_shadows(session) if _has_shadows(snapshot) else _xpaths(snapshot)
    result = []
    places: dict[str, str | None] = {}
    for node in _all_nodes(session):
        path = paths.get(node.get("backendDOMNodeId", -1))
        role = node["role"]["value"]
        # Generated content has no node of its own.
        is_part = path is None or path.endswith(_PART)
        path = places.get(node.get("parentId", "")) if path is None else path.removesuffix(_PART)
        places[node["nodeId"]] = path
        if is_part and role == "image":
            role = STATIC_TEXT
        elif is_part and role not in (STATIC_TEXT, _MARKER):
            continue
        if path is None or node.get("ignored"):
            continue
        if role == _MARKER:
            role = STATIC_TEXT
        if role == STATIC_TEXT and (_value(node, "name") in _BULLETS or _FIELD.search(path)):
            continue
        result.append(
            BrowserNode(
                path,
                role,
                _value(node, "name"),
                _value(node, "description"),
                _value(node, "value"),
                {each["name"]: each["value"].get("value") for each in node.get("properties", [])},
            )
        )
    return result


def _in_order(nodes: list[dict[str, Any]]) -> Iterator[dict[str, Any]]:
    """Yield nodes in the order of the tree; the browser gives them level by level."""
    by_id = {node["nodeId"]: node for node in nodes}
    stack = [node for node in reversed(nodes) if node.get("parentId") not in by_id]
    while stack:
        node = stack.pop()
        yield node
        stack.extend(by_id[child] for child in reversed(node.get("childIds", ())) if child in by_id)


def _all_nodes(session: CDPSession) -> Iterator[dict[str, Any]]:
    """Yield the nodes of the page's tree, and of the trees of those frames that are exposed themselves."""
    frames = [session.send("Page.getFrameTree")["frameTree"]]
    shown: set[int] = set()
    for frame in frames:  # grows while it is gone through
        identity = {"frameId": frame["frame"]["id"]}
        if frame is not frames[0] and session.send("DOM.getFrameOwner", identity)["backendNodeId"] not in shown:
            continue
        nodes = session.send("Accessibility.getFullAXTree", identity)["nodes"]
        shown.update(node.get("backendDOMNodeId", -1) for node in nodes if not node.get("ignored"))
        yield from _in_order(nodes)
        frames += frame.get("childFrames", [])


def _value(node: dict[str, Any], key: str) -> str:
    return str(node.get(key, {}).get("value", ""))


def _xpaths(snapshot: dict[str, Any]) -> dict[int, str]:
    """Return the absolute XPath of each element by its backend node id.

    As in our documents, a frame's document stands in its frame.
    """
    strings = snapshot["strings"]
    paths: dict[int, str] = {}
    around = {0: ""}
    for number, document in enumerate(snapshot["documents"]):
        nodes = document["nodes"]
        by_index: dict[int, str] = {0: around.get(number, "")}
        counts: dict[tuple[int, str], int] = {}
        for index, parent in enumerate(nodes["parentIndex"]):
            name = strings[nodes["nodeName"][index]]
            if nodes["nodeType"][index] == _TEXT or name.startswith("::"):
                # A text, or a pseudo-element, is told by the element it belongs to.
                by_index[index] = by_index.get(parent, "")
                paths[nodes["backendNodeId"][index]] = by_index[index] + _PART
            if nodes["nodeType"][index] != _ELEMENT or name.startswith("::"):
                continue
            tag = name.lower() if name.isupper() else name
            counts[parent, tag] = counts.get((parent, tag), 0) + 1
            by_index[index] = f"{by_index.get(parent, '')}/{tag}[{counts[parent, tag]}]"
            paths[nodes["backendNodeId"][index]] = by_index[index]
        inside = nodes["contentDocumentIndex"]
        around.update((other, by_index[frame]) for frame, other in zip(inside["index"], inside["value"], strict=True))
    return paths


def _has_shadows(snapshot: dict[str, Any]) -> bool:
    """Whether the page itself declares shadow trees; those of the browser's own controls do not count."""
    strings = snapshot["strings"]
    kinds = {value for document in snapshot["documents"] for value in document["nodes"]["shadowRootType"]["value"]}
    return any(strings[kind] in ("open", "closed") for kind in kinds)


def _xpaths_with_shadows(session: CDPSession) -> dict[int, str]:
    """The same for a page with shadow trees, which the snapshot gives as they are shown: what a slot takes has moved.

    As in our documents, a shadow tree stands in the template that declares it.
    """
    paths: dict[int, str] = {}
    document = session.send("DOM.getDocument", {"depth": -1, "pierce": True})["root"]
    stack: list[tuple[dict[str, Any], str]] = [(document, "")]
    while stack:
        parent, prefix = stack.pop()
        counts: dict[str, int] = {}
        for node in parent.get("children", ()):
            if node["nodeType"] == _TEXT:
                paths[node["backendNodeId"]] = prefix + _PART
            if node["nodeType"] != _ELEMENT:
                continue
            tag = node["localName"]
            counts[tag] = counts.get(tag, 0) + 1
            path = f"{prefix}/{tag}[{counts[tag]}]"
            paths[node["backendNodeId"]] = path
            stack.append((node, path))
            for pseudo in node.get("pseudoElements", ()):
                paths[pseudo["backendNodeId"]] = path + _PART
            shadows = [root for root in node.get("shadowRoots", ()) if root["shadowRootType"] in ("open", "closed")]
            stack.extend((root, path + "/template[1]") for root in shadows)
            if "contentDocument" in node:
                stack.append((node["contentDocument"], path))
    return paths
