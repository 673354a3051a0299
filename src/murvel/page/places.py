"""Places in the document: absolute XPaths, written and found again."""

from __future__ import annotations

import re

from murvel.page.document import Document, Element

_STEP = re.compile(r"([^/\[\]]+)\[(\d+)\]")


def xpath(element: Element) -> str:
    """Return the absolute XPath of an element, with an index on every step, as /html[1]/body[1]/div[2].

    Elements of SVG and MathML are named as HTML's XPath (DOM §8) finds them by local name.
    """
    steps = []
    node: Element | None = element
    while node is not None:
        parent = node.parent
        index = 1
        if parent is not None:
            for sibling in parent.children:
                if sibling is node:
                    break
                if getattr(sibling, "tag", None) == node.tag:
                    index += 1
        steps.append(f"/{node.tag}[{index}]")
        node = parent
    return "".join(reversed(steps))


def all_xpaths(document: Document) -> dict[int, str]:
    """Return the absolute XPath of every element by its order; one pass, however many siblings there are."""
    paths = {document.root.order: f"/{document.root.tag}[1]"}
    stack = [document.root]
    while stack:
        parent = stack.pop()
        prefix = paths[parent.order]
        counts: dict[str, int] = {}
        for child in parent.elements():
            counts[child.tag] = counts.get(child.tag, 0) + 1
            paths[child.order] = f"{prefix}/{child.tag}[{counts[child.tag]}]"
            stack.append(child)
    return paths


def find_xpath(document: Document, path: str) -> Element | None:
    """Return the element at an absolute XPath as `xpath` writes it, or None if there is none."""
    steps = _STEP.findall(path)
    if "".join(f"/{tag}[{index}]" for tag, index in steps) != path or not steps:
        return None
    if steps[0] != (document.root.tag, "1"):
        return None
    node = document.root
    for tag, index in steps[1:]:
        matching = [child for child in node.elements() if child.tag == tag]
        if not 1 <= int(index) <= len(matching):
            return None
        node = matching[int(index) - 1]
    return node
