"""Formatting tags that are left open (HTML §13.2.4.3, the list of active formatting elements).

A parser opens each of them again in every block that follows, so a short source can ask for very many elements.
"""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass, field
from typing import NamedTuple

from murvel.loading.errors import PageError
from murvel.patterns import pattern

_EQUAL_AT_MOST = 3
"""How many equal formatting elements a parser keeps; equal are those with one name and the same attributes."""

_OPEN_AT_MOST = 4_000
"""The most different ones that may be open: a parser compares each with all others."""

_CELLS = frozenset({"caption", "td", "th"})
"""A parser looks no further than these for formatting (HTML §13.2.4.3, markers)."""

_BETWEEN_CELLS = frozenset({"col", "colgroup", "tbody", "tfoot", "thead", "tr"})
"""What ends a cell; formatting here belongs to what is around the table."""

_ALONE = frozenset({"a", "nobr"})
"""A second one of these closes the first (HTML §13.2.6.4.7)."""

_FORMATTING = pattern(
    r"<(/?)(b|big|code|em|font|i|s|small|strike|strong|tt|u|td|th|caption)(?=[\t\n\f\r />])", re.IGNORECASE
)
_TAG = pattern(
    r"<(/?)(a|b|big|code|em|font|i|nobr|s|small|strike|strong|tt|u|table|caption|col|colgroup|tbody|td|tfoot|th|thead|tr)"
    r"(?=[\t\n\f\r />])([^>]*)",
    re.IGNORECASE,
)


class LeftOpen(NamedTuple):
    """What a source leaves open.

    Attributes:
        often: the names of formatting tags that are open more than three times at once. A parser looks which of them
            are equal, so nothing may be written into them.
        steps: the offsets at which the source may pass each further step of elements, in ascending order.
    """

    often: frozenset[str]
    steps: list[int]


@dataclass(slots=True)
class _Cell:
    """The formatting that is open in one cell of a table, or outside of all: a parser looks no further."""

    tags: dict[str, list[str]] = field(default_factory=dict)
    equal: Counter[str] = field(default_factory=Counter)

    def opens(self, name: str, tag: str) -> bool:
        """Note a start tag, and return whether enough of its name are open for equal ones to matter."""
        if name in _ALONE:
            self.closes(name)
        same = self.tags.setdefault(name, [])
        if self.equal[tag] < _EQUAL_AT_MOST:
            same.append(tag)
            self.equal[tag] += 1
            return len(same) > _EQUAL_AT_MOST
        return True

    def closes(self, name: str) -> None:
        """Note an end tag."""
        if self.tags.get(name):
            self.equal[self.tags[name].pop()] -= 1

    def count(self) -> int:
        """How many elements are opened again in a block."""
        return sum(map(len, self.tags.values()))


def left_open(source: str, step: int) -> LeftOpen:
    """Return what formatting tags a source leaves open, and where they may have cost what.

    Args:
        source: the page's source.
        step: how many elements are opened again, at most, from one step to the next.

    Raises:
        PageError: very many are open at once.
    """
    if not _may_cost(source):
        return LeftOpen(frozenset(), [])
    cells = [_Cell()]
    often: set[str] = set()
    steps: list[int] = []
    spent = 0
    last = 0
    for found in (*_TAG.finditer(source), None):
        cost = cells[-1].count()
        place = source.find("<", last, found.start() if found else None) if cost else -1
        while place != -1:
            spent += cost
            if spent > step:
                steps.append(place)
                spent = 0
            place = source.find("<", place + 1, found.start() if found else None)
        if found is not None:
            last = found.end()
            if cost > _OPEN_AT_MOST:
                raise PageError(f"The page leaves more than {_OPEN_AT_MOST:,} formatting tags open", "close them.")
            _note(found, cells, often)
    return LeftOpen(frozenset(often), steps)


def _may_cost(source: str) -> bool:
    """Whether the limit of open formatting tags may be passed; True where that is not certain."""
    counts: dict[str, int] = {}
    around: dict[str, int] = {}  # what is open around a cell: nothing in the cell closes it
    for slash, name in _FORMATTING.findall(source):
        count = counts.get(name, 0)
        if name.lower() in _CELLS:
            around = dict(counts)
        elif not slash:
            counts[name] = count + 1
            if count >= _EQUAL_AT_MOST:
                return True
        elif count > around.get(name, 0):
            counts[name] = count - 1
    return False


def _note(found: re.Match[str], cells: list[_Cell], often: set[str]) -> None:
    """Note a tag: what it opens, closes, and leaves open too often."""
    slash, name, attributes = found.groups()
    name = name.lower()
    if name == "table":
        if not slash:
            cells.append(cells[-1])
        elif len(cells) > 1:
            cells.pop()
    elif name in _CELLS or name in _BETWEEN_CELLS:
        if len(cells) > 1:
            cells[-1] = _Cell() if name in _CELLS and not slash else cells[-2]
    elif slash:
        cells[-1].closes(name)
    elif cells[-1].opens(name, name + attributes):
        often.add(name)
