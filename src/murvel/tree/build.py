"""Building the tree: a walk over the document that decides, element by element, what is exposed and as what.

A tree is built once. When its document changes, `Builder.rebuild` walks again where something may be exposed in another
way, and keeps the nodes of all else (`murvel.tree.following.stale` tells where).
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence

from murvel.css.generated.content import Generated
from murvel.css.values.style import Style, Styles
from murvel.dom.document import Document, Element, Namespace, Text
from murvel.dom.html.controls import is_open
from murvel.dom.html.facts import is_spoken_of
from murvel.dom.memory import no_collection
from murvel.dom.summaries import summary_of
from murvel.page.styled_document import StyledDocument
from murvel.text import HTML_SPACE, collapse_runs, transformed
from murvel.tree.counting import count_sets, number_nodes, place_cells
from murvel.tree.focus import is_focusable, stop_index, tab_stops
from murvel.tree.model import Tree
from murvel.tree.names.name_sources import NameFrom
from murvel.tree.names.naming import Naming
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import NAME_PROHIBITED, PRESENTATIONAL_CHILDREN, TEXT
from murvel.tree.roles.semantics import Hiding, Semantics
from murvel.tree.states.control_values import VALUED, value_of
from murvel.tree.states.states import may_have_states, states_of
from murvel.tree.states.states_around import states_around

_NOT_RENDERED = frozenset({"script", "style", "template", "noframes", "noembed", "head"})

_OF_DRAWINGS = frozenset({"desc", "metadata", "title"})
"""What says something of a drawing and is no part of it (SVG 2 §5.7)."""

_NAMING = frozenset({"aria-label", "aria-labelledby"})
"""Attributes that name also what is not to be named."""

# Elements whose content is a fallback or a value, not content of the page.
_REPLACED = frozenset({"audio", "embed", "iframe", "input", "meter", "object", "progress", "textarea", "video"})

_FLOWS = frozenset({"block", "inline-block", "flow-root", "list-item", "table-cell", "table-caption"})
"""Values of display that lay out lines."""

_KEEPS_SPACE = frozenset({"pre", "pre-wrap", "pre-line", "break-spaces"})

_ALWAYS_TRIED = frozenset({"button", "iframe", "input", "select", "textarea", "summary"})
"""Elements that the keyboard may reach without any attribute."""


def build_tree(page: StyledDocument) -> Tree:
    """Return the accessibility tree of a document."""
    return Builder(page).build()


class _End:
    """Marks, on the stack of a walk, the place behind the content of a block, or of an object with lines of its own."""

    __slots__ = ("is_object",)

    def __init__(self, is_object: bool) -> None:
        self.is_object = is_object


_END_OF_BLOCK, _END_OF_OBJECT = _End(False), _End(True)

_Stack = list[tuple[Element | Text | _End, Node | None]]
"""What is still to be walked, each with the object it goes under."""


class Builder:
    """Builds the tree of a document, and builds it again in part when that was changed.

    Attributes:
        semantics, naming: what answers for any element; they are the tree's as well.
        tree: the tree that was built last.
        root: the root of the nodes that were made last.
    """

    def __init__(self, page: StyledDocument) -> None:
        self.document: Document = page.document
        self.styles: Styles = page.styles
        self._style_of = page.styles.of
        self.semantics = Semantics(page.document, page.styles)
        self.naming = Naming(self.semantics)
        self._reached: dict[Element, int | None] = {}
        """Elements that the keyboard may reach, with their tabindex value: what aria-hidden covers is among them."""
        self._line = _Line()
        self._paragraphs: list[Node] = []
        self._filled: set[Node] = set()
        """Nodes that show something that is not exposed."""
        self._stale: Collection[Element] | None = None
        """On a rebuild, the elements whose objects are found again; those of all others are kept."""
        self._refilled: dict[Node, Sequence[Node]] = {}
        """On a rebuild, the nodes whose children were found again, with the children before."""
        self._moved: set[Node] = set()
        """On a rebuild, the nodes that begin a line now, or no longer do."""
        self.tree: Tree
        self.root: Node

    def build(self) -> Tree:
        """Return the tree of the document."""
        with no_collection():
            self._walk()
            nodes = number_nodes(self.root)
            count_sets(self.document, nodes)
            self.finish(nodes)
            place_cells(self.tree, nodes)
        return self.tree

    def rebuild(self, stale: Collection[Element]) -> tuple[dict[Node, Sequence[Node]], set[Node]]:
        """Build the tree again where elements are stale; everything else keeps its nodes.

        Args:
            stale: the elements whose objects are found again; what they stand in is among them.

        Returns:
            The nodes whose children were found again, with the children they had before; and the nodes that begin a
            line now, or no longer do.
        """
        self._stale = stale
        self._refilled, self._moved = {}, set()
        self.forget(stale)
        try:
            self._walk()
        finally:
            self._stale = None
        self._keep_texts()
        return self._refilled, self._moved

    def finish(self, nodes: list[Node], by_element: dict[Element, Node] | None = None) -> Tree:
        """Make the tree of nodes that are numbered, and return it; `by_element` tells them by their elements."""
        self.tree = Tree(self.document, self.styles, self.root, self.naming, nodes, by_element)
        self.tree.tab_order = tab_stops(self.document, self._reached)
        self.tree.stops = [node for node in map(self.tree.node_of, self.tree.tab_order) if node is not None]
        return self.tree

    def forget(self, removed: Collection[Element]) -> None:
        """Forget that the keyboard may reach elements: they are gone, or found again."""
        for element in removed:
            self._reached.pop(element, None)

    def _walk(self) -> None:
        """Walk the document in order, and make its nodes."""
        element = self.document.root
        root = Node("document", element, None)
        root.name, root.name_from = self.naming.name(element, root.role)
        self.root = root = root if self._stale is None else self._kept_or(root)
        stack: _Stack = [(child, root) for child in self._reversed(element)]
        while stack:
            item, parent = stack.pop()
            if isinstance(item, _End):
                self._line.end()
                if item.is_object:
                    self._line.add_object()
            elif isinstance(item, Text):
                if parent is not None:
                    self._text(item, parent)
            else:
                self._element(item, parent, stack)
        self._line.end()
        _drop_empty([node for node in self._paragraphs if node not in self._filled])
        self._paragraphs.clear()
        self._filled.clear()

    def _element(self, element: Element, parent: Node | None, stack: _Stack) -> None:
        """Expose an element, if it is to be; `parent` is None inside what only the keyboard can reach."""
        if element.tag in _NOT_RENDERED or (element.tag in _OF_DRAWINGS and element.namespace is Namespace.SVG):
            return
        hidden = self.semantics.hidden(element)
        if hidden is not None and hidden.why is not Hiding.NOT_VISIBLE:
            if hidden.why is Hiding.ARIA_HIDDEN:
                self._covered(element, stack)
            return
        style = self._style_of(element)
        is_block = not style.is_inline and element.tag not in ("option", "optgroup")
        if is_block or element.tag == "br":
            self._line.end(at_float=style.is_out_of_flow)
            if self._stale is not None and is_block and parent is not None and self._keeps_all(element, parent):
                return
        if element.tag == "label" and hidden is None and self.semantics.is_redundant(element):
            if parent is not None:
                self._filled.add(parent)
            stack.extend((child, parent) for child in self._reversed(element) if isinstance(child, Element))
            return
        node: Node | None = None
        if hidden is None:
            is_tried = element.attributes or element.tag in _ALWAYS_TRIED or element.state.is_scroll_stop
            if is_tried and style.display != "contents" and is_focusable(element):
                self._reached[element] = self._stop_index(element)
            if parent is not None:
                node = self._object(element, parent, style)
        if is_block:
            stack.append((_END_OF_BLOCK, None))
        is_replaced = style.replaced is not None and element.tag != "button"  # browsers keep what is in buttons
        is_replaced |= element.tag in _REPLACED and not (element.tag == "object" and self.document.falls_back(element))
        if style.replaced and node is not None:
            self._filled.add(node)
        if is_replaced:
            self._line.add_object()
            if element.tag == "iframe" and hidden is None:
                stack.extend((child, node or parent) for child in element.elements())
            return
        if element.tag == "select":
            self._line.add_object()
        if element.tag == "option":
            return  # its name says what it shows
        below = node if node is not None else parent
        if node is not None and node.role in PRESENTATIONAL_CHILDREN:
            self._line.go_into_object()
            stack.append((_END_OF_OBJECT, None))
        if not self.semantics.shows_text(element):
            # Elements inside may be visible again, or be a summary.
            stack.extend((child, below) for child in self._reversed(element) if isinstance(child, Element))
            return
        if below is not None and (style.before or style.after or style.marker):
            self._with_generated(element, style, below, stack)
        else:
            stack.extend((child, below) for child in self._reversed(element))

    def _covered(self, element: Element, stack: _Stack) -> None:
        """Note what the keyboard reaches in what aria-hidden covers: it is shown, though nothing is heard of it."""
        style = self._style_of(element)
        if style.display == "none" or "inert" in element.attributes:
            return
        is_shown = style.visibility == "visible" and style.display != "contents"
        if is_shown and is_focusable(element):
            self._reached[element] = self._stop_index(element)
        children = [child for child in self._reversed(element) if isinstance(child, Element)]
        if element.tag == "details" and not is_open(element):
            children = [child for child in children if child is summary_of(self.document, element)]
        if style.content_visibility != "hidden":
            stack.extend((child, None) for child in children)

    def _reversed(self, element: Element) -> Iterator[Element | Text]:
        return reversed(self.semantics.children(element))

    # Objects

    def _stop_index(self, element: Element) -> int | None:
        """The tabindex value of an element that Tab may stop at; an object that shows its content is no stop itself."""
        if element.tag == "object" and "tabindex" not in element.attributes and self.document.falls_back(element):
            return None
        return stop_index(element)

    def _object(self, element: Element, parent: Node, style: Style) -> Node | None:
        """Return the object of an element, put under its parent; None if it has none."""
        if self._stale is not None and element not in self._stale:
            known = self.tree.node_of(element)
            node = self._kept(known) if known is not None else None
            if known is None and self._has_object(element, style):
                node = self._made(element)  # a paragraph that was dropped while it was empty
        else:
            node = self._made(element) if self._has_object(element, style) else None
            if node is not None and self._stale is not None:
                node = self._kept_or(node)
        if node is None:
            return None
        node.parent = parent
        if self._stale is not None and node.starts_line is not self._line.at_start:
            self._moved.add(node)
        node.starts_line = self._line.at_start
        parent.add(node)
        if node.role == "paragraph":
            self._paragraphs.append(node)
        return node

    def _has_object(self, element: Element, style: Style) -> bool:
        role = self.semantics.role(element)
        if role is None or role == "none":
            return False
        if role == "canvas":
            return bool(element.children) or is_spoken_of(element)
        return element.tag != "p" or role != "paragraph" or self._has_lines(element, style)

    def _made(self, element: Element) -> Node:
        role = self.semantics.role(element) or ""
        node = Node(role, element, None)
        attributes = element.attributes
        style = self._style_of(element)
        if not attributes and role in NAME_PROHIBITED and element.tag != "ruby" and not style.replaced:
            return node
        if role not in NAME_PROHIBITED or style.replaced or not _NAMING.isdisjoint(attributes):
            node.name, node.name_from = self.naming.name(element, role)
        if may_have_states(element, role):
            node.stated = states_of(element, role) or node.stated
        if attributes or self.semantics.passes_states_on:
            further = states_around(self.semantics, element, role)
            if further:
                node.stated = {**node.stated, **further}
        if attributes or element.tag == "ruby" or element.namespace is Namespace.SVG:
            node.description, node.description_from = self.naming.description(element, node.name_from, node.name)
        if role in VALUED:
            node.value = value_of(element, role)
            shows_value = element.tag not in _REPLACED and element.tag != "select"
            if role == "combobox" and shows_value and not node.value and is_focusable(element):
                node.value = self.naming.contents(element)  # WAI-ARIA 1.2 §5.4, combobox, value
        node.states = node.stated
        return node

    def _has_lines(self, paragraph: Element, style: Style) -> bool:
        """Whether a p element lays out lines of text; browsers expose no others as paragraphs (docs/standards.md)."""
        own = all(box is None or not box.is_block for box in (style.before, style.after))
        if (
            own
            and style.display in _FLOWS
            and all(
                child.is_inline or child.is_out_of_flow or child.display == "none"
                for child in map(self._style_of, paragraph.elements())
            )
        ):
            return True
        return is_spoken_of(paragraph)

    # Keeping nodes on a rebuild

    def _kept(self, node: Node) -> Node:
        """Keep a node, whose children are found again."""
        self._refilled[node] = node.children
        node.children = ()
        return node

    def _kept_or(self, made: Node) -> Node:
        """Return the node that was there for the same element if it says the same, else the one that was made."""
        known = self.tree.node_of(made.element)
        if known is not None and _is_same(known, made):
            return self._kept(known)
        self._refilled[made] = known.children if known is not None else ()
        return made

    def _keeps_all(self, element: Element, parent: Node) -> bool:
        """Keep a block with all that is in it, if nothing there is stale; whether it was kept."""
        assert self._stale is not None
        node = self.tree.node_of(element) if element not in self._stale else None
        if node is None:
            return False
        node.parent = parent
        parent.add(node)
        self._line.end()
        return True

    def _keep_texts(self) -> None:
        """Put texts that were there before in place of new ones that say the same, from both ends on."""
        for node, before in self._refilled.items():
            after = node.children = list(node.children)
            left = min(len(before), len(after))
            for places in (range(left), range(-1, -left - 1, -1)):
                for at in places:
                    old, new = before[at], after[at]
                    if left == 0:
                        break  # none is put in two places
                    if old is not new:
                        if not (old.is_text and new.is_text and _is_same_text(old, new)):
                            break
                        old.parent = node
                        after[at] = old
                    left -= 1

    # Texts

    def _with_generated(self, element: Element, style: Style, below: Node, stack: _Stack) -> None:
        self._generated(style.after, element, element.end, below, stack)
        stack.extend((child, below) for child in self._reversed(element))
        self._generated(style.before, element, element.order, below, stack)
        if style.marker:
            stack.append((Text(style.marker, element, element.order), below))

    def _generated(self, box: Generated | None, element: Element, order: int, below: Node, stack: _Stack) -> None:
        """Put a generated box on the stack: its text, and the lines that it begins and ends."""
        if box is None or not box.text:
            return
        if box.is_block:
            stack.append((_END_OF_BLOCK, None))
        stack.append((Text(box.text, element, order), below))
        if box.is_block:
            stack.append((_END_OF_BLOCK, None))

    def _text(self, text: Text, parent: Node) -> None:
        if text.parent.tag == "rt":
            return  # it describes what it stands beside
        style = self._style_of(text.parent)
        data = transformed(text.data, style.text_transform)
        line = self._line
        if style.white_space in _KEEPS_SPACE:
            if not data.strip(HTML_SPACE) and (line.at_start or "\n" in data):
                if line.last_text is not None:
                    line.last_text.name += "\n"
                line.end()  # it only ends a line, or begins one
                return
            starts_line = line.at_start
            line.add_object()
        else:
            starts_line = line.at_start
            data = line.add_text(collapse_runs(data))
            if not data:
                return
        node = Node(TEXT, text.parent, parent)
        node.starts_line = starts_line
        node.name = data
        node.name_from = NameFrom.CONTENTS
        parent.add(node)
        line.last_text = node


class _Line:
    """White space as it collapses along a line of text (CSS Text 3 §4.1.1): none at its start or end, one between."""

    def __init__(self) -> None:
        self.at_start = True
        self.space_before = False
        self.last_text: Node | None = None

    def end(self, *, at_float: bool = False) -> None:
        """End a line; where a float or an absolute box stands in it, it goes on behind that."""
        if self.last_text is not None and not at_float:
            self.last_text.name = self.last_text.name.rstrip(" ")
        self.last_text = None
        self.at_start = True
        self.space_before = False

    def add_text(self, data: str) -> str:
        """Return `data`, collapsed already, as it goes on the line; empty if nothing of it is left."""
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


def _drop_empty(paragraphs: list[Node]) -> None:
    """Take out paragraphs with nothing in them and nothing said of them, as browsers do."""
    empty = [
        node
        for node in paragraphs
        if not node.children and not is_spoken_of(node.element) and not node.element.attributes.get("id")
    ]
    dropped = {id(node) for node in empty}
    for parent in {id(node.parent): node.parent for node in empty}.values():
        if parent is not None:
            parent.children = [child for child in parent.children if id(child) not in dropped]


def _is_same(known: Node, made: Node) -> bool:
    """Whether two nodes of one element say the same."""
    return (
        known.role == made.role
        and known.name == made.name
        and known.name_from is made.name_from
        and known.value == made.value
        and known.stated == made.stated
        and known.description == made.description
        and known.description_from is made.description_from
    )


def _is_same_text(old: Node, new: Node) -> bool:
    return old.name == new.name and old.element is new.element and old.starts_line is new.starts_line
