"""Trees that come as JSON: the design's tree JSON, also of screens that are not web pages, and browsers' own dumps.

Each node is checked by itself, so that a message can name the place of what is wrong and nothing nests on the stack.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Callable
from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from murvel.css.values.style import NoStyles
from murvel.dom.document import Document, Element, Namespace, Text
from murvel.dom.source_text import Position, SourceText
from murvel.loading.errors import PageError
from murvel.text import visible
from murvel.tree.counting import number_nodes
from murvel.tree.exchange.devtools import facts_of_dump
from murvel.tree.exchange.validated import Clean, Whole, checked_at
from murvel.tree.exchange.write import FORMAT, VERSION
from murvel.tree.model import Tree
from murvel.tree.names.name_sources import NameFrom, NameStep, Outcome
from murvel.tree.names.naming import Naming
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import ALIASES, GENERIC, ROLES, TEXT
from murvel.tree.roles.semantics import Semantics
from murvel.tree.states.states import ARIA, State

_IN_LINE = frozenset(
    "text link img strong emphasis code time mark abbr insertion deletion subscript superscript".split()
)
_MAX_NODES = 1_000_000
_MAX_NESTING = 5_000
_FOCUSABLE = frozenset(name for name, role in ROLES.items() if role.widget)


class _Head(BaseModel):
    """What stands around the root of the tree JSON."""

    model_config = ConfigDict(strict=True)

    version: int = VERSION
    source: Clean = ""
    title: Clean = ""
    language: Clean = ""
    root: dict[str, Any]


class _Facts(BaseModel):
    """One node of the tree JSON, its children aside."""

    model_config = ConfigDict(strict=True)

    role: str = Field(min_length=1)
    name: Clean = ""
    name_from: str | None = None
    description: Clean = ""
    value: Clean = ""
    states: dict[Clean, bool | Whole | Clean] = {}
    properties: dict[Clean, bool | Whole | Clean] = {}
    xpath: Clean = ""
    line: Whole | None = Field(default=None, ge=1)
    column: Whole | None = Field(default=None, ge=1)
    tab: Whole | None = Field(default=None, ge=1)
    children: list[Any] = []


def _read(text: str, address: str) -> dict[str, Any]:
    """Parse JSON; a page 512 elements deep is JSON twice as deep, which is more than Python allows by itself."""
    limit = sys.getrecursionlimit()
    sys.setrecursionlimit(max(limit, _MAX_NESTING))
    try:
        data = json.loads(text)
    except (ValueError, RecursionError, MemoryError) as error:
        reason = visible(str(error))
        raise PageError(f"{visible(address)} is not JSON that can be read ({reason})", "save it again.") from error
    finally:
        sys.setrecursionlimit(limit)
    return data if isinstance(data, dict) else {}


class ImportedTree(Tree):
    """A tree that came as JSON: its places are those it states, and its names have no sources to look at."""

    has_source = False

    def __init__(self, document: Document, root: Node, nodes: list[Node], facts: dict[int, _Facts]) -> None:
        styles = NoStyles()
        super().__init__(document, styles, root, Naming(Semantics(document, styles)), nodes)
        self._facts = {node.id: facts[id(node)] for node in nodes}
        self.stops = self._told_stops() or self._likely_stops()
        self.tab_order = [node.element for node in self.stops]

    def _told_stops(self) -> list[Node]:
        """The nodes whose place in the order of Tab is stated, in that order."""
        told = [(place, node) for node in self.nodes if (place := self._facts[node.id].tab) is not None]
        return [node for _, node in sorted(told, key=lambda pair: pair[0])]

    def _likely_stops(self) -> list[Node]:
        """What can have the focus and is not disabled: where no order is stated, that of reading is the best guess."""
        is_told = any("focusable" in each.properties for each in self._facts.values())
        return [
            node
            for node in self.nodes
            if ("focusable" in self._facts[node.id].properties if is_told else node.role in _FOCUSABLE)
            and node.states.get("disabled") is not True
        ]

    def xpath_of(self, node: Node) -> str:
        """Return the XPath that was stated for a node, else its own place among the nodes."""
        return self._facts[node.id].xpath or super().xpath_of(node)

    def xpaths(self) -> Callable[[Node], str]:
        """Return what gives the XPaths of nodes: those that were stated, else their places among the nodes."""
        places = super().xpaths()
        return lambda node: self._facts[node.id].xpath or places(node)

    def position_of(self, node: Node) -> Position | None:
        """Return the line and column that were stated for a node."""
        facts = self._facts[node.id]
        return Position(facts.line, facts.column) if facts.line and facts.column else None

    def place_words(self, where: Node | Element) -> str:
        """Return the line and column that were stated, or that none were."""
        stated = isinstance(where, Node) and self.position_of(where)
        return super().place_words(where) if stated else "not stated"

    def snippet_of(self, node: Node, limit: int = 400) -> str:
        """Return nothing: there is no source."""
        return ""

    def node_at(self, path: str) -> Node | None:
        """Return the first node with an XPath."""
        return next((node for node in self.nodes if not node.is_text and self.xpath_of(node) == path), None)

    def role_rule(self, node: Node) -> str:
        """Say that the role came with the tree."""
        return "" if node.is_text else "as the tree states it"

    def name_trace(self, node: Node) -> list[NameStep]:
        """Return the one source that was stated, where one was."""
        if node.is_text or node.name_from is None:
            return []
        return [NameStep(node.name_from, "", node.name, Outcome.WON if node.name else Outcome.EMPTY)]


def import_tree(text: str, address: str, width: int) -> Tree:
    """Return the tree that JSON holds.

    Args:
        text: the tree JSON, or the answer of Accessibility.getFullAXTree.
        address: where it came from.
        width: the viewport's width, kept with the document.

    Raises:
        PageError: it is neither; the message names the path of what is wrong.
    """
    data = _read(text, address)
    if isinstance(data.get("nodes"), list):
        head = _Head(root=facts_of_dump(data))
        head.title = str(head.root.get("name", ""))
    elif data.get("format") == FORMAT:
        head = checked_at(_Head, data, "the file")
        if head.version > VERSION:
            raise PageError(f"{visible(address)} is of version {head.version}", f"this Murvel reads version {VERSION}.")
    else:
        raise PageError(f'{visible(address)} is JSON but no tree: it has neither "format": "{FORMAT}" nor "nodes".')
    return _Importer(head, SourceText(text), address, width).tree()


def _states_of(facts: _Facts, path: str) -> dict[str, State]:
    """Return the states of a node; one of ARIA's has to have a value that ARIA allows (WAI-ARIA 1.2 §6.2.4)."""
    states: dict[str, State] = {}
    for name, value in facts.states.items():
        if name in ARIA and value is not False:
            written = "true" if value is True else str(value)
            if ARIA[name][1](written) is None:
                what = f"{path}.states.{visible(name)}: {visible(written[:40])} is not allowed"
                raise PageError(what, "mend that and open it again.")
        states[name] = value
    return states


