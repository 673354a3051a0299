"""The kinds of things a jump goes to and a list is made of, as one table."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from murvel.tree.model import Node, Tree
from murvel.tree.roles import BUTTONS, FIELDS, LINKS


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of node.

    Attributes:
        id: its word on the command line and in walks.
        letter: the key that follows a bracket.
        singular, plural: its words.
        matches: whether a node is of this kind.
    """

    id: str
    letter: str
    singular: str
    plural: str
    matches: Callable[[Node], bool]


def _role_in(roles: frozenset[str]) -> Callable[[Node], bool]:
    return lambda node: node.role in roles


def _level(level: int) -> Callable[[Node], bool]:
    return lambda node: node.role == "heading" and node.states.get("level") == level


KINDS: tuple[Kind, ...] = (
    Kind("headings", "h", "heading", "headings", _role_in(frozenset({"heading"}))),
    *(Kind(f"headings-{n}", str(n), f"heading of level {n}", f"headings of level {n}", _level(n)) for n in range(1, 7)),
    Kind("landmarks", "m", "landmark", "landmarks", lambda node: node.is_landmark),
    Kind("links", "l", "link", "links", _role_in(LINKS)),
    Kind("fields", "f", "field", "fields", _role_in(FIELDS)),
    Kind("buttons", "b", "button", "buttons", _role_in(BUTTONS)),
    Kind("lists", "s", "list", "lists", _role_in(frozenset({"list"}))),
    Kind("tables", "t", "table", "tables", _role_in(frozenset({"table", "grid", "treegrid"}))),
    Kind("images", "i", "image", "images", _role_in(frozenset({"img"}))),
)

BY_ID: dict[str, Kind] = {kind.id: kind for kind in KINDS}
BY_LETTER: dict[str, Kind] = {kind.letter: kind for kind in KINDS}
assert len(BY_ID) == len(BY_LETTER) == len(KINDS), "a kind's id or letter stands twice"

COUNTED = ("landmarks", "headings", "links", "fields")
"""The kinds that are counted on arrival."""


def nodes_of(tree: Tree, kind: Kind) -> list[Node]:
    """Return all nodes of a kind, in reading order."""
    return [node for node in tree.nodes if kind.matches(node) and not node.is_part]
