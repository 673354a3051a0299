"""The Document: one DOM with the state of its elements, whatever it came from.

A document is built by the HTML parser, or by the capture of a real browser. Only a stage changes one after that
(`murvel.page.live_document`). Its nodes are numbered in document order, and an element knows where its subtree ends, so
that "is inside" and "comes before" are comparisons of numbers. Styles are no part of it: `murvel.css.values.style`.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from murvel.dom.source_text import Position, SourceText
from murvel.dom.state import UNTOUCHED, ElementState
from murvel.loading.problems import Problems
from murvel.loading.resources import Resources
from murvel.text import collapse


class Namespace(StrEnum):
    """The namespaces that an HTML parser gives to elements (HTML §13.2.6.1)."""

    HTML = "html"
    SVG = "svg"
    MATHML = "math"


@dataclass(frozen=True, slots=True)
class Box:
    """A border box in CSS pixels from the page's top left corner; known only where a browser laid the page out."""

    left: float
    top: float
    width: float
    height: float


class Text:
    """A text node. `order` is its number in the document."""

    __slots__ = ("data", "order", "parent")

    def __init__(self, data: str, parent: Element, order: int) -> None:
        self.data = data
        self.parent = parent
        self.order = order

    def __repr__(self) -> str:
        return f"Text({self.data!r})"


class Element:
    """An element.

    Attributes:
        tag: its local name; lower case for HTML elements.
        namespace: HTML, SVG or MathML.
        attributes: names to values; an attribute without a value has the empty string, as in the DOM.
        parent: the element it stands in, None for the root.
        children: its child elements and texts; comments are left out. A template has none unless it declares a
            shadow tree, and an iframe has the html element of the document in it.
        order: its number in document order.
        end: one more than the number of the last node inside it.
        state: what HTML keeps of it beside the attributes.
        box: its border box, where known.
    """

    __slots__ = (
        "attributes",
        "box",
        "children",
        "end",
        "namespace",
        "order",
        "parent",
        "state",
        "tag",
    )

    def __init__(
        self,
        tag: str,
        namespace: Namespace,
        attributes: dict[str, str],
        parent: Element | None,
        order: int,
    ) -> None:
        self.tag = tag
        self.namespace = namespace
        self.attributes = attributes
        self.parent = parent
        self.children: Sequence[Element | Text] = ()
        self.order = order
        self.end = order + 1
        self.state: ElementState = UNTOUCHED
        self.box: Box | None = None

    def __repr__(self) -> str:
        return f"<{self.tag} {self.order}>"

    def get(self, attribute: str) -> str | None:
        """Return an attribute's value, or None if it is absent."""
        return self.attributes.get(attribute)

    def add(self, child: Element | Text) -> None:
        """Put a child at the end; most elements have none or one, and get no list with room for more."""
        if isinstance(self.children, list):
            self.children.append(child)
        else:
            self.children = [child]

    def contains(self, other: Element | Text) -> bool:
        """Whether `other` is this element or stands inside it."""
        return self.order <= other.order < self.end

    def elements(self) -> Iterator[Element]:
        """Yield the child elements."""
        for child in self.children:
            if isinstance(child, Element):
                yield child

    def ancestors(self) -> Iterator[Element]:
        """Yield the elements it stands in, the nearest first."""
        above = self.parent
        while above is not None:
            yield above
            above = above.parent

    def descendants(self) -> Iterator[Element | Text]:
        """Yield the nodes inside it in document order."""
        stack = list(reversed(self.children))
        while stack:
            node = stack.pop()
            yield node
            if isinstance(node, Element):
                stack.extend(reversed(node.children))

    def text(self) -> str:
        """Return all text inside it, as the DOM's textContent gives it."""
        return "".join(node.data for node in self.descendants() if isinstance(node, Text))


def number(root: Element) -> None:
    """Number the nodes under a root in document order, after some were added or moved."""
    order = 0
    stack: list[tuple[Element | Text, bool]] = [(root, False)]
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


def title_of(root: Element) -> str:
    """Return the title of the document under an html element, white space collapsed (HTML §3.1.5 document.title)."""
    for node in root.descendants():
        if isinstance(node, Element) and node.tag == "title" and node.namespace is Namespace.HTML:
            return collapse(node.text())
    return ""


def language_of(element: Element) -> str:
    """Return the language an element is in: its own lang, else that of the nearest element around it that states one.

    HTML §3.2.6.2; an empty value says that the language is unknown. Empty if nothing is stated.
    """
    node: Element | None = element
    while node is not None:
        attributes = node.attributes
        if attributes and ("lang" in attributes or "xml:lang" in attributes):
            return attributes.get("xml:lang", attributes.get("lang", "")).strip()
        node = node.parent
    return ""


def _has_no_data(element: Element) -> bool:
    return not element.attributes.get("data", "").strip()