class _Importer:
    def __init__(self, head: _Head, source: SourceText, address: str, width: int) -> None:
        self.head = head
        root = Element("html", Namespace.HTML, {"lang": head.language}, None, 0)
        title = Element("title", Namespace.HTML, {}, root, 1)
        title.add(Text(head.title, title, 2))
        root.add(title)
        self.document = Document(address, root, source, {}, width)
        self.facts: dict[int, _Facts] = {}
        self.order = 3

    def tree(self) -> Tree:
        root, children = self._node(self.head.root, None, self.document.root, "root")
        stack = self._entries(children, root, "root")
        while stack:
            data, parent, path = stack.pop()
            if self.order > _MAX_NODES:
                raise PageError(f"{path}: there are more than {_MAX_NODES} nodes", "open a part of the tree.")
            node, children = self._node(data, parent, parent.element, path)
            node.starts_line = self._starts_line(node, parent)
            parent.add(node)
            stack.extend(self._entries(children, node, path))
        if not root.name:
            root.name = self.head.title
        return ImportedTree(self.document, root, number_nodes(root), self.facts)

    def _starts_line(self, node: Node, parent: Node) -> bool:
        """Guess the lines from roles, since no layout came along: what is in a line goes on after its like."""
        if node.role not in _IN_LINE:
            return True
        if parent.children:
            return parent.children[-1].role not in _IN_LINE
        return parent.role not in _IN_LINE or parent.starts_line

    def _entries(self, children: list[Any], node: Node, path: str) -> list[tuple[Any, Node, str]]:
        return [(child, node, f"{path}.children[{at}]") for at, child in reversed(list(enumerate(children)))]

    def _node(self, data: Any, parent: Node | None, around: Element, path: str) -> tuple[Node, list[Any]]:
        facts = checked_at(_Facts, data, path)
        role = ALIASES.get(facts.role, facts.role)
        if role not in ROLES and role != TEXT:
            raise PageError(f"{path}.role: {visible(facts.role)} is no role", "use one of WAI-ARIA 1.2, or text.")
        element = around
        if role != TEXT:
            element = Element(role, Namespace.HTML, {}, around, self.order)
            around.add(element)
            self.order += 1
        node = Node(GENERIC if role == "none" else role, element, parent)
        node.name, node.description, node.value = facts.name, facts.description, facts.value
        node.name_from = NameFrom(facts.name_from) if facts.name_from in set(NameFrom) else None
        node.stated = node.states = _states_of(facts, path)
        self.facts[id(node)] = facts
        return node, facts.children
