"""HTML in, Document out. The parser is Lexbor; this module turns its nodes into ours."""

from __future__ import annotations

from dataclasses import dataclass
from sys import intern

from selectolax.lexbor import LexborHTMLParser, LexborNode, SelectolaxError

from murvel.page.document import Document, Element, Namespace, Text, number
from murvel.page.engine import Subtree
from murvel.page.errors import PageError
from murvel.page.formatting import left_open
from murvel.page.html.exclusive import closed_by_others, settle_radios
from murvel.page.loading.fetch import PageSource
from murvel.page.markup import START_TAG, Marked, mark_start_tags
from murvel.page.setup import DEFAULT_WIDTH
from murvel.page.shadow import assign_slots, declares_shadow, host_of
from murvel.page.source_text import SourceText
from murvel.page.summaries import give_summaries

MAX_DEPTH = 512
"""Elements deeper than this become siblings and text stays in them, as browsers have it (docs/standards.md)."""

MAX_NODES = 800_000
"""How many elements and texts a page may have."""

_MOST_REOPENED = 200_000
"""How many elements formatting tags that are left open may make beside those that have a tag."""

_MOST_STEPS = 40
"""How often a page is measured before it is parsed as a whole."""

_MAX_SHADOWS = 20
"""How many shadow trees may stand in each other."""

_TEXT, _COMMENT, _DOCTYPE = "-text", "-comment", "-doctype"

_HTML_AGAIN = {
    Namespace.SVG: frozenset({"foreignObject", "desc", "title"}),
    Namespace.MATHML: frozenset({"annotation-xml", "mi", "mn", "mo", "ms", "mtext"}),
}
"""The elements whose children are HTML again (HTML §13.2.6.1, integration points)."""


@dataclass(frozen=True, slots=True)
class Parsed:
    """What a parse made.

    Attributes:
        document: the document.
        marked: its source as the parser got it.
        parts: the parts that style sheets are applied to, the page itself first.
    """

    document: Document
    marked: Marked
    parts: list[Subtree]


