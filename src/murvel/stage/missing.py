"""What a page lacks in a narrow window that it has in a wide one (WCAG 2.2, 1.4.10: without loss of information).

Two trees of a page are compared by what is heard: each text, and each name of a control or picture. Where it stands,
and what it is called there, does not matter.
"""

from __future__ import annotations

import re
from itertools import accumulate

from murvel.dom.document import Document, Element
from murvel.dom.places import find_xpath, xpath
from murvel.patterns import pattern
from murvel.stage.seen import MissingSeen
from murvel.text import collapse
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import POINTED_AT

_SPOKEN = pattern(r"\w.*\w", re.DOTALL)
"""A text with at least two characters that are said; signs between links are no information."""

_MOST_WORDS = 3
_ALSO = POINTED_AT | {"img"}


def missing(narrow: Tree, wide: Tree) -> list[MissingSeen]:
    """Return what is in a wide window and not in a narrow one, each as a whole, in document order.

    Args:
        narrow: the page in the narrow window.
        wide: the same page in the wide one.
    """
    there = "\n".join(_key(node) for node in narrow.nodes if node is not narrow.root)  # a title is no content
    told = [_key(node) if node.is_text or node.role in _ALSO else "" for node in wide.nodes]
    counts = [bool(_SPOKEN.search(each)) for each in told]
    lost = [counted and each not in there for each, counted in zip(told, counts, strict=True)]
    all_counts, all_lost = ([0, *accumulate(each)] for each in (counts, lost))
    openers = _openers(narrow, wide)
    found: list[MissingSeen] = []
    at = 0
    while at < len(wide.nodes):
        node = wide.nodes[at]
        count = all_counts[node.end] - all_counts[at]
        if count and all_lost[node.end] - all_lost[at] == count:
            words = [wide.nodes[each].name for each in range(at, node.end) if lost[each]]
            found.append(MissingSeen(_place(narrow.document, node.element), _words(words), openers))
            at = node.end
        else:
            at += 1
    return found


def _key(node: Node) -> str:
    return collapse(node.name).casefold()


def _words(names: list[str]) -> str:
    """The first of what is missing, and how much more: what a control holds is its name again."""
    different = list(dict.fromkeys(collapse(each) for each in names))
    more = len(different) - _MOST_WORDS
    shown = ", ".join(f"“{each}”" for each in different[:_MOST_WORDS])
    return f"{shown} and {more} more" if more > 0 else shown


def _openers(narrow: Tree, wide: Tree) -> tuple[str, ...]:
    """What is closed in the narrow window and is not there in the wide one, in words."""
    known = {(node.role, node.name) for node in wide.nodes}
    closed = (node for node in narrow.nodes if node.states.get("expanded") is False)
    return tuple(_called(node) for node in closed if (node.role, node.name) not in known)


def _called(node: Node) -> str:
    name = collapse(node.name)
    return f"“{name}”" if name else f"a {node.role} without a name"


def _place(document: Document, element: Element) -> Element:
    """The element of the narrow page at the same place, or the nearest around that."""
    for each in (element, *element.ancestors()):
        there = find_xpath(document, xpath(each))
        if there is not None:
            return there
    return document.root
