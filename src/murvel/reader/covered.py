"""Tab stops of which nothing is heard: the keyboard reaches them, and aria-hidden covers them (WAI-ARIA 1.2 §6.6)."""

from __future__ import annotations

from murvel.page.document import Element
from murvel.page.text import collapse
from murvel.tree.model import Tree
from murvel.tree.node import Node

_LONGEST = 40
"""How many characters of an element's text are told."""


def covered_next(tree: Tree, at: Element | None, stop: Node | None, *, forward: bool) -> Element | None:
    """Return the covered stop that Tab comes to before the next one that is heard; None if there is none.

    Args:
        tree: the tree.
        at: the covered stop that has the focus, None if it is on one that is heard, or on none.
        stop: the stop that is heard next, None if focus would leave the page.
        forward: whether it is Tab, and not Shift+Tab.
    """
    order = tree.tab_order if forward else tree.tab_order[::-1]
    if len(order) == len(tree.stops):
        return None
    heard = {node.element for node in tree.stops}
    ahead = order[: order.index(stop.element)] if stop is not None else order
    if at is not None and at in ahead:
        ahead = ahead[ahead.index(at) + 1 :]
        return ahead[0] if ahead and ahead[0] not in heard else None
    first: Element | None = None
    for element in reversed(ahead):
        if element in heard or element is at:
            break
        first = element
    return first


def told_of(element: Element) -> str:
    """Return a covered stop's tag and the beginning of its text."""
    text = collapse(element.attributes.get("aria-label", "") or element.text())[:_LONGEST]
    return f"{element.tag} “{text}”" if text else element.tag


def words_of(element: Element, place: str) -> str:
    """Return, in a sentence, that the focus is on a covered stop."""
    return f"nothing is heard: the focus is on {told_of(element)} ({place}), which aria-hidden covers"
