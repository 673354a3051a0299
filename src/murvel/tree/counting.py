"""Numbers of nodes: their ids, their place in sets and lists, the rows and columns of cells."""

from __future__ import annotations

from collections.abc import Iterable

from murvel.dom.document import Document
from murvel.dom.html.forms import RadioGroup, radio_group_of
from murvel.tree.lists import ITEMS
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import CELLS, PRESENTATIONAL_CHILDREN, TABLES
from murvel.tree.states.states import State

SETS: dict[str, tuple[str, ...]] = {
    "list": ITEMS,
    "listbox": ("option",),
    "combobox": ("option",),
    "menu": ("menuitem", "menuitemcheckbox", "menuitemradio"),
    "menubar": ("menuitem", "menuitemcheckbox", "menuitemradio"),
    "radiogroup": ("radio",),
    "tablist": ("tab",),
    "tree": ("treeitem",),
}
"""Members of a set by the role of their container (Core-AAM 1.2 §5.6.2, posinset and setsize computed)."""

MEMBERS = frozenset(member for members in SETS.values() for member in members)
"""Roles that are members of a set."""


def number_nodes(root: Node) -> list[Node]:
    """Give the nodes under a root their ids and ends, and return them in reading order."""
    nodes: list[Node] = []
    stack = [root]
    while stack:
        node = stack.pop()
        node.id = len(nodes)
        above = node.parent
        node.is_part = above is not None and (above.is_part or _is_one(above))
        nodes.append(node)
        stack.extend(reversed(node.children))
    following = len(nodes)
    for node in reversed(nodes):
        node.end = node.children[-1].end if node.children else following
        following = node.id
    return nodes


def _is_one(node: Node) -> bool:
    """Whether a node is heard as one, whatever is in it; what is in an image with a map are its areas."""
    return node.role in PRESENTATIONAL_CHILDREN and "usemap" not in node.element.attributes


def count_sets(document: Document, nodes: Iterable[Node]) -> set[Node]:
    """Give the members of sets their position and the size of their set, and items the level of their list.

    What the author states counts before that (Core-AAM 1.2 §5.6.2). Native radio buttons are a set by their name and
    form (HTML §4.10.5.1.16).

    Args:
        document: the document they stand for.
        nodes: in reading order; whole sets.

    Returns:
        The nodes that are announced otherwise now.
    """
    counted: dict[Node, dict[str, State]] = {}
    members: dict[Node | RadioGroup, list[Node]] = {}
    for node in nodes:
        if node.role in MEMBERS:
            counted[node] = {}
            container = next((above for above in node.ancestors() if above.role in SETS), None)
            if container is not None and node.role in SETS[container.role]:
                if node.role == "treeitem":  # a branch is a set of its own
                    container = next(above for above in node.ancestors() if above.role in ("tree", "treeitem"))
                members.setdefault(container, []).append(node)
            elif node.role == "listitem":
                counted[node] = {"level": 1}
            elif node.role == "radio" and (group := radio_group_of(document, node.element)) is not None:
                members.setdefault(group, []).append(node)
            if node.role == "treeitem":
                counted[node] = {"level": 1 + _branches(node)}
    levels: dict[Node, int] = {}
    for several in members.values():
        for position, node in enumerate(several, 1):
            places: dict[str, State] = {"posinset": position, "setsize": len(several)}
            if node.role == "listitem":
                places["level"] = max(1, _lists_around(node, levels))
            counted[node] = places | counted.get(node, {})
    return {node for node, places in counted.items() if _say(node, places)}


def _branches(item: Node) -> int:
    """How many branches of its tree an item stands in: items, and groups that are in no item, as browsers count."""
    count = 0
    for above in item.ancestors():
        if above.role == "tree":
            break
        if above.role == "treeitem" or (above.role == "group" and _owner(above).role != "treeitem"):
            count += 1
    return count


def _owner(group: Node) -> Node:
    return next((above for above in group.ancestors() if above.role != "generic"), group)


def _lists_around(item: Node, known: dict[Node, int]) -> int:
    """How many lists an item stands in; what is known of the nodes above it is looked up, and noted."""
    above: list[Node] = []
    count = 0
    for node in item.ancestors():
        if node in known:
            count = known[node]
            break
        above.append(node)
    for node in reversed(above):
        count += _nests_items(node)
        known[node] = count
    return count


def _nests_items(node: Node) -> bool:
    return node.role == "list" and node.element.tag != "dl"


def place_cells(tree: Tree, nodes: Iterable[Node]) -> set[Node]:
    """Give tables their size and cells their place and spans, as aria-rowindex and its like name them.

    What the author states counts before that: such a table may be a part of a larger one (WAI-ARIA 1.2 §6.6).

    Args:
        tree: the tree.
        nodes: in reading order; whole tables.

    Returns:
        The nodes that are announced otherwise now.
    """
    counted: dict[Node, dict[str, State]] = {}
    for node in nodes:
        if node.role in CELLS:
            counted.setdefault(node, {})
        elif node.role in TABLES:
            grid = tree.grid_of(node)
            counted[node] = {"rowcount": grid.rows, "colcount": grid.columns}
            for id, place in grid.places.items():
                spans = {"rowspan": place.rows, "colspan": place.columns}
                counted[tree.nodes[id]] = {
                    "rowindex": place.row,
                    "colindex": place.column,
                    **{name: span for name, span in spans.items() if span > 1},
                }
    return {node for node, places in counted.items() if _say(node, places)}


def _say(node: Node, counted: dict[str, State]) -> bool:
    """Let a node say what was counted beside what is stated; whether that is something else than before."""
    states = {**counted, **node.stated}
    if states == node.states:
        return False
    node.states = states
    return True
