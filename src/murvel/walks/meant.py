"""Which page a walk is about: known by its title and a heading, so that a walk on another page says so."""

from __future__ import annotations

from dataclasses import dataclass

from murvel.patterns import pattern
from murvel.text import collapse, visible
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.trail import headings_in

_NUMBER = pattern(r"\d+")


@dataclass(frozen=True, slots=True)
class PageMeant:
    """What the page of a walk is known by; what is empty is not asked for.

    Attributes:
        title: its title.
        heading: a heading that it has.
    """

    title: str = ""
    heading: str = ""

    def why_not(self, tree: Tree) -> str:
        """Return why a page is not the one that is meant, as a clause; empty if it is. Numbers may have changed."""
        title = tree.document.title
        if self.title and _same(self.title) != _same(title):
            return f"its title is “{visible(title)}”, and “{visible(self.title)}” is meant"
        headings = [node.name for node in headings_in(tree)]
        if self.heading and _same(self.heading) not in map(_same, headings):
            first = f"its first heading is “{visible(collapse(headings[0]))}”" if headings else "it has no heading"
            return f"{first}, and one called “{visible(self.heading)}” is meant"
        return ""


ANY_PAGE = PageMeant()
"""What is known of the page of a walk that says nothing of it."""


def meant_by(tree: Tree, *, by_title: bool = True, without: Node | None = None) -> PageMeant:
    """Return what a page is known by: its title, and its first heading of level 1 or else its first.

    Args:
        tree: the tree of the page.
        by_title: whether its title will stay.
        without: a node that may change, which it is not known by.
    """
    headings = [
        node for node in headings_in(tree) if without is None or not (node is without or node.contains(without))
    ]
    first = next((node for node in headings if node.states.get("level") == 1), next(iter(headings), None))
    title = collapse(tree.document.title) if by_title else ""
    return PageMeant(title, collapse(first.name) if first is not None else "")


def _same(text: str) -> str:
    """A text as it is compared."""
    return _NUMBER.sub("0", collapse(text).casefold())
