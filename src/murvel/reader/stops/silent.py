"""Silent Tab stops: aria-hidden covers them (WAI-ARIA 1.2 §6.6), or they are empty and nameless."""

from __future__ import annotations

from collections.abc import Set

from murvel.dom.document import Element
from murvel.text import collapse
from murvel.tree.model import Tree
from murvel.tree.node import Node

_LONGEST = 40
"""The most characters of an element's text that are shown."""


def silent_next(
    order: list[Element], heard: Set[Element], at: Element | None, stop: Node | None, *, forward: bool
) -> Element | None:
    """Return the silent stop that Tab comes to before the next one that is heard; None if there is none.

    Args:
        order: what Tab stops at, in its order.
        heard: those of them that are heard.
        at: the silent stop that has the focus, None if it is on one that is heard, or on none.
        stop: the stop that is heard next, None if focus would leave the page.
        forward: whether it is Tab, and not Shift+Tab.
    """
    if len(order) == len(heard):
        return None
    order = order if forward else order[::-1]
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
    """Return a silent stop's tag and the beginning of its text."""
    text = collapse(element.attributes.get("aria-label", "") or element.text())[:_LONGEST]
    return f"{element.tag} “{text}”" if text else element.tag


def words_of(tree: Tree, element: Element) -> str:
    """Return, in a sentence, that the focus is on a silent stop, and why nothing is heard of it."""
    why = "which aria-hidden covers" if tree.node_of(element) is None else "which is empty and has no name"
    return f"nothing is heard: the focus is on {told_of(element)} ({tree.place_words(element)}), {why}"
