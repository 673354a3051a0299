"""Lexbor's nodes, turned into elements and texts of ours."""

from __future__ import annotations

from sys import intern

from selectolax.lexbor import LexborHTMLParser, LexborNode, SelectolaxError

from murvel.dom.cheap import cheap_to_parse, leave_as_written
from murvel.dom.document import Element, Namespace, Text, number
from murvel.dom.markup import START_TAG
from murvel.dom.shadow import declares_shadow
from murvel.loading.errors import PageError

MAX_DEPTH = 512
"""Elements deeper than this become siblings and text stays in them, as browsers have it (docs/standards.md)."""

MAX_NODES = 800_000
"""How many elements and texts a page may have."""

TEXT, _DOCTYPE = "-text", "-doctype"
"""What Lexbor gives as the tags of nodes that are no elements."""

_HTML_AGAIN = {
    Namespace.SVG: frozenset({"foreignObject", "desc", "title"}),
    Namespace.MATHML: frozenset({"annotation-xml", "mi", "mn", "mo", "ms", "mtext"}),
}
"""The elements whose children are HTML again (HTML §13.2.6.1, integration points)."""


def parsed(source: str) -> LexborHTMLParser:
    """Return Lexbor's tree of a page.

    Raises:
        PageError: there is none.
    """
    try:
        parser = LexborHTMLParser(cheap_to_parse(source))
        leave_as_written(parser)
    except (SelectolaxError, ValueError, MemoryError) as error:
        raise PageError(f"The page could not be parsed: {error}.") from error
    if parser.root is None:
        raise PageError("The page could not be parsed: it holds no document.")
    before = parser.root.prev
    while before is not None and before.tag != _DOCTYPE:
        before = before.prev
    if before is not None:
        before.decompose()  # the engine counts it as a sibling of html
    return parser


class Builder:
    """Passes over Lexbor's nodes, without recursion.

    Attributes:
        ids, by_memory, declared: as in `murvel.css.selectors.engine.Subtree`.
    """

    def __init__(self) -> None:
        self.ids: dict[str, Element] = {}
        self.by_memory: dict[int, Element] = {}
        self.declared: list[tuple[Element, str]] = []
        self.order = 0

    def page(self, parser: LexborHTMLParser) -> Element:
        """Make the elements of a page, and return its html element."""
        assert parser.root is not None
        root = self.element(parser.root, None)
        self.fill(root, parser.root.first_child)
        return root

    def shadow(self, template: Element, markup: str) -> LexborHTMLParser:
        """Make the elements of a shadow tree in the template that declares it, and return Lexbor's tree of them."""
        fragment = LexborHTMLParser(markup, is_fragment=True)
        if fragment.root is not None:
            self.fill(template, fragment.root)
        return fragment

    def fill(self, root: Element, first: LexborNode | None) -> None:
        """Make what stands in an element of the nodes from `first` on."""
        parent = root
        depth = 1
        too_deep = False
        following: list[tuple[LexborNode | None, Element]] = []
        node = first
        while True:
            if self.order > MAX_NODES:
                raise PageError(
                    f"The page has more than {MAX_NODES:,} elements and texts once it is parsed",
                    "save the part to be tested as a file of its own.",
                )
            if node is None:
                if not following:
                    break
                parent.end = self.order
                node, parent = following.pop()
                depth -= 1
                continue
            tag = node.tag
            if tag == TEXT:
                parent.add(Text(node.text_content or "", parent, self.order))
                self.order += 1
            elif tag is not None and tag[0] != "-":
                holder = parent
                if depth > MAX_DEPTH:
                    holder, too_deep = parent.parent or parent, True
                element = self.element(node, holder)
                holder.add(element)
                child = node.first_child
                if child is not None:
                    following.append((node.next, parent))
                    node, parent = child, element
                    depth += 1
                    continue
            node = node.next
        root.end = self.order
        if too_deep:
            number(root)

    def element(self, node: LexborNode, parent: Element | None) -> Element:
        """Make the element of a node."""
        tag = intern(node.tag or "")
        attributes = {intern(name): value or "" for name, value in node.attributes.items()}
        element = Element(tag, _namespace(tag, parent), attributes, parent, self.order)
        self.order += 1
        if attributes:
            identifier = attributes.get("id")
            if identifier and identifier not in self.ids:
                self.ids[identifier] = element
            if tag == "template" and declares_shadow(element):
                self.declared.append((element, _content(node)))
        self.by_memory[node.mem_id] = element
        return element


def _content(template: LexborNode) -> str:
    """The markup inside a template; its nodes are not among its children."""
    markup = template.html or ""
    start = START_TAG.match(markup)
    return markup[start.end() : markup.rfind("</")] if start else ""


def _namespace(tag: str, parent: Element | None) -> Namespace:
    if tag == "svg":
        return Namespace.SVG
    if tag == "math":
        return Namespace.MATHML
    if parent is None or parent.namespace is Namespace.HTML or parent.tag in _HTML_AGAIN[parent.namespace]:
        return Namespace.HTML
    return parent.namespace
