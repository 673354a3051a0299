"""What checks ask of a page, gathered once: its elements and nodes by what they are."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence, Set
from functools import cached_property
from operator import attrgetter

from murvel.checks.questions.parse_errors import ParseError, parse_errors
from murvel.checks.questions.sight import Sight
from murvel.checks.questions.tab_order import TabOrder
from murvel.css.values.style import Looks, Styles
from murvel.dom.document import Document, Element, Namespace, Text
from murvel.dom.html.forms import form_of
from murvel.dom.places import Paths
from murvel.reader.moves.routes import Routes
from murvel.reader.readout.readout import Readout
from murvel.reader.session import ReadingSession
from murvel.stage.script import Event, Handler
from murvel.stage.seen import Seen, TabSeen
from murvel.text import collapse
from murvel.tree.fields import is_rich_text
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import FIELDS, LINKS
from murvel.tree.roles.semantics import Semantics
from murvel.tree.trail import heading_over


class Facts:
    """A page as checks see it.

    Attributes:
        session: the reading.
        tree, readout, document, styles, semantics: its parts.
        roles: the nodes that are exposed by role, in reading order, parts of other objects left out.
        tags: the elements of HTML by tag, in document order, hidden ones too; those of SVG stand under "svg TAG".
        having: the elements that have an attribute, by its name, in document order.
        is_source: whether the page's own markup is there, not only a tree that was imported.
    """

    def __init__(self, session: ReadingSession) -> None:
        self.session = session
        if session.stage is not None:
            session.stage.measure()
        self.tree: Tree = session.tree
        self.readout: Readout = session.readout
        self.document: Document = self.tree.document
        self.semantics: Semantics = self.tree.semantics
        self.roles: dict[str, list[Node]] = defaultdict(list)
        self.tags: dict[str, list[Element]] = defaultdict(list)
        self.having: dict[str, list[Element]] = defaultdict(list)
        self.styles: Styles = self.tree.styles
        self.is_source = self.tree.has_source
        self._paths = Paths()
        self._referred: dict[str, set[str]] = {}
        self._places: dict[Element, dict[Element | Text, int]] = {}
        """At which place the children of elements stand; to search them again for each would take too long."""
        for node in self.tree.nodes:
            if not node.is_part:
                self.roles[node.role].append(node)
        if self.is_source:
            self._gather()

    def _gather(self) -> None:
        tags, having = self.tags, self.having
        for node in (self.document.root, *self.document.root.descendants()):
            if isinstance(node, Element):
                tags[node.tag if node.namespace is Namespace.HTML else f"svg {node.tag}"].append(node)
                for name in node.attributes:
                    having[name].append(node)

    # Elements

    @property
    def root(self) -> Element:
        """The element that stands for the whole page."""
        return self.document.root

    @property
    def looks(self) -> Looks:
        """What style sheets say of looks."""
        return self.styles.looks

    @cached_property
    def routes(self) -> Routes:
        """The moves that lead to its places."""
        return Routes(self.session)

    @cached_property
    def sight(self) -> Sight:
        """What is seen of the page."""
        return Sight(self.looks)

    @cached_property
    def out_of_sight(self) -> list[tuple[Element, str]]:
        """The topmost elements that are heard and out of sight, and what puts them there, in document order."""
        if not self.is_source:
            return []
        found: list[tuple[Element, str]] = []
        end = -1
        for text in self.texts:
            element = text.element
            why = self.sight.unseen(element)
            if not why or element.order < end:
                continue
            while element.parent is not None and self.sight.unseen(element.parent):
                element = element.parent
            end = element.end
            found.append((element, why))
        return found

    @cached_property
    def parse_errors(self) -> list[ParseError]:
        """What the parser had to mend in the markup."""
        return parse_errors(self.document) if self.is_source else []

    def elements(self, *tags: str) -> Iterator[Element]:
        """Yield the elements of tags, those of each in document order, that are not hidden."""
        for tag in tags:
            for element in self.tags.get(tag, ()):
                if self.is_exposed(element):
                    yield element

    def is_exposed(self, element: Element) -> bool:
        """Whether an element is not hidden from those who listen; it need not have an object of its own."""
        return self.semantics.hidden(element) is None

    def exposed_having(self, attribute: str) -> Iterator[Element]:
        """Yield the elements with an attribute that are not hidden."""
        return (element for element in self.having.get(attribute, ()) if self.is_exposed(element))

    def words(self, element: Element) -> str:
        """Return what the content of an element says, as a name from content would be computed."""
        return self.tree.naming.contents(element)

    @cached_property
    def repeated_ids(self) -> dict[str, list[Element]]:
        """The elements of the page itself that share an id, by that id."""
        found: dict[str, list[Element]] = defaultdict(list)
        for element in self.having.get("id", ()):
            identifier = element.attributes["id"]
            if identifier and self.document.ids_around(element) is self.document.ids:
                found[identifier].append(element)
        return {identifier: elements for identifier, elements in found.items() if len(elements) > 1}

    def refers(self, attribute: str, identifier: str) -> bool:
        """Whether any element refers to an id by an attribute that holds a list of them."""
        if attribute not in self._referred:
            holders = self.having.get(attribute, ())
            self._referred[attribute] = {token for each in holders for token in each.attributes[attribute].split()}
        return identifier in self._referred[attribute]

    @cached_property
    def controls(self) -> dict[Element | None, list[Element]]:
        """The native controls that are exposed, by the form they belong to; None for those that belong to none."""
        owned: dict[Element | None, list[Element]] = defaultdict(list)
        found = sorted(self.elements("input", "select", "textarea", "button"), key=attrgetter("order"))
        for element in found:
            owned[form_of(self.document, element)].append(element)
        return owned

    @cached_property
    def handlers(self) -> Sequence[Handler]:
        """What is known of the page's handlers and scripted changes."""
        return self.session.stage.handlers() if self.session.stage is not None else ()

    @property
    def seen(self) -> Seen | None:
        """What is seen of the page; None if nobody looked at it, or no browser lays it out."""
        return self.session.stage.seen if self.session.stage is not None else None

    def listening(self, event: Event) -> Set[Element]:
        """Return the elements on which something happens at an event."""
        return self._listening.get(event, frozenset())

    @cached_property
    def _listening(self) -> Mapping[Event, Set[Element]]:
        found: dict[Event, set[Element]] = defaultdict(set)
        for handler in self.handlers:
            if isinstance(handler.when, Event):
                found[handler.when].update(handler.elements)
        return found

    @property
    def tabbed(self) -> TabSeen | None:
        """The stops that real presses of Tab came to, on the page or on a copy of it; None if Tab was not pressed."""
        return self.session.tabbed or (self.seen.tabbed if self.seen is not None else None)

    def does_something(self, element: Element) -> bool:
        """Whether it is known that a click on an element changes something."""
        if any(handler.changes and element in handler.elements for handler in self.handlers):
            return True
        return bool(self.clicks.get(element))

    @cached_property
    def clicks(self) -> Mapping[Element, str]:
        """What clicks do, in words, by what was clicked on a copy of the page; empty where a click did nothing."""
        return {each.element: each.words for each in self.seen.clicks} if self.seen is not None else {}

    def xpath(self, element: Element) -> str:
        """Return the absolute XPath of an element; in a tree that was stated, the one that is stated."""
        node = None if self.is_source else self.node(element)
        return self.tree.xpath_of(node) if node is not None else self._paths.of(element)

    # Nodes

    def nodes(self, roles: Iterable[str]) -> Iterator[Node]:
        """Yield the nodes of roles, those of each in reading order."""
        for role in roles:
            yield from self.roles.get(role, ())

    def node(self, element: Element) -> Node | None:
        """Return the node of an element, None if it has no object of its own."""
        return self.tree.node_of(element)

    def node_around(self, element: Element) -> Node:
        """Return the node of an element, or of the nearest around it that has one."""
        nodes = (self.node(each) for each in (element, *element.ancestors()))
        return next((node for node in nodes if node is not None), self.tree.root)

    def place_of(self, element: Element) -> float:
        """Return where an element stands in reading order: its node's id, or, of a hidden one, a number between ids."""
        node = self.node(element)
        if node is not None:
            return node.id
        orders, ids = self._by_source
        at = bisect_right(orders, element.order)
        return ids[at - 1] + 0.5 if at else 0.5

    @cached_property
    def _by_source(self) -> tuple[list[int], list[int]]:
        """The places of exposed elements in the document, and the ids of their nodes beside them."""
        places = sorted((element.order, node.id) for element, node in self.tree.by_element.items())
        return [order for order, _ in places], [identifier for _, identifier in places]

    @cached_property
    def tab_order(self) -> TabOrder:
        """The Tab order beside the reading order."""
        order = self.tree.tab_order
        return TabOrder(order, [self.place_of(element) for element in order])

    @cached_property
    def headings(self) -> list[Node]:
        """The headings, in reading order."""
        return self.roles.get("heading", [])

    @cached_property
    def links(self) -> list[Node]:
        """The links, in reading order."""
        return sorted(self.nodes(LINKS), key=attrgetter("id"))

    @cached_property
    def fields(self) -> list[Node]:
        """The fields of forms, in reading order."""
        editable = filter(None, map(self.node, self.having.get("contenteditable", ())))
        return sorted((*self.nodes(FIELDS), *filter(is_rich_text, editable)), key=attrgetter("id"))

    @cached_property
    def landmarks(self) -> list[Node]:
        """The landmarks, in reading order."""
        return [node for node in self.tree.nodes if node.is_landmark and not node.is_part]

    @cached_property
    def texts(self) -> list[Node]:
        """The texts that are read, in reading order."""
        return [node for node in self.roles.get("text", ()) if node.name.strip()]

    def within(self, around: Node, nodes: list[Node]) -> list[Node]:
        """Return those of some nodes, which are in reading order, that stand inside another."""
        start = bisect_right(nodes, around.id, key=attrgetter("id"))
        return nodes[start : bisect_left(nodes, around.end, key=attrgetter("id"))]

    def fields_in(self, element: Element) -> list[Node]:
        """Return the fields inside an element, as they stand in the document."""
        return _placed_in(element, self._placed_fields)

    def headings_in(self, element: Element) -> list[Node]:
        """Return the headings inside an element, as they stand in the document."""
        return _placed_in(element, self._placed_headings)

    @cached_property
    def _placed_fields(self) -> list[Node]:
        return sorted(self.fields, key=_order)

    @cached_property
    def _placed_headings(self) -> list[Node]:
        return sorted(self.headings, key=_order)

    def text_within(self, around: Node) -> str:
        """Return the text that is read inside a node; texts of different blocks are parted."""
        texts: list[str] = []
        last: Element | None = None
        for node in self.tree.nodes[around.id + 1 : around.end]:
            if node.is_text:
                block = self._block_around(node.element)
                texts += ["" if last in (None, block) else " ", node.name]
                last = block
        return collapse("".join(texts))

    def _block_around(self, element: Element) -> Element:
        while element.parent is not None and self.styles.of(element).is_inline:
            element = element.parent
        return element

    def heading_over(self, node: Node) -> Node | None:
        """Return the last heading before a node, None if there is none."""
        return heading_over(self.headings, node)

    def heard(self, node: Node) -> str:
        """Return what is heard of a node alone."""
        return self.session.speaker.say_alone(node).text

    def beside(self, element: Element) -> tuple[str, str]:
        """Return the text that stands directly before and after an element, among its parent's children."""
        before = next(self.siblings(element, -1), None)
        after = next(self.siblings(element, 1), None)
        return (
            collapse(before.data) if isinstance(before, Text) else "",
            collapse(after.data) if isinstance(after, Text) else "",
        )

    def next_element(self, element: Element) -> Element | None:
        """Return the next element after another among its parent's children, None if it is the last."""
        return next((each for each in self.siblings(element, 1) if isinstance(each, Element)), None)

    def siblings(self, element: Element, way: int) -> Iterator[Element | Text]:
        """Yield what stands before an element among its parent's children, the nearest first, or with 1 after it."""
        parent = element.parent
        if parent is None:
            return
        if parent not in self._places:
            self._places[parent] = {child: at for at, child in enumerate(parent.children)}
        at = self._places[parent][element] + way
        while 0 <= at < len(parent.children):
            yield parent.children[at]
            at += way


def unnamed(nodes: Iterable[Node]) -> Iterator[Node]:
    """Yield those of some nodes that have no name, or one of white space only."""
    return (node for node in nodes if not node.name.strip())


def _order(node: Node) -> int:
    return node.element.order


def _placed_in(element: Element, nodes: list[Node]) -> list[Node]:
    """Return those of some nodes, which are in the document's order, whose elements stand in an element or are it."""
    start = bisect_left(nodes, element.order, key=_order)
    return nodes[start : bisect_left(nodes, element.end, key=_order)]
