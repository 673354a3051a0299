"""The markup of a page as decoded: line and column of any offset, and snippets of it."""

from __future__ import annotations

import re
from bisect import bisect_right
from typing import NamedTuple

from murvel.dom.markup import START_TAG

_LINE_END = re.compile(r"\r\n|\r|\n")


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

    def position_of(self, text: str) -> Position | None:
        """Return the place of a text; None if it stands in the source more than once, or not at all."""
        at = self.text.find(text)
        return None if at == -1 or self.text.find(text, at + 1) != -1 else self.position(at)

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
