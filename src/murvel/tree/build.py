"""Building the tree: a walk over the document that decides, element by element, what is exposed and as what."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.page.document import Document, Element, Namespace, Text
from murvel.page.memory import no_collection
from murvel.page.text import HTML_SPACE, collapse_runs, transformed
from murvel.tree.focus import is_focusable, tab_stops
from murvel.tree.model import Node, Tree
from murvel.tree.name_sources import NameFrom
from murvel.tree.naming import Naming
from murvel.tree.roles import NAME_PROHIBITED, PRESENTATIONAL_CHILDREN, TABLES, TEXT
from murvel.tree.semantics import Hiding, Semantics
from murvel.tree.states import DISABLEABLE, State, may_have_states, states_of
from murvel.tree.values import VALUED, value_of

_NOT_RENDERED = frozenset({"script", "style", "template", "noframes", "noembed", "head"})

# Elements whose content is a fallback or a value, not content of the page.
_REPLACED = frozenset({"audio", "embed", "iframe", "input", "meter", "object", "progress", "textarea", "video"})

_FLOWS = frozenset({"block", "inline-block", "flow-root", "list-item", "table-cell", "table-caption"})
"""Values of display that lay out lines."""

_KEEPS_SPACE = frozenset({"pre", "pre-wrap", "pre-line", "break-spaces"})

# Members of a set by the role of their container (Core-AAM 1.2 §5.6.2, posinset and setsize computed).
_SETS: dict[str, tuple[str, ...]] = {
    "list": ("listitem",),
    "listbox": ("option",),
    "combobox": ("option",),
    "menu": ("menuitem", "menuitemcheckbox", "menuitemradio"),
    "menubar": ("menuitem", "menuitemcheckbox", "menuitemradio"),
    "radiogroup": ("radio",),
    "tablist": ("tab",),
    "tree": ("treeitem",),
}
_MEMBERS = frozenset(member for members in _SETS.values() for member in members)


def build_tree(document: Document) -> Tree:
    """Return the accessibility tree of a document."""
    with no_collection():
        return _Builder(document).build()


class _Builder:
    def __init__(self, document: Document) -> None:
        self.document = document
        self.semantics = Semantics(document)
        self.naming = Naming(self.semantics)
        self.rendered: list[Element] = []
        """Elements that the keyboard may reach, in document order: what aria-hidden covers is among them."""
        self.line = _Line()
        self.paragraphs: list[Node] = []

    def build(self) -> Tree:
        root_element = self.document.root
        root = Node("document", root_element, None)
        root.name, root.name_from = self.naming.name(root_element, root.role)
        self._fill(root, root_element)
        _drop_empty(self.paragraphs)
        nodes = number_nodes(root)
        _count_sets(nodes)
        tree = Tree(self.document, root, self.naming, nodes, [])
        by_element = (tree.node_of(element) for element in tab_stops(self.rendered))
        tree.stops = [node for node in by_element if node is not None]
        _place_cells(tree)
        return tree

    def _fill(self, root: Node, element: Element) -> None:
        """Walk the document in order; each entry is a node of the document with the object that it goes under.

        An entry without a node of the document marks the place behind one's content: with an object, that this ends
        there, else that a block's line does.
        """
        stack: list[tuple[Element | Text | None, Node | None]] = [(child, root) for child in self._reversed(element)]
        while stack:
            item, parent = stack.pop()
            if item is None and parent is not None:
                self.line.end()
                self.line.add_object()
            elif item is None:
                self.line.end()
            elif isinstance(item, Text):
                if parent is not None:
                    self._text(item, parent)
            else:
                self._element(item, parent, stack)

    def _element(
        self, element: Element, parent: Node | None, stack: list[tuple[Element | Text | None, Node | None]]
    ) -> None:
        """Expose an element, if it is to be; `parent` is None inside what only the keyboard can reach."""
        if element.tag in _NOT_RENDERED:
            return
        hidden = self.semantics.hidden(element)
        if hidden is not None and hidden.why is not Hiding.NOT_VISIBLE:
            if hidden.why is Hiding.ARIA_HIDDEN:
                if is_focusable(element):
                    self.rendered.append(element)
                stack.extend((child, None) for child in self._reversed(element) if isinstance(child, Element))
            return
        is_block = not element.style.is_inline and element.tag not in ("option", "optgroup")
        if is_block or element.tag == "br":
            self.line.end()
        node: Node | None = None
        if hidden is None:
            if (element.attributes and is_focusable(element)) or element.tag in (
                "button",
                "input",
                "select",
                "textarea",
                "summary",
            ):
                self.rendered.append(element)
            if parent is not None:
                node = self._object(element, parent)
        if is_block:
            stack.append((None, None))
        if element.tag in _REPLACED and not _is_fallback(element):
            self.line.add_object()
            if element.tag == "iframe" and hidden is None:
                stack.extend((child, node or parent) for child in element.elements())
            return
        if element.tag == "select":
            self.line.add_object()
        below = node if node is not None else parent
        if node is not None and node.role in PRESENTATIONAL_CHILDREN:
            self.line.go_into_object()
            stack.append((None, node))
        if not self.semantics.shows_text(element):
            # Elements inside may be visible again, or be a summary.
            stack.extend((child, below) for child in self._reversed(element) if isinstance(child, Element))
            return
        if below is not None and (element.style.before or element.style.after):
            self._with_generated(element, below, stack)
        else:
            stack.extend((child, below) for child in self._reversed(element))

    def _reversed(self, element: Element) -> Iterator[Element | Text]:
        return reversed(self.semantics.children(element))

    def _object(self, element: Element, parent: Node) -> Node | None:
        role = self.semantics.role(element)
        if role is None or role == "none" or (element.tag == "p" and role == "paragraph" and not _has_lines(element)):
            return None
        node = Node(role, element, parent)
        node.starts_line = self.line.at_start
        parent.children.append(node)
        attributes = element.attributes
        if not attributes and role in NAME_PROHIBITED and element.tag != "ruby":
            return self._bare(node)
        if role not in NAME_PROHIBITED or "aria-label" in attributes or "aria-labelledby" in attributes:
            node.name, node.name_from = self.naming.name(element, role)
        if may_have_states(element, role):
            node.states = states_of(element, role) or node.states
        if "popovertarget" in attributes and role == "button":
            popover = self.document.ids_around(element).get(attributes["popovertarget"])
            if popover is not None and "popover" in popover.attributes:
                node.states = {"expanded": popover.style.display != "none", **node.states}
        if role in DISABLEABLE and self.semantics.is_disabled_around(element) and is_focusable(element):
            node.states = {**node.states, "disabled": True}
        if attributes or element.tag == "ruby" or element.namespace is Namespace.SVG:
            node.description, node.description_from = self.naming.description(element, node.name_from, node.name)
        if role in VALUED:
            node.value = value_of(element, role)
        return self._bare(node)

    def _bare(self, node: Node) -> Node:
        """Note a node of which nothing more is to be found out."""
        if node.role == "paragraph":
            self.paragraphs.append(node)
        return node

    def _with_generated(
        self, element: Element, below: Node, stack: list[tuple[Element | Text | None, Node | None]]
    ) -> None:
        if element.style.after:
            stack.append((Text(element.style.after, element, element.end), below))
        stack.extend((child, below) for child in self._reversed(element))
        if element.style.before:
            stack.append((Text(element.style.before, element, element.order), below))

    def _text(self, text: Text, parent: Node) -> None:
        style = text.parent.style
        data = transformed(text.data, style.text_transform)
        if style.white_space in _KEEPS_SPACE:
            if not data.strip(HTML_SPACE) and (self.line.at_start or "\n" in data):
                self.line.end()  # it only ends a line, or begins one
                return
            starts_line = self.line.at_start
            self.line.add_object()
        else:
            starts_line = self.line.at_start
            data = self.line.add_text(collapse_runs(data))
            if not data:
                return
        node = Node(TEXT, text.parent, parent)
        node.starts_line = starts_line
        node.name = data
        node.name_from = NameFrom.CONTENTS
        parent.children.append(node)
        self.line.last_text = node


class _Line:
    """White space as it collapses along a line of text (CSS Text 3 §4.1.1): none at its start or end, one between."""

    def __init__(self) -> None:
        self.at_start = True
        self.space_before = False
        self.last_text: Node | None = None

    def end(self) -> None:
        if self.last_text is not None:
            self.last_text.name = self.last_text.name.rstrip(" ")
            self.last_text = None
        self.at_start = True
        self.space_before = False

    def add_text(self, data: str) -> str:
        """Return `data`, collapsed already, as it goes on the line; empty where nothing of it is left."""
        if self.at_start or self.space_before:
            data = data.lstrip(" ")
        elif data == " " and self.last_text is not None:
            # A space alone between two objects belongs to the text before it, if there is one.
            self.last_text.name += " "
            self.space_before = True
            return ""
        if not data.strip(" "):
            self.space_before = self.space_before or bool(data)
            return ""
        self.at_start = False
        self.space_before = data.endswith(" ")
        return data

    def go_into_object(self) -> None:
        """Begin the content of an object in the line, which has lines of its own."""
        self.at_start = True
        self.space_before = False
        self.last_text = None

    def add_object(self) -> None:
        self.at_start = False
        self.space_before = False
        self.last_text = None


def _nests_items(node: Node) -> bool:
    return node.role == "list" and node.element.tag != "dl"


def _is_fallback(element: Element) -> bool:
    """Whether an object element has nothing to show but its content (HTML §4.8.7)."""
    return element.tag == "object" and not element.attributes.keys() & {"data", "type"}


def _has_lines(paragraph: Element) -> bool:
    """Whether a p element lays out lines of text; browsers expose no others as paragraphs (docs/standards.md)."""
    if paragraph.style.display in _FLOWS and all(
        child.style.is_inline or child.style.display == "none" for child in paragraph.elements()
    ):
        return True
    return _is_spoken_of(paragraph)


def _is_spoken_of(element: Element) -> bool:
    return any(name.startswith("aria-") or name in ("tabindex", "title", "role") for name in element.attributes)


def _drop_empty(paragraphs: list[Node]) -> None:
    """Take out paragraphs with nothing in them and nothing said of them, as browsers do."""
    empty = [node for node in paragraphs if not node.children and not _is_spoken_of(node.element)]
    dropped = {id(node) for node in empty}
    for parent in {id(node.parent): node.parent for node in empty}.values():
        if parent is not None:
            parent.children = [child for child in parent.children if id(child) not in dropped]


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
    for node in reversed(nodes):
        node.end = node.children[-1].end if node.children else node.id + 1
    return nodes


def _is_one(node: Node) -> bool:
    """Whether a node is heard as one, whatever is in it; what is in an image with a map are its areas."""
    return node.role in PRESENTATIONAL_CHILDREN and "usemap" not in node.element.attributes


def _place_cells(tree: Tree) -> None:
    """Give tables their size and cells their place and spans, as aria-rowindex and its like name them.

    What the author states counts before that: such a table may be a part of a larger one (WAI-ARIA 1.2 §6.6).
    """
    for table in tree.nodes:
        if table.role in TABLES:
            grid = tree.grid_of(table)
            table.states = {"rowcount": grid.rows, "colcount": grid.columns, **table.states}
            for id, place in grid.places.items():
                spans = {"rowspan": place.rows, "colspan": place.columns}
                counted = {name: span for name, span in spans.items() if span > 1}
                cell = tree.nodes[id]
                cell.states = {"rowindex": place.row, "colindex": place.column, **counted, **cell.states}


def _count_sets(nodes: list[Node]) -> None:
    """Give the members of sets their position and the size of their set, and items the level of their list.

    What the author states counts before that (Core-AAM 1.2 §5.6.2).
    """
    members: dict[int, list[Node]] = {}
    for node in nodes:
        if node.role in _MEMBERS:
            container = next((above for above in node.ancestors() if above.role in _SETS), None)
            if container is not None and node.role in _SETS[container.role]:
                if node.role == "treeitem":  # a branch is a set of its own
                    container = next(above for above in node.ancestors() if above.role in ("tree", "treeitem"))
                members.setdefault(container.id, []).append(node)
            elif node.role == "listitem":
                node.states = {"level": 1, **node.states}
            if node.role == "treeitem":
                level = 1 + sum(above.role == "treeitem" for above in node.ancestors())
                node.states = {"level": level, **node.states}
    for group in members.values():
        for position, node in enumerate(group, 1):
            counted: dict[str, State] = {"posinset": position, "setsize": len(group)}
            if node.role == "listitem":
                counted["level"] = max(1, sum(_nests_items(above) for above in node.ancestors()))
            node.states = {**counted, **node.states}