def parse(source: PageSource, width: int = DEFAULT_WIDTH) -> Parsed:
    """Parse HTML as a browser with scripts off does.

    Args:
        source: the page.
        width: the viewport's width in CSS pixels, for style sheets applied later.

    Raises:
        PageError: the parser gave no document.
    """
    # U+0000 is dropped or replaced by the tokenizer; a lone surrogate cannot be encoded for it.
    text = source.text
    encodable = text.encode("utf-8", "replace").decode("utf-8") if _has_surrogate(text) else text
    formatting = left_open(encodable, _MOST_REOPENED // 2)
    _check_size(encodable, formatting.steps)
    marked = mark_start_tags(encodable, formatting.often)
    parser = _lexbor(marked.text)
    part, marks_found = _build(marked, parser)
    if marks_found != marked.count and not _marks_did_no_harm(encodable, marked, parser):
        marked = Marked(encodable, marked.attribute, 0)
        part, _ = _build(marked, _lexbor(encodable))
    document = Document(source.address, part.root, SourceText(text), part.ids, width, resources=source.resources)
    parts = [part, *_shadow_parts(document, part, marked)]
    for each in parts:
        each.document = document
        give_summaries(document, each.elements())
        settle_radios(document, each.elements())
        for details in closed_by_others(each.elements()):
            del details.attributes["open"]
            del each.node(details).attrs["open"]
    return Parsed(document, marked, parts)


def _check_size(text: str, steps: list[int]) -> None:
    """Refuse a page that formatting tags make too large before the parser has made all of it."""
    if len(steps) > _MOST_STEPS or any(_reopened(text[:place]) > _MOST_REOPENED for place in steps):
        raise PageError(
            f"Formatting tags that are left open make more than {_MOST_REOPENED:,} elements of the page", "close them."
        )


def _reopened(text: str) -> int:
    return len(_lexbor(text).css("*")) - text.count("<")


def children_again(parsed: Parsed, parent: Element) -> list[Element]:
    """Make an element's children again after the parser's nodes under it were changed, and return those that are new.

    What was there before stays the same object; new elements have no place in the source.
    """
    part = parsed.parts[0]
    builder = _Builder(parsed.marked)
    node = part.node(parent).first_child
    children: list[Element | Text] = []
    added: list[Element] = []
    while node is not None:
        tag = node.tag
        if tag == _TEXT:
            children.append(Text(node.text_content or "", parent, -1))
        elif tag is not None and tag[0] != "-":
            element = part.by_memory.get(node.mem_id)
            if element is None:
                element = builder.element(node, parent)
                builder.fill(element, node.first_child)
                added.append(element)
                for each in (node, *node.css("*")):
                    part.add(each, builder.by_memory[each.mem_id])
            children.append(element)
        node = node.next
    parent.children = children
    return added


def _shadow_parts(document: Document, page: Subtree, marked: Marked) -> list[Subtree]:
    """Give the hosts of a page the shadow trees declared for them (HTML §13.2.6.4.4, template start tag)."""
    parts: list[Subtree] = []
    waiting = [(page, template, content, 1) for template, content in page.declared]
    for around, template, content, depth in waiting:  # grows while it is gone through
        if host_of(template) is None:
            continue
        builder = _Builder(marked)
        fragment = LexborHTMLParser(content, is_fragment=True)
        if fragment.root is not None:
            builder.fill(template, fragment.root)
        part = Subtree(template, builder.ids, fragment, builder.by_memory, builder.declared, around)
        parts.append(part)
        document.scopes[template] = part.ids
        if depth < _MAX_SHADOWS:
            waiting += [(part, inner, markup, depth + 1) for inner, markup in part.declared]
    if parts:
        number(document.root)
        assign_slots(document, [part.root for part in parts])
    return parts


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
    before = parser.root.prev
    while before is not None and before.tag != _DOCTYPE:
        before = before.prev
    if before is not None:
        before.decompose()  # the engine counts it as a sibling of html
    return parser


def _marks_did_no_harm(source: str, marked: Marked, parser: LexborHTMLParser) -> bool:
    """Whether the marked source makes the same document as the source itself.

    Marks that no element carries are usually tags the parser ignored; they can also mean that the scan took
    something else for a tag, and then the places are given up rather than the document.
    """
    return marked.restored(parser.html or "") == (_lexbor(source).html or "")


def _build(marked: Marked, parser: LexborHTMLParser) -> tuple[Subtree, int]:
    """Return the part that a parsed page makes, and how many marks its elements have."""
    builder = _Builder(marked)
    assert parser.root is not None
    root = builder.element(parser.root, None)
    builder.fill(root, parser.root.first_child)
    return Subtree(root, builder.ids, parser, builder.by_memory, builder.declared), len(builder.marks)


class _Builder:
    """Passes over Lexbor's nodes, without recursion.

    Attributes:
        marks: the marks that elements have; several have the same where the parser copied one.
        ids, by_memory, declared: as in `Subtree`.
    """

    def __init__(self, marked: Marked) -> None:
        self.marked = marked
        self.marks: set[str] = set()
        self.ids: dict[str, Element] = {}
        self.by_memory: dict[int, Element] = {}
        self.declared: list[tuple[Element, str]] = []
        self.order = 0

    def fill(self, root: Element, first: LexborNode | None) -> None:
        """Make what stands in an element of the nodes from `first` on."""
        marker = self.marked.attribute
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
                element = self.element(node, holder)
                holder.children.append(element)
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
        given = node.attributes
        mark = given.pop(self.marked.attribute, None)
        if mark is not None:
            self.marks.add(mark)
        # A dictionary that something was taken out of keeps the room for it; most elements have no attributes.
        attributes = {intern(name): value or "" for name, value in given.items()}
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
