"""A node of the accessibility tree."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from murvel.dom.document import Element
from murvel.tree.names.name_sources import NameFrom
from murvel.tree.roles.aria_roles import LANDMARKS, TEXT
from murvel.tree.states.states import State


class Node:
    """One object of the tree.

    Attributes:
        id: its number in reading order, counted from 0; stable within a take.
        role: a role of `murvel.tree.roles.aria_roles`, or "text".
        name: its name; for text, the text, with single spaces at its ends where neighbours are apart.
        name_from: the source of the name, None if there is none.
        description: its description, and description_from its source.
        value: what it holds, as text.
        states: ARIA's states and properties by name, with positions and sizes that were counted.
        stated: the same without what was counted: what the author and the element itself state.
        element: the element it stands for; for text, the element around it.
        parent: the node above, None for the root.
        children: the nodes below, in order.
        end: one more than the number of the last node inside it.
        is_part: whether it stands in an object whose children are presentational (WAI-ARIA 1.2 §5.2.9): in the tree
            as browsers give it, but no object of its own to those who listen.
        starts_line: whether nothing stands before it on its line of text, where it is text or an object in a line.
    """

    __slots__ = (
        "children", "description", "description_from", "element", "end", "id", "is_part", "name", "name_from", "parent",
        "role", "starts_line", "stated", "states", "value",
    )  # fmt: skip

    def __init__(self, role: str, element: Element, parent: Node | None) -> None:
        self.id = -1
        self.role = role
        self.name = ""
        self.name_from: NameFrom | None = None
        self.description = ""
        self.description_from: NameFrom | None = None
        self.value = ""
        self.stated: dict[str, State] = _NO_STATES
        self.states: dict[str, State] = _NO_STATES
        self.element = element
        self.parent = parent
        self.children: Sequence[Node] = ()
        self.end = 0
        self.is_part = False
        self.starts_line = True

    def __repr__(self) -> str:
        return f"<{self.role} {self.name!r}>"

    @property
    def is_text(self) -> bool:
        """Whether this is static text."""
        return self.role == TEXT

    @property
    def is_landmark(self) -> bool:
        """Whether it is a landmark; a form is one only if it is named (WAI-ARIA 1.2 §5.4, form)."""
        return self.role in LANDMARKS and (self.role != "form" or bool(self.name))

    def ancestors(self) -> Iterator[Node]:
        """Yield the nodes it stands in, the nearest first."""
        above = self.parent
        while above is not None:
            yield above
            above = above.parent

    def add(self, child: Node) -> None:
        """Put a node at the end below; most nodes have none or one, and get no list with room for more."""
        if isinstance(self.children, list):
            self.children.append(child)
        else:
            self.children = [child]

    def contains(self, other: Node) -> bool:
        """Whether `other` is this node or stands inside it."""
        return self.id <= other.id < self.end


_NO_STATES: dict[str, State] = {}
"""Shared by nodes that have none."""
