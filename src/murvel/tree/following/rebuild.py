"""A tree that follows its document: what changed is found again, everything else keeps its nodes."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from murvel.dom.change import DocumentChange
from murvel.dom.document import Element
from murvel.dom.memory import no_collection
from murvel.page.styled_document import StyledDocument
from murvel.tree.build import Builder
from murvel.tree.counting import MEMBERS, SETS, count_sets, number_nodes, place_cells
from murvel.tree.following.change import TreeChange, exposed_of
from murvel.tree.following.stale import Stale, find_stale
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import CELLS, TABLES

_OF_TABLES = CELLS | {"row", "rowgroup"}


class LiveTree:
    """The tree of a document that changes.

    Attributes:
        tree: the tree as it was when the document was last followed.
    """

    def __init__(self, page: StyledDocument) -> None:
        self._page = page
        self._builder = Builder(page)
        self.tree: Tree = self._builder.build()

    def follow(self, change: DocumentChange, restyled: set[Element]) -> TreeChange:
        """Bring the tree up to date with its document, and return what became of it.

        Args:
            change: what was changed in the document.
            restyled: the elements whose style is another one now.
        """
        with no_collection():
            old = self.tree
            stale = find_stale(change, restyled, self._builder.semantics)
            if stale is None:
                self._builder = Builder(self._page)
                self.tree = self._builder.build()
                return TreeChange.whole(old, self.tree)
            return self._follow(old, stale)

    def _follow(self, old: Tree, stale: Stale) -> TreeChange:
        builder = self._builder
        known = old.by_element  # the old tree can tell afterwards which node an element had
        concerned = stale.elements | stale.removed
        exposed_before = exposed_of(old, concerned)
        builder.naming.forget(concerned)
        builder.forget(stale.removed)
        refilled, moved = builder.rebuild(stale.elements)
        differences = [
            each
            for each in (_compare(node, before, node.children) for node, before in refilled.items())
            if each is not None
        ]
        if all(each.is_exchange for each in differences):
            pairs = [pair for each in differences for pair in zip(each.gone, each.come, strict=True)]
            nodes, known = _exchange(old.nodes, known, [(old.root, builder.root), *pairs])
            self.tree = builder.finish(nodes, known)
        else:
            nodes = number_nodes(builder.root)
            self.tree = builder.finish(nodes)
        # An object without content is heard only while it is a stop, whatever else is said of it.
        restopped = {
            node
            for node in map(self.tree.node_of, stale.elements)
            if node is not None and (node.element in old.stop_numbers) != (node.element in self.tree.stop_numbers)
        }
        regions = _Regions(self.tree, stale).of(differences, moved | restopped)
        return TreeChange(old, self.tree, exposed_before, exposed_of(self.tree, stale.elements), regions)


class _Difference(NamedTuple):
    """Where the children of a node are not those it had before.

    Attributes:
        node: the node.
        first: the first place among its children.
        gone, come: the children that were there, and those that are now.
        is_exchange: whether the same elements stand there in the same roles, each with as many nodes in it.
    """

    node: Node
    first: int
    gone: Sequence[Node]
    come: Sequence[Node]
    is_exchange: bool


def _compare(node: Node, before: Sequence[Node], after: Sequence[Node]) -> _Difference | None:
    most = min(len(before), len(after))
    first = 0
    while first < most and before[first] is after[first]:
        first += 1
    if first == len(before) == len(after):
        return None
    last = 0
    while last < most - first and before[-1 - last] is after[-1 - last]:
        last += 1
    gone, come = before[first : len(before) - last], after[first : len(after) - last]
    return _Difference(node, first, gone, come, _is_exchange(gone, come))


def _is_exchange(gone: Sequence[Node], come: Sequence[Node]) -> bool:
    return len(gone) == len(come) and all(
        old.element is new.element and old.role == new.role for old, new in zip(gone, come, strict=True)
    )


def _exchange(
    nodes: list[Node], by_element: dict[Element, Node], pairs: list[tuple[Node, Node]]
) -> tuple[list[Node], dict[Element, Node]]:
    """Return nodes and the table of them with new ones put in the place of old ones, whose numbers go over."""
    nodes, by_element = nodes.copy(), by_element.copy()
    for old, new in pairs:
        new.id, new.end, new.is_part = old.id, old.end, old.is_part
        nodes[new.id] = new
        if not new.is_text:
            by_element[new.element] = new
    return nodes, by_element


class _Regions:
    """Finds where in a new tree something else is said than in the old one, and counts sets and cells there."""

    def __init__(self, tree: Tree, stale: Stale) -> None:
        self._tree = tree
        self._found: set[tuple[int, int]] = set()
        self._sets: set[Node] = set()
        self._tables: set[Node] = set()
        for element in stale.spans:
            node = tree.node_of(element)
            if node is not None:
                self._note_around(self._tables, node, TABLES)
        for element in stale.spoken:
            around = (tree.node_of(each) for each in (element, *element.ancestors()))
            node = next((each for each in around if each is not None), tree.root)
            self._found.add((node.id, node.end))

    def of(self, differences: list[_Difference], moved: set[Node]) -> tuple[tuple[int, int], ...]:
        """Return the ranges of ids.

        Args:
            differences: where children are not those that were there before.
            moved: nodes that begin a line or are a stop now, or no longer do.
        """
        nodes = self._tree.nodes
        for each in differences:
            if self._is_in_tree(each.node):
                self._note(each)
        different = {node for node in moved if self._is_in_tree(node)}
        recounted = [each for start, end in _spans(self._sets) for each in nodes[start:end]]
        if any(each.role == "radio" for each in recounted):
            recounted = nodes  # others of its group may stand anywhere in its form
        different |= count_sets(self._tree.document, recounted)
        different |= place_cells(self._tree, (each for start, end in _spans(self._tables) for each in nodes[start:end]))
        self._found |= {(each.id, each.end) for each in self._tables}
        self._found |= {(each.id, each.id + 1) for each in different}
        return tuple(sorted(self._found))

    def _is_in_tree(self, node: Node) -> bool:
        return node.id < len(self._tree.nodes) and self._tree.nodes[node.id] is node

    def _note(self, difference: _Difference) -> None:
        node, first, gone, come, is_exchange = difference
        start = node.children[first].id if first < len(node.children) else node.end
        self._found.add((start, come[-1].end if come else start))
        if is_exchange:
            _take_over_counts(gone, come)
            if any(each.role in ("columnheader", "rowheader", "row") for each in come):
                self._note_around(self._tables, node, TABLES)
            return
        self._sets.update(come)
        roles = {each.role for each in _with_inner(gone)} | {each.role for each in _with_inner(come)}
        if "radio" in roles:
            self._sets.add(self._tree.root)  # those that are left of its group may stand anywhere in its form
        if roles & MEMBERS:
            self._note_around(self._sets, node, SETS.keys())
            for above in (node, *node.ancestors()):
                if above.role in SETS:
                    self._found.add((above.id, above.id + 1))
                    break
        if roles & _OF_TABLES:
            self._note_around(self._tables, node, TABLES)
        self._tables.update(come)

    def _note_around(self, noted: set[Node], node: Node, roles: Iterable[str]) -> None:
        around = next((each for each in (node, *node.ancestors()) if each.role in roles), None)
        if around is not None:
            noted.add(around)


def _take_over_counts(gone: Sequence[Node], come: Sequence[Node]) -> None:
    """Let nodes that took the place of others say what was counted for these."""
    for old, new in zip(gone, come, strict=True):
        counted = {name: state for name, state in old.states.items() if name not in old.stated}
        new.states = {**counted, **new.stated} if counted else new.stated


def _with_inner(nodes: Sequence[Node]) -> Iterable[Node]:
    stack = list(reversed(nodes))
    while stack:
        node = stack.pop()
        yield node
        stack.extend(reversed(node.children))


def _spans(nodes: set[Node]) -> list[tuple[int, int]]:
    """Return the ranges of ids that nodes span, without those inside another."""
    spans: list[tuple[int, int]] = []
    for node in sorted(nodes, key=lambda each: each.id):
        if not spans or node.id >= spans[-1][1]:
            spans.append((node.id, node.end))
    return spans
