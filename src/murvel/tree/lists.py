"""The items of lists."""

from __future__ import annotations

from murvel.tree.node import Node

ITEMS = ("listitem", "term")
"""What a list consists of; the items of a description list are its terms."""


def items_of(node: Node) -> list[Node]:
    """Return the items of a list, in reading order, whatever stands between the list and them, as a div in a dl.

    Items of lists inside are none of its own.
    """
    found: list[Node] = []
    stack = list(reversed(node.children))
    while stack:
        child = stack.pop()
        if child.role in ITEMS:
            found.append(child)
        elif child.role not in ("list", "definition"):
            stack.extend(reversed(child.children))
    return found
