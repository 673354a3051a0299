"""Where on a page a node stands, as a reader would say it: its landmarks, and the headings above it."""

from __future__ import annotations

from murvel.tree.model import Tree
from murvel.tree.node import Node


def trail(tree: Tree, node: Node) -> list[Node]:
    """Return the landmarks that a node stands in and the headings that it stands under, in reading order.

    A heading counts until one of its level or a higher one follows (HTML §4.3.11).
    """
    headings: list[Node] = []
    for each in tree.nodes[: node.id]:
        if each.role == "heading":
            while headings and _level(headings[-1]) >= _level(each):
                headings.pop()
            headings.append(each)
    if node.role == "heading":
        headings = [each for each in headings if _level(each) < _level(node)]
    landmarks = [each for each in node.ancestors() if each.is_landmark]
    return sorted((*landmarks, *(each for each in headings if not each.contains(node))), key=lambda each: each.id)


def _level(heading: Node) -> float:
    level = heading.states.get("level")
    return level if isinstance(level, int | float) else 2
