"""The accessibility tree: its nodes, and what can be asked of them."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.page.document import Document, Element, language_of
from murvel.page.places import Position, all_xpaths, find_xpath, xpath
from murvel.tree.grid import Grid
from murvel.tree.name_sources import NameFrom, Step
from murvel.tree.naming import Naming
from murvel.tree.relations import relations_of
from murvel.tree.roles import CELLS, LANDMARKS, TABLES, TEXT
from murvel.tree.rules import role_rule
from murvel.tree.semantics import Semantics
from murvel.tree.states import State


class Node:
    """One object of the tree.

    Attributes:
        id: its number in reading order, counted from 0; stable within a take.
        role: a role of `murvel.tree.roles`, or "text".
        name: its name; for text, the text, with single spaces at its ends where neighbours are apart.
        name_from: the source of the name, None where there is none.
        description: its description, and description_from its source.
        value: what it holds, as text.
        states: ARIA's states and properties by name.
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
        "role", "starts_line", "states", "value",
    )  # fmt: skip

    def __init__(self, role: str, element: Element, parent: Node | None) -> None:
        self.id = -1
        self.role = role
        self.name = ""
        self.name_from: NameFrom | None = None
        self.description = ""
        self.description_from: NameFrom | None = None
        self.value = ""
        self.states: dict[str, State] = _NO_STATES
        self.element = element
        self.parent = parent
        self.children: list[Node] = []
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

    def contains(self, other: Node) -> bool:
        """Whether `other` is this node or stands inside it."""
        return self.id <= other.id < self.end


_NO_STATES: dict[str, State] = {}
"""Shared by nodes that have none; a tree is never changed once it is built."""


class Tree:
    """The tree of one take.

    Attributes:
        document: what it was built from.
        root: its topmost node, of role document.
        nodes: all nodes in reading order; a node's id is its place here.
        stops: the nodes that Tab stops at, in its order.
        semantics, naming: what answers for any element of the document, exposed or not.
    """

    def __init__(self, document: Document, root: Node, naming: Naming, nodes: list[Node], stops: list[Node]) -> None:
        self.document = document
        self.root = root
        self.nodes = nodes
        self.stops = stops
        self.naming = naming
        self.semantics: Semantics = naming.semantics
        self._by_element: dict[int, Node] | None = None
        self._grids: dict[int, Grid] = {}

    def node_of(self, element: Element) -> Node | None:
        """Return the node of an element, None where it has no object of its own."""
        if self._by_element is None:
            self._by_element = {node.element.order: node for node in self.nodes if not node.is_text}
        return self._by_element.get(element.order)

    def xpath_of(self, node: Node) -> str:
        """Return the absolute XPath of a node's element."""
        return xpath(node.element)

    def xpaths(self) -> dict[int, str]:
        """Return the absolute XPath of every node by its id, in one pass."""
        paths = all_xpaths(self.document)
        return {node.id: paths[node.element.order] for node in self.nodes}

    def position_of(self, node: Node) -> Position | None:
        """Return line and column of a node's start tag, None where no start tag made it."""
        return self.document.position(node.element)

    def place_words(self, node: Node) -> str:
        """Return line and column of a node's start tag in words, or why there are none."""
        position = self.position_of(node)
        if position is not None:
            return f"line {position.line}, column {position.column}"
        frame = next((above for above in node.element.ancestors() if above.tag == "iframe"), None)
        return "inside a frame, from another source" if frame else "no start tag: the parser added it"

    def snippet_of(self, node: Node, limit: int = 400) -> str:
        """Return the source of a node's element from its start tag on; empty where there is none."""
        return self.document.snippet(node.element, limit)

    def node_at(self, path: str) -> Node | None:
        """Return the node at an absolute XPath, or the nearest around it; None where nothing is there."""
        element = find_xpath(self.document, path)
        while element is not None:
            node = self.node_of(element)
            if node is not None:
                return node
            element = element.parent
        return None

    def grid_of(self, table: Node) -> Grid:
        """Return where the cells of a table stand; `table` has a role of `murvel.tree.roles.TABLES`."""
        if table.id not in self._grids:
            self._grids[table.id] = Grid(table)
        return self._grids[table.id]

    def headers_of(self, cell: Node) -> list[Node]:
        """Return the headers of a cell, those of its row first; empty for what is no cell of a table."""
        table = next((above for above in cell.ancestors() if above.role in TABLES), None)
        return self.grid_of(table).headers(cell) if table is not None and cell.role in CELLS else []

    def relations_of(self, node: Node) -> dict[str, list[Node]]:
        """Return the nodes that a node refers to, by ARIA's name of the relation; for a cell also its `headers`."""
        relations = {} if node.is_text else relations_of(node, self.semantics, self.node_of)
        headers = self.headers_of(node)
        return {**relations, "headers": headers} if headers else relations

    def words_of(self, node: Node) -> str:
        """Return a node's role with its name, or with what its content says, to point it out to a person."""
        words = node.name or ("" if node.is_text else self.naming.contents(node.element)[:60])
        return f"{node.role} “{words}”" if words else node.role

    def language_of(self, node: Node) -> str:
        """Return the language that a node's content is in (HTML §3.2.6.2), empty where none is stated."""
        return language_of(node.element)

    def role_rule(self, node: Node) -> str:
        """Return which rule gave a node its role, in words; empty for text."""
        return "" if node.is_text else role_rule(self.semantics, node.element)

    def name_trace(self, node: Node) -> list[Step]:
        """Return how a node's name came about; static text has no trace."""
        return [] if node.is_text else self.naming.trace(node.element, node.role)