@dataclass(slots=True)
class Document:
    """A page at one moment.

    Attributes:
        address: where it came from, as the person gave it or as the server redirected it.
        root: the html element.
        source: its markup as decoded, with line and column of any offset.
        ids: the first element with each id, those of shadow trees and frames left out.
        scopes: the same for each shadow tree by its template, and for each frame's document by its html element.
        flat: what is shown in an element in place of its children: in a host its shadow tree, in a slot what it
            takes (DOM §4.2.2.4, the flat tree).
        slotted: the slot that takes a node.
        top_layer: the modal dialogs and popovers that are open, the topmost last (CSS Positioned Layout 4 §5.1).
        focused: the element that has the focus (HTML §6.6.2, the focused area), None if none has.
        width: the viewport's width in CSS pixels that media queries were answered for.
        find_starts: returns where the start tags of its elements begin in the source; asked once.
        find_places: returns where they stand in the file that the page came from, where that is another text than the
            source; asked once. None where the source is the file.
        falls_back: whether an object element shows its content in place of what it names (HTML §4.8.7).
        resources: what belongs to it beside its own markup; a page shares it with the documents in its frames.
        problems: what could not be honoured: a style sheet that was not read, a selector not understood.
    """

    address: str
    root: Element
    source: SourceText
    ids: dict[str, Element]
    width: int = 1280
    problems: Problems = field(default_factory=Problems)
    find_starts: Callable[[], Mapping[Element, int]] = dict
    find_places: Callable[[], Mapping[Element, Position]] | None = None
    resources: Resources = field(default_factory=Resources)
    falls_back: Callable[[Element], bool] = _has_no_data
    scopes: dict[Element, dict[str, Element]] = field(default_factory=dict)
    flat: dict[Element, Sequence[Element | Text]] = field(default_factory=dict)
    slotted: dict[Element | Text, Element] = field(default_factory=dict)
    top_layer: list[Element] = field(default_factory=list)
    focused: Element | None = None
    _base: str | None = None
    _starts: Mapping[Element, int] | None = None
    _places: Mapping[Element, Position] | None = None

    def ids_around(self, element: Element) -> dict[str, Element]:
        """Return the ids that an element's references are looked up in: those of its own tree."""
        if self.scopes:
            above: Element | None = element
            while above is not None:
                if above in self.scopes and above is not element:
                    return self.scopes[above]
                above = above.parent
        return self.ids

    def shown_in(self, element: Element) -> Sequence[Element | Text]:
        """Return what stands in an element as it is shown: its children, unless shadow trees are at play."""
        return self.flat.get(element, element.children) if self.flat else element.children

    def is_shadow(self, template: Element) -> bool:
        """Whether a template is the root of a shadow tree."""
        return template.tag == "template" and template in self.scopes

    def add_frame(self, frame: Element, inside: Document) -> None:
        """Put a document into an iframe; the nodes have to be numbered afterwards."""
        inside.root.parent = frame
        frame.children = [inside.root]
        self.scopes[inside.root] = inside.ids
        self.scopes.update(inside.scopes)
        self.flat.update(inside.flat)
        self.slotted.update(inside.slotted)
        self.problems.update(inside.problems)

    @property
    def modal(self) -> Element | None:
        """The topmost modal dialog, which makes all else inert (HTML §6.3.1); None if none is open."""
        return next((each for each in reversed(self.top_layer) if each.state.is_modal), None)

    @property
    def body(self) -> Element | None:
        """The body element (DOM: document.body), None in a frameset or a document without one."""
        return next((child for child in self.root.elements() if child.tag == "body"), None)

    @property
    def title(self) -> str:
        """The title, white space collapsed; empty if there is none."""
        return title_of(self.root)

    @property
    def base(self) -> str:
        """The address that references of the page are relative to (HTML §2.4.1, the document base URL)."""
        if self._base is None:
            href = self._base_href()
            self._base = self.address if href is None else self.resources.resolve(self.address, href)
        return self._base

    def find_base_again(self) -> None:
        """Be told that a base element may have changed."""
        self._base = None

    def _base_href(self) -> str | None:
        for node in self.root.descendants():
            if isinstance(node, Element) and node.tag == "base" and "href" in node.attributes:
                return node.attributes["href"]
            if isinstance(node, Element) and node.tag == "body":
                break
        return None

    def resolve(self, reference: str) -> str:
        """Return the absolute address of what the page refers to (HTML §2.4.1)."""
        return self.resources.resolve(self.base, reference)

    @property
    def language(self) -> str:
        """The language of the root element (HTML §3.2.6.2), empty if it is not stated."""
        return language_of(self.root)

    def start_of(self, element: Element) -> int | None:
        """Return where an element's start tag begins in the source, in characters; None if no start tag in it made the
        element."""
        if self._starts is None:
            self._starts = self.find_starts()
        return self._starts.get(element)

    def position(self, element: Element) -> Position | None:
        """Return line and column of an element's start tag in the file, or None if no start tag there made it."""
        if self.find_places is None:
            return self.position_in_source(element)
        if self._places is None:
            self._places = self.find_places()
        return self._places.get(element)

    def position_in_source(self, element: Element) -> Position | None:
        """Return line and column of an element's start tag in the source, which a browser may have written."""
        start = self.start_of(element)
        return None if start is None else self.source.position(start)

    def line_above(self, element: Element) -> int | None:
        """Return the line of the nearest element around one that the file has, where scripts made that one.

        What stands in a frame is of another file, and has none.
        """
        if self.find_places is None or self.position(element) is not None:
            return None
        for above in element.ancestors():
            place = self.position(above)
            if place is not None or above in self.scopes:
                return place.line if place is not None else None
        return None

    def snippet(self, element: Element, limit: int = 400) -> str:
        """Return the source from the element's start tag on, at most `limit` characters; empty if unknown."""
        start = self.start_of(element)
        return "" if start is None else self.source.snippet(start, limit, has_content=bool(element.children))
