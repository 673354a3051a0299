"""Targets for pointers, from where the browser says they are: which are too small, and what is too near to those."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import hypot
from typing import NamedTuple

from murvel.dom.document import Element
from murvel.stage.seen import TARGET_AA, TargetSeen

Rect = Sequence[float]
"""Left, top, width and height in CSS pixels of the page."""


class Told(NamedTuple):
    """A target as the page tells it: its number, place, the size a pointer reaches, two exceptions, what scrolls it."""

    number: int
    place: Rect
    size: Sequence[float]
    is_in_text: int
    is_native: int
    within: int

    @property
    def is_small(self) -> bool:
        """Whether its size alone is not enough."""
        return min(self.size) < TARGET_AA - 0.5


def targets_of(told: Mapping[int, Told], by_number: Mapping[int, Element]) -> list[TargetSeen]:
    """Return the targets of a page, in document order.

    A small one has room enough where a circle of 24 pixels around its middle meets no other target, and no circle of
    another small one (WCAG 2.2 2.5.8, exception spacing).
    """
    ordered = sorted(told.values(), key=lambda each: each.place[1])
    found = []
    for at, each in enumerate(ordered):
        element = by_number.get(each.number)
        if element is not None:
            near = _nearest(each, at, ordered, by_number) if each.is_small else None
            width, height = each.size
            found.append(TargetSeen(element, width, height, near, bool(each.is_in_text), bool(each.is_native)))
    return sorted(found, key=lambda each: each.element.order)


def _nearest(small: Told, at: int, ordered: list[Told], by_number: Mapping[int, Element]) -> Element | None:
    """The target that is too near to a small one, None if none is; targets are in the order of their tops."""
    best, best_distance = None, TARGET_AA / 2
    x, y = _middle(small.place)
    for step in (-1, 1):
        place = at + step
        while 0 <= place < len(ordered):
            other = ordered[place]
            if step == 1 and other.place[1] > y + TARGET_AA:
                break
            if step == -1 and at - place > _MOST_ABOVE:
                break
            element = by_number.get(other.number) if other.within == small.within else None
            if element is not None and not _is_same(element, by_number[small.number]):
                distance = _distance(x, y, other.place)
                if other.is_small:
                    other_x, other_y = _middle(other.place)
                    distance = min(distance, hypot(other_x - x, other_y - y) - TARGET_AA / 2)
                if distance < best_distance - 0.01:
                    best, best_distance = element, distance
            place += step
    return best


_MOST_ABOVE = 200
"""Targets that begin further up and are looked at: tall ones are few."""


def _is_same(one: Element, other: Element) -> bool:
    """Whether a pointer presses both at once: one stands in the other."""
    return one.contains(other) or other.contains(one)


def _middle(place: Rect) -> tuple[float, float]:
    return place[0] + place[2] / 2, place[1] + place[3] / 2


def _distance(x: float, y: float, place: Rect) -> float:
    """How far a point is from a rectangle."""
    left, top, width, height = place
    return hypot(max(left - x, 0.0, x - left - width), max(top - y, 0.0, y - top - height))
