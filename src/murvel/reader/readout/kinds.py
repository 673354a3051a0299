"""The kinds of things a jump goes to and a list is made of, as one table."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from murvel.tree.fields import is_rich_text
from murvel.tree.roles.aria_roles import BUTTONS, EDITS, FIELDS, LINKS, TABLES

if TYPE_CHECKING:
    from murvel.tree.model import Tree
    from murvel.tree.node import Node


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


def _is_field(roles: frozenset[str]) -> Callable[[Node], bool]:
    return lambda node: node.role in roles or is_rich_text(node)


def _level(level: int) -> Callable[[Node], bool]:
    return lambda node: node.role == "heading" and node.states.get("level") == level


def _is_live(node: Node) -> bool:
    return node.states.get("live", "off") != "off" or node.role in ("timer", "marquee")


def _is_plain_text(node: Node) -> bool:
    return node.is_text and not any(above.role in LINKS or above.role == "heading" for above in node.ancestors())


KINDS: tuple[Kind, ...] = (
    Kind("headings", "h", "heading", "headings", _role_in(frozenset({"heading"}))),
    *(Kind(f"headings-{n}", str(n), f"heading of level {n}", f"headings of level {n}", _level(n)) for n in range(1, 7)),
    Kind("landmarks", "m", "landmark", "landmarks", lambda node: node.is_landmark),
    Kind("links", "l", "link", "links", _role_in(LINKS)),
    Kind("fields", "f", "field", "fields", _is_field(FIELDS)),
    Kind("buttons", "b", "button", "buttons", _role_in(BUTTONS)),
    Kind("lists", "s", "list", "lists", _role_in(frozenset({"list"}))),
    Kind("tables", "t", "table", "tables", _role_in(TABLES)),
    Kind("items", "n", "list item", "list items", _role_in(frozenset({"listitem", "treeitem"}))),
    Kind("checkboxes", "x", "checkbox", "checkboxes", _role_in(frozenset({"checkbox", "switch", "menuitemcheckbox"}))),
    Kind("radios", "o", "radio", "radios", _role_in(frozenset({"radio", "menuitemradio"}))),
    Kind("edits", "e", "edit field", "edit fields", _is_field(EDITS)),
    Kind("choices", "c", "choice list", "choice lists", _role_in(frozenset({"combobox", "listbox"}))),
    Kind("quotations", "q", "quotation", "quotations", _role_in(frozenset({"blockquote"}))),
    Kind("separators", "r", "separator", "separators", _role_in(frozenset({"separator", "doc-pagebreak"}))),
    Kind("live", "v", "live region", "live regions", _is_live),
    Kind("frames", "w", "frame", "frames", _role_in(frozenset({"iframe"}))),
    Kind("texts", "p", "text that is no link", "texts that are no links", _is_plain_text),
    Kind("images", "i", "image", "images", _role_in(frozenset({"img"}))),
)

DEFECTS = Kind("defects", "d", "defect", "defects", lambda node: False)
LEADS = Kind("leads", "a", "lead", "leads", lambda node: False)
MARKED: tuple[Kind, ...] = (DEFECTS, LEADS)
"""Kinds that no node has by itself: what they are was marked in the session (`ReadingSession.mark`)."""

TARGETS: tuple[Kind, ...] = (*KINDS, *MARKED)
"""Everything a jump can go to."""

BY_ID: dict[str, Kind] = {kind.id: kind for kind in KINDS}
BY_LETTER: dict[str, Kind] = {kind.letter: kind for kind in TARGETS}
TARGETS_BY_ID: dict[str, Kind] = {kind.id: kind for kind in TARGETS}
TARGETS_BY_SINGULAR: dict[str, Kind] = {kind.singular: kind for kind in TARGETS}
"""A person who goes to one heading types "heading"."""

assert len(TARGETS_BY_ID) == len(BY_LETTER) == len(TARGETS), "a kind's id or letter stands twice"

STOPS = "stops"
"""The list of tab stops, in Tab's order."""

ACCESS_KEYS = "accesskeys"
"""The list of what has an access key (HTML §6.9.2), in reading order."""

LISTS: tuple[str, ...] = (*BY_ID, STOPS, ACCESS_KEYS)
"""Everything that can be listed."""

COUNTED = ("landmarks", "headings", "links", "fields")
"""The kinds that are counted on arrival."""


def nodes_of(tree: Tree, kind: Kind) -> list[Node]:
    """Return all nodes of a kind, in reading order."""
    return [node for node in tree.nodes if kind.matches(node) and not node.is_part]
