"""All that is heard of a page, as a search sees it."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Iterator
from functools import lru_cache

from murvel.reader.speech.capitals import joined


@lru_cache(maxsize=50_000)
def searchable(text: str) -> str:
    """Return a text as a search compares it: capitals or not, with single spaces."""
    return " ".join(joined(text).split()).casefold()


class HeardText:
    """What is heard at each item, as one text in which words are found quickly.

    Args:
        lines: what is heard at each item, in reading order.
    """

    def __init__(self, lines: Iterable[str]) -> None:
        self._starts: list[int] = []
        found = []
        at = 0
        for line in map(searchable, lines):
            self._starts.append(at)
            found.append(line)
            at += len(line) + 1
        self._text = "\n".join(found)

    def items_with(self, words: str) -> Iterator[int]:
        """Yield the numbers of the items at which words are heard, which are searchable and not empty."""
        at = self._text.find(words)
        while at >= 0:
            item = bisect_right(self._starts, at) - 1
            yield item
            if item + 1 == len(self._starts):
                return
            at = self._text.find(words, self._starts[item + 1])
