"""HTML in, Document out. The parser is Lexbor; this module turns its nodes into ours."""

from __future__ import annotations

from dataclasses import dataclass

from selectolax.lexbor import LexborHTMLParser, LexborNode, SelectolaxError

from murvel.page.document import Document, Element, Namespace, Text
from murvel.page.errors import PageError
from murvel.page.markup import Marked, mark_start_tags
from murvel.page.places import SourceText

MAX_DEPTH = 512
"""Elements deeper than this become siblings and text stays in them, as browsers have it (docs/standards.md)."""

_TEXT, _COMMENT = "-text", "-comment"

# The elements of SVG and MathML whose children are HTML again (HTML §13.2.6.1, HTML integration points).
_HTML_AGAIN = frozenset({"foreignObject", "desc", "title", "annotation-xml"})


@dataclass(slots=True)
class Parsed:
    """A document with what is still needed to apply style sheets to it.

    Attributes:
        document: the document, its styles not yet computed.
        parser: Lexbor's tree, which matches selectors.
        by_memory: our element for each of its nodes, by `mem_id`.
    """

    document: Document
    parser: LexborHTMLParser
    by_memory: dict[int, Element]


def parse(source: str, address: str, width: int = 1280) -> Parsed:
    """Parse HTML as a browser with scripts off does.

    Args:
        source: the decoded markup.
        address: where it came from, kept as given.
        width: the viewport's width in CSS pixels, for style sheets applied later.

    Raises:
        PageError: the parser gave no document.
    """
    # U+0000 is dropped or replaced by the tokenizer; a lone surrogate cannot be encoded for it.
    encodable = source.encode("utf-8", "replace").decode("utf-8") if _has_surrogate(source) else source
    marked = mark_start_tags(encodable)
    parser = _lexbor(marked.text)
    builder = _Builder(marked, parser)
    if builder.marks_found != marked.count and not _marks_did_no_harm(encodable, marked, parser):
        marked = Marked(encodable, marked.attribute, 0)
        parser = _lexbor(encodable)
        builder = _Builder(marked, parser)
    document = Document(address, builder.root, SourceText(source), builder.ids, width)
    return Parsed(document, parser, builder.by_memory)


def _has_surrogate(text: str) -> bool:
    try:
        text.encode("utf-8")
    except UnicodeEncodeError:
        return True
    return False


def _lexbor(source: str) -> LexborHTMLParser:
    try:
        parser = LexborHTMLParser(source)
    except (SelectolaxError, ValueError, MemoryError) as error:
        raise PageError(f"The page could not be parsed: {error}.") from error
    if parser.root is None:
        raise PageError("The page could not be parsed: it holds no document.")
    return parser


def _marks_did_no_harm(source: str, marked: Marked, parser: LexborHTMLParser) -> bool:
    """Whether the marked source makes the same document as the source itself.

    Marks that no element carries are usually tags the parser ignored; they can also mean that the scan took
    something else for a tag, and then the places are given up rather than the document.
    """
    return marked.restored(parser.html or "") == (_lexbor(source).html or "")


class _Builder:
    """One pass over Lexbor's nodes, without recursion."""

    def __init__(self, marked: Marked, parser: LexborHTMLParser) -> None:
        self.marked = marked
        self._marks: set[str] = set()
        self.ids: dict[str, Element] = {}
        self.by_memory: dict[int, Element] = {}
        self.order = 0
        root = parser.root
        assert root is not None
        self.root = self._element(root, None)
        self._fill(root)

    @property
    def marks_found(self) -> int:
        """How many marks an element has; several elements have the same where the parser copied one."""
        return len(self._marks)

    def _fill(self, root: LexborNode) -> None:
        marker = self.marked.attribute
        parent = self.root
        depth = 1
        too_deep = False
        following: list[tuple[LexborNode | None, Element]] = []
        node = root.first_child
        while True:
            if node is None:
                if not following:
                    break
                parent.end = self.order
                node, parent = following.pop()
                depth -= 1
                continue
            tag = node.tag
            if tag == _TEXT:
                data = node.text_content or ""
                if marker in data:
                    data = self.marked.restored(data)
                parent.children.append(Text(data, parent, self.order))
                self.order += 1
            elif tag is not None and tag[0] != "-":
                holder = parent
                if depth > MAX_DEPTH:
                    holder, too_deep = parent.parent or parent, True
                element = self._element(node, holder)
                holder.children.append(element)
                child = node.first_child
                if child is not None:
                    following.append((node.next, parent))
                    node, parent = child, element
                    depth += 1
                    continue
            node = node.next
        self.root.end = self.order
        if too_deep:
            self._number_again()

    def _number_again(self) -> None:
        """Number the nodes in document order, after elements were moved up."""
        order = 0
        stack: list[tuple[Element | Text, bool]] = [(self.root, False)]
        while stack:
            node, left = stack.pop()
            if left and isinstance(node, Element):
                node.end = order
                continue
            node.order = order
            order += 1
            if isinstance(node, Element):
                stack.append((node, True))
                stack.extend((child, False) for child in reversed(node.children))

    def _element(self, node: LexborNode, parent: Element | None) -> Element:
        tag = node.tag or ""
        attributes = {name: value or "" for name, value in node.attributes.items()}
        mark = attributes.pop(self.marked.attribute, None)
        if mark is not None:
            self._marks.add(mark)
        element = Element(
            tag, _namespace(tag, parent), attributes, parent, self.order, None if mark is None else int(mark)
        )
        self.order += 1
        if attributes:
            for name, value in attributes.items():
                if self.marked.attribute in value:
                    attributes[name] = self.marked.restored(value)
            identifier = attributes.get("id")
            if identifier and identifier not in self.ids:
                self.ids[identifier] = element
        self.by_memory[node.mem_id] = element
        return element


def _namespace(tag: str, parent: Element | None) -> Namespace:
    if tag == "svg":
        return Namespace.SVG
    if tag == "math":
        return Namespace.MATHML
    if parent is None or parent.namespace is Namespace.HTML or parent.tag in _HTML_AGAIN:
        return Namespace.HTML
    return parent.namespace
