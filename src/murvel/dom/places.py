"""Places in the document: absolute XPaths, written and found again."""

from __future__ import annotations

from murvel.dom.document import Document, Element
from murvel.patterns import pattern

_STEP = pattern(r"([^/\[\]]+)\[(\d+)\]")


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


class Paths:
    """The absolute XPaths of elements of a document that stays as it is.

    For asking of many: siblings are counted once, however many there are.
    """

    def __init__(self) -> None:
        self._around: dict[Element, str] = {}
        """The paths of elements whose children were counted."""
        self._numbers: dict[Element, int] = {}
        """Which of the siblings of its name an element is."""

    def of(self, element: Element) -> str:
        """Return the path of an element; what is no child of its parent, as the browser's own summary, has that of
        its parent."""
        uncounted: list[Element] = []
        above = element.parent
        while above is not None and above not in self._around:
            uncounted.append(above)
            above = above.parent
        for each in reversed(uncounted):
            self._around[each] = self._path(each)
            counts: dict[str, int] = {}
            for child in each.elements():
                counts[child.tag] = self._numbers[child] = counts.get(child.tag, 0) + 1
        return self._path(element)

    def _path(self, element: Element) -> str:
        if element.parent is None:
            return f"/{element.tag}[1]"
        around, number = self._around[element.parent], self._numbers.get(element)
        return around if number is None else f"{around}/{element.tag}[{number}]"


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
