"""The accessibility tree: its nodes, and what can be asked of them."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import TYPE_CHECKING

from murvel.css.values.style import Styles
from murvel.dom.document import Document, Element, language_of
from murvel.dom.places import Paths, find_xpath, xpath
from murvel.dom.source_text import Position
from murvel.loading.problems import ProblemKind
from murvel.tree.fragments import Fragments
from murvel.tree.names.name_sources import NameStep
from murvel.tree.names.naming import Naming
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import CELLS, TABLES, TEXT
from murvel.tree.roles.rules import role_rule
from murvel.tree.roles.semantics import Semantics
from murvel.tree.states.relations import relations_of
from murvel.tree.tables.grid import Grid

if TYPE_CHECKING:
    from murvel.tree.exchange.agreement import SecondOpinion


class Tree:
    """The tree of one take.

    Attributes:
        document, styles: what it was built from.
        has_source: whether the page's own markup is there, and not only a tree that was stated.
        root: its topmost node, of role document.
        nodes: all nodes in reading order; a node's id is its place here.
        tab_order: the elements that Tab stops at, in its order; of those that aria-hidden covers nothing is heard.
        stops: the nodes among them, in the same order.
        semantics, naming: what answers for any element of the document, exposed or not.
        opinion: what a browser itself makes of the page, None if there is none.
    """

    has_source = True

    def __init__(
        self,
        document: Document,
        styles: Styles,
        root: Node,
        naming: Naming,
        nodes: list[Node],
        by_element: dict[Element, Node] | None = None,
    ) -> None:
        self.document = document
        self.styles = styles
        self.root = root
        self.nodes = nodes
        self.tab_order: list[Element] = []
        self.stops: list[Node] = []
        self.naming = naming
        self.semantics: Semantics = naming.semantics
        self._by_element = by_element
        self.opinion: SecondOpinion | None = None
        self._grids: dict[int, Grid] = {}

    @cached_property
    def stop_numbers(self) -> dict[Element, int]:
        """The place of each Tab stop in Tab's order, from 1; silent stops count."""
        return {element: number for number, element in enumerate(self.tab_order, 1)}

    def order_stops(self, in_order: list[Element]) -> None:
        """Take over the order in which Tab was seen to come to elements."""
        self.tab_order = in_order
        self.stops = [node for node in map(self.node_of, in_order) if node is not None]
        self.__dict__.pop("stop_numbers", None)

    @property
    def covered_stops(self) -> list[Element]:
        """The Tab stops that aria-hidden covers, in Tab's order."""
        if len(self.tab_order) == len(self.stops):
            return []
        return [element for element in self.tab_order if self.node_of(element) is None]

    def node_of(self, element: Element) -> Node | None:
        """Return the node of an element, None if it has no object of its own."""
        return self.by_element.get(element)

    @property
    def by_element(self) -> dict[Element, Node]:
        """The nodes by the elements they stand for."""
        if self._by_element is None:
            self._by_element = {node.element: node for node in self.nodes if node.role != TEXT}
        return self._by_element

    def xpath_of(self, node: Node) -> str:
        """Return the absolute XPath of a node's element."""
        return xpath(node.element)

    def xpaths(self) -> Callable[[Node], str]:
        """Return what gives the absolute XPaths of nodes, for asking of many while the page stays as it is."""
        paths = Paths()
        return lambda node: paths.of(node.element)

    def position_of(self, node: Node) -> Position | None:
        """Return line and column of a node's start tag, None if no start tag made it."""
        return self.document.position(node.element)

    def place_words(self, where: Node | Element) -> str:
        """Return line and column of a start tag in words, or why there are none."""
        element = where if isinstance(where, Element) else where.element
        position = self.document.position(element) if isinstance(where, Element) else self.position_of(where)
        if position is not None:
            return f"line {position.line}, column {position.column}"
        frame = next((above for above in element.ancestors() if above.tag == "iframe"), None)
        return "inside a frame, from another source" if frame else "no start tag: the parser added it"

    def snippet_of(self, node: Node, limit: int = 400) -> str:
        """Return the source of a node's element from its start tag on; empty if there is none."""
        return self.document.snippet(node.element, limit)

    def node_at(self, path: str) -> Node | None:
        """Return the node at an absolute XPath, or the nearest around it; None if nothing is there."""
        element = find_xpath(self.document, path)
        while element is not None:
            node = self.node_of(element)
            if node is not None:
                return node
            element = element.parent
        return None

    def grid_of(self, table: Node) -> Grid:
        """Return where the cells of a table stand; `table` has a role of `murvel.tree.roles.aria_roles.TABLES`."""
        if table.id not in self._grids:
            grid = self._grids[table.id] = Grid(table)
            if grid.is_cut:
                text = "A table has cells that span very many others; some of them count as one."
                self.document.problems.add(ProblemKind.LIMIT, text)
        return self._grids[table.id]

    @cached_property
    def fragments(self) -> Fragments:
        """The places of the page that fragments can indicate."""
        return Fragments(self.document)

    def headers_of(self, cell: Node) -> list[Node]:
        """Return the headers of a cell, those of its row first; empty for what is no cell of a table."""
        if cell.role not in CELLS:
            return []
        table = next((above for above in cell.ancestors() if above.role in TABLES), None)
        return self.grid_of(table).headers(cell) if table is not None else []

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
        """Return the language that a node's content is in (HTML §3.2.6.2), empty if none is stated."""
        return language_of(node.element)

    def role_rule(self, node: Node) -> str:
        """Return which rule gave a node its role, in words; empty for text."""
        return "" if node.is_text else role_rule(self.semantics, node.element)

    def name_trace(self, node: Node) -> list[NameStep]:
        """Return how a node's name came about; static text has no trace."""
        return [] if node.is_text else self.naming.trace(node.element, node.role)
