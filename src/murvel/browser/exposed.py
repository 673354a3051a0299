"""What a browser exposes, element by element, from the answers of its DevTools protocol.

`DOMSnapshot.captureSnapshot` gives the DOM, since it is quick and does not break on pages nested hundreds of levels;
`Accessibility.getFullAXTree` gives the tree; both name elements by their backend node id. Elements are named by their
absolute XPaths, as in our documents: a frame's document stands in its frame, a shadow tree in a template.
"""

from __future__ import annotations

from collections.abc import Awaitable, Callable, Iterator
from typing import Any

from murvel.patterns import pattern
from murvel.tree.exchange.agreement import STATIC_TEXT, BrowserNode

_ELEMENT, _TEXT = 1, 3
"""The types of elements and texts among nodes (DOM §4.4)."""

_MARKER, _BULLETS = "ListMarker", frozenset({"", "• ", "◦ ", "▪ ", "■ ", "▾ ", "▸ ", "▾", "▸"})
"""The browser's role for what marks a list item; these say no more than that there is one."""

_IMAGE = "image"
"""The browser's role for an image, also of generated content."""

_FIELD = pattern(r"/(?:audio|input|object|textarea|video)\[\d+\]$")
"""Elements in which the browser's own trees show a value once more, as text."""

_PART = "/"
"""What the path of a text or a pseudo-element ends in: it is that of the element it belongs to."""


Send = Callable[[str, dict[str, Any]], Awaitable[dict[str, Any]]]
"""Sends a command of the DevTools protocol, and returns its answer."""


async def exposed(send: Send) -> list[BrowserNode]:
    """Return what the browser exposes for the elements and texts of a page, in the order of its tree."""
    snapshot = await send("DOMSnapshot.captureSnapshot", {"computedStyles": []})
    paths = await _xpaths_with_shadows(send) if _has_shadows(snapshot) else _xpaths(snapshot)
    result = []
    places: dict[str, str | None] = {}
    for node in await _all_nodes(send):
        path = paths.get(node.get("backendDOMNodeId", -1))
        role = node["role"]["value"]
        # Generated content has no node of its own.
        is_part = path is None or path.endswith(_PART)
        path = places.get(node.get("parentId", "")) if path is None else path.removesuffix(_PART)
        places[node["nodeId"]] = path
        if is_part and role == _IMAGE:
            role = STATIC_TEXT
        elif is_part and role not in (STATIC_TEXT, _MARKER):
            continue
        if path is None or node.get("ignored"):
            continue
        if role == _MARKER:
            role = STATIC_TEXT
        if role == STATIC_TEXT and (_value(node, "name") in _BULLETS or _FIELD.search(path)):
            continue
        result.append(browser_node(node, path, role))
    return result


def browser_node(node: dict[str, Any], path: str, role: str) -> BrowserNode:
    """Return a node of the protocol as ours, at a path and in a role."""
    return BrowserNode(
        path,
        role,
        _value(node, "name"),
        _value(node, "description"),
        _value(node, "value"),
        {each["name"]: each["value"].get("value") for each in node.get("properties", [])},
    )


def _in_order(nodes: list[dict[str, Any]]) -> Iterator[dict[str, Any]]:
    """Yield nodes in the order of the tree; the browser gives them level by level."""
    by_id = {node["nodeId"]: node for node in nodes}
    stack = [node for node in reversed(nodes) if node.get("parentId") not in by_id]
    while stack:
        node = stack.pop()
        yield node
        stack.extend(by_id[child] for child in reversed(node.get("childIds", ())) if child in by_id)


async def _all_nodes(send: Send) -> list[dict[str, Any]]:
    """Return the nodes of the page's tree, and of the trees of those frames that are exposed themselves."""
    frames = [(await send("Page.getFrameTree", {}))["frameTree"]]
    shown: set[int] = set()
    found: list[dict[str, Any]] = []
    for frame in frames:  # grows while it is gone through
        identity = {"frameId": frame["frame"]["id"]}
        if frame is not frames[0]:
            owner = await send("DOM.getFrameOwner", identity)
            if owner["backendNodeId"] not in shown:
                continue
        nodes = (await send("Accessibility.getFullAXTree", identity))["nodes"]
        shown.update(node.get("backendDOMNodeId", -1) for node in nodes if not node.get("ignored"))
        found += _in_order(nodes)
        frames += frame.get("childFrames", [])
    return found


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


async def _xpaths_with_shadows(send: Send) -> dict[int, str]:
    """The same for a page with shadow trees, which the snapshot gives as they are shown: what a slot takes has moved.

    As in our documents, a shadow tree stands in the template that declares it.
    """
    paths: dict[int, str] = {}
    document = (await send("DOM.getDocument", {"depth": -1, "pierce": True}))["root"]
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
