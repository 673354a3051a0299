"""What became of a tree when its page changed: what was exposed before and is now, and where it is another one."""

from __future__ import annotations

from collections.abc import Iterable, Set
from dataclasses import dataclass
from operator import attrgetter
from typing import NamedTuple

from murvel.dom.document import Element
from murvel.tree.model import Tree
from murvel.tree.node import Node


class Exposed(NamedTuple):
    """What was exposed of a node at a moment; the node may say something else later.

    Attributes:
        element: its element.
        node: the node.
        own: its text; for an object without text of its own, its name and value.
        content: what it adds to all that is exposed in what it stands in; None for what only encloses.
    """

    element: Element
    node: Node
    own: str
    content: str | None


@dataclass(frozen=True, slots=True)
class TreeChange:
    """A tree, and the one that took its place.

    Attributes:
        old, new: the trees. The old one still tells which node an element had; its numbers mean nothing any more.
        before, after: what was and is exposed where something may be another one, in reading order.
        regions: where in the new tree, as ranges of node ids; None for everywhere. An empty range is a place where
            something is gone.
        renewed: elements whose text was taken away and put back the same, in one go: it is announced again.
    """

    old: Tree
    new: Tree
    before: tuple[Exposed, ...]
    after: tuple[Exposed, ...]
    regions: tuple[tuple[int, int], ...] | None
    renewed: frozenset[Element] = frozenset()

    @property
    def is_heard(self) -> bool:
        """Whether what is exposed is another text or another object."""
        was, now = ([(each.element, each.own, each.content) for each in some] for some in (self.before, self.after))
        return was != now

    @classmethod
    def whole(cls, old: Tree, new: Tree) -> TreeChange:
        """Return the change from one tree to another where nothing more is known of it."""
        return cls(old, new, exposed(old.nodes), exposed(new.nodes), None)


def exposed(nodes: Iterable[Node]) -> tuple[Exposed, ...]:
    """Return what is exposed of nodes, which are in reading order; parts of other objects are left out."""
    return tuple(Exposed(node.element, node, *_said(node)) for node in nodes if not node.is_part)


def exposed_of(tree: Tree, elements: Set[Element]) -> tuple[Exposed, ...]:
    """Return what is exposed of elements of a tree, in reading order; what they stand in has to be among them."""
    found: list[Node] = []
    for element in elements:
        node = tree.node_of(element)
        if node is not None:
            found.append(node)
            found += [child for child in node.children if child.is_text and child.element in elements]
    return exposed(sorted(found, key=attrgetter("id")))


def _said(node: Node) -> tuple[str, str | None]:
    if node.is_text:
        return node.name, node.name
    words = f"{node.name} {node.value}" if node.value else node.name
    own = "" if any(child.is_text for child in node.children) else words
    return own, None if node.children else f"{node.name} {node.value}"
