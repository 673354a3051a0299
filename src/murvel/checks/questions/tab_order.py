"""The Tab order of a page beside its reading order: which stops stand elsewhere, and not merely after those that do."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence

from murvel.dom.document import Element


class TabOrder:
    """The stops of a page in both orders.

    Attributes:
        elements: the stops in Tab's order, silent ones too.
        in_reading: the places in Tab's order, from 0, of the stops in reading order.
        ranks: the place of each among the stops in reading order, from 0, in Tab's order.
        moved: the places in Tab's order, from 0, of the fewest stops that would have to move for the orders to agree.
    """

    def __init__(self, elements: Sequence[Element], places: Sequence[float]) -> None:
        """Take the stops in Tab's order, and where each stands in reading order."""
        self.elements = elements
        self.in_reading = sorted(range(len(elements)), key=places.__getitem__)
        self.ranks = [0] * len(elements)
        for rank, at in enumerate(self.in_reading):
            self.ranks[at] = rank
        self.moved = frozenset(range(len(elements))) - _longest_rise(self.ranks)


def _longest_rise(ranks: Sequence[int]) -> frozenset[int]:
    """The places of a longest rising subsequence, found by keeping the lowest end of each length."""
    ends: list[int] = []  # the ranks that rises of each length end with
    places: list[int] = []  # where those stand
    before: list[int | None] = []
    for at, rank in enumerate(ranks):
        length = bisect_left(ends, rank)
        before.append(places[length - 1] if length else None)
        ends[length : length + 1] = [rank]
        places[length : length + 1] = [at]
    rise: set[int] = set()
    step = places[-1] if places else None
    while step is not None:
        rise.add(step)
        step = before[step]
    return frozenset(rise)
