"""Where on a page a node stands, as a reader would say it: its landmarks, and the headings above it."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from itertools import takewhile
from operator import attrgetter

from murvel.tree.model import Tree
from murvel.tree.node import Node


def trail(headings: Sequence[Node], node: Node) -> list[Node]:
    """Return the landmarks that a node stands in and the headings that it stands under, in reading order.

    A heading counts until one of its level or a higher one follows (HTML §4.3.11).

    Args:
        headings: those of the page, in reading order.
        node: the node.
    """
    above: list[Node] = []
    for each in takewhile(lambda heading: heading.id < node.id, headings):
        while above and _level(above[-1]) >= _level(each):
            above.pop()
        above.append(each)
    if node.role == "heading":
        above = [each for each in above if _level(each) < _level(node)]
    landmarks = [each for each in node.ancestors() if each.is_landmark]
    return sorted((*landmarks, *(each for each in above if not each.contains(node))), key=lambda each: each.id)


def headings_in(tree: Tree) -> list[Node]:
    """Return the headings of a page that have a name, in reading order."""
    return [node for node in tree.nodes if node.role == "heading" and node.name.strip()]


def heading_over(headings: Sequence[Node], node: Node) -> Node | None:
    """Return the last heading that begins before a node, None if there is none.

    Args:
        headings: those of the page, in reading order.
        node: the node.
    """
    at = bisect_left(headings, node.id, key=attrgetter("id"))
    return headings[at - 1] if at else None


def _level(heading: Node) -> float:
    """Its level; one without any is of the second (WAI-ARIA 1.2 §5.4, heading)."""
    level = heading.states.get("level")
    return level if isinstance(level, int | float) else 2
