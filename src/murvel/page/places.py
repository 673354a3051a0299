"""Places: line and column in the source, and XPath in the document."""

from __future__ import annotations

import re
from bisect import bisect_right
from typing import TYPE_CHECKING, NamedTuple

from murvel.page.markup import START_TAG

if TYPE_CHECKING:
    from murvel.page.document import Document, Element

_LINE_END = re.compile(r"\r\n|\r|\n")
_STEP = re.compile(r"([^/\[\]]+)\[(\d+)\]")


class Position(NamedTuple):
    """A line and a column, both counted from 1; columns in characters."""

    line: int
    column: int


class SourceText:
    """The markup of a page as decoded, and the lines in it."""

    __slots__ = ("_starts", "text")

    def __init__(self, text: str) -> None:
        self.text = text
        self._starts: list[int] | None = None

    def position(self, offset: int) -> Position:
        """Return the place of a character; `offset` counts characters from 0."""
        if self._starts is None:
            self._starts = [0, *(match.end() for match in _LINE_END.finditer(self.text))]
        line = bisect_right(self._starts, offset)
        return Position(line, offset - self._starts[line - 1] + 1)

    def snippet(self, offset: int, limit: int, *, has_content: bool) -> str:
        """Return the start tag at `offset` and, for an element with content, what follows on.

        The cut is made at `limit` characters and shown by an ellipsis; an element without content ends with its tag.
        """
        tag = START_TAG.match(self.text, offset)
        end = tag.end() if tag else offset + limit
        if has_content and tag:
            name = re.escape(tag.group(1))
            closing = re.compile(rf"</{name}[\t\n\f\r />]", re.IGNORECASE).search(self.text, end, offset + limit)
            nested = re.compile(rf"<{name}[\t\n\f\r />]", re.IGNORECASE).search(self.text, end, offset + limit)
            if closing and not (nested and nested.start() < closing.start()):
                end = self.text.find(">", closing.start()) + 1 or closing.end()
            else:
                end = offset + limit
        text = self.text[offset : min(end, offset + limit)]
        return text if end <= offset + limit and end <= len(self.text) and text.endswith(">") else text + "…"


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
    """Return the element at an absolute XPath as `xpath` writes it, or None where there is none."""
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
