"""What a readout is made of: items, the objects in them, and the containers around them."""

from __future__ import annotations

from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import LINKS

WITH_TEXT = LINKS | {"heading"}
"""Containers that are announced with their text, not before it."""


class Container:
    """Something that encloses items.

    Attributes:
        node: its node.
        outer: the container around it, None at the top.
        depth: how many containers are around it.
        first, last: the items it spans; last is -1 while it has none.
        is_empty: whether nothing of it was heard yet, while the readout is made.
    """

    __slots__ = ("depth", "first", "is_empty", "last", "node", "outer")

    def __init__(self, node: Node, outer: Container | None) -> None:
        self.node = node
        self.outer = outer
        self.depth: int = outer.depth + 1 if outer is not None else 0
        self.first = -1
        self.last = -1
        self.is_empty = True

    def chain(self) -> list[Container]:
        """Return the containers around and with it, the outermost first."""
        chain: list[Container] = []
        container: Container | None = self
        while container is not None:
            chain.append(container)
            container = container.outer
        return chain[::-1]


class Object:
    """One thing that is announced: a run of text, a link, a control, an image.

    Attributes:
        index: its number in the readout.
        node: what it stands for.
        container: the innermost container around it.
        item: the item it belongs to.
        text: for text, what this object holds of it: a line, where the text is preformatted.
    """

    __slots__ = ("container", "index", "item", "node", "text")

    def __init__(self, index: int, node: Node, container: Container | None, item: Item, text: str) -> None:
        self.index = index
        self.node = node
        self.container = container
        self.item = item
        self.text = text


class Item:
    """What one pause holds.

    Attributes:
        index: its number in the readout.
        objects: what is announced, in order.
    """

    __slots__ = ("index", "objects")

    def __init__(self, index: int) -> None:
        self.index = index
        self.objects: list[Object] = []

    @property
    def container(self) -> Container | None:
        """The innermost container around its first object."""
        return self.objects[0].container

    @property
    def subject(self) -> Node:
        """The node it is about: a heading or link around its first object, else that object's node."""
        container = self.container
        while container is not None:
            if container.node.role in WITH_TEXT and container.first == self.index:
                return container.node
            container = container.outer
        return self.objects[0].node
