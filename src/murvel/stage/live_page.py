"""A page that changes: the parser's own tree is changed, and a new document and tree are made of it each time.

Elements are told apart by keys, which stay the same from one document to the next.
"""

from __future__ import annotations

from itertools import count

from selectolax.lexbor import LexborHTMLParser, LexborNode, SelectolaxError

from murvel.page.document import Document, Element
from murvel.page.memory import no_collection
from murvel.page.open import finished
from murvel.page.parse import parse, parsed_again
from murvel.stage.errors import StageError
from murvel.tree.build import build_tree
from murvel.tree.model import Tree


class LivePage:
    """A page and its present state.

    Attributes:
        document, tree: the present ones; a change replaces them with `rebuild`.
        changed: whether something was changed since they were made.
    """

    def __init__(self, markup: str, address: str, width: int) -> None:
        self._parsed = parse(markup, address, width)
        self._keys: dict[int, int] = {}
        self._numbers = count(1)
        self._nodes: dict[int, LexborNode] = {}
        self._elements: dict[int, Element] = {}
        self._by_element: dict[Element, int] = {}
        self.document: Document
        self.tree: Tree
        self.changed = False
        self._take()

    def rebuild(self) -> None:
        """Make document and tree anew, if something was changed."""
        if self.changed:
            self._parsed = parsed_again(self._parsed)
            self._take()
            self.changed = False

    def _take(self) -> None:
        with no_collection():
            self.document = finished(self._parsed)
            self.tree = build_tree(self.document)
        part = self._parsed.parts[0]
        by_memory = {node.mem_id: node for node in part.parser.css("*")}
        self._nodes.clear()
        self._elements.clear()
        self._by_element.clear()
        for memory, element in part.by_memory.items():
            key = self._keys.get(memory) or next(self._numbers)
            self._keys[memory] = key
            self._elements[key] = element
            self._by_element[element] = key
            if memory in by_memory:
                self._nodes[key] = by_memory[memory]

    def key_of(self, element: Element) -> int | None:
        """Return an element's key; None for one in a frame or shadow tree, which the stage does not change."""
        return self._by_element.get(element)

    def keys(self) -> dict[Element, int]:
        """Return the keys of all elements of the present document, to be kept when that is replaced."""
        return dict(self._by_element)

    def element(self, key: int | None) -> Element | None:
        """Return the element with a key, None where it is no longer on the page."""
        return self._elements.get(key) if key is not None else None

    def select(self, selector: str) -> list[Element]:
        """Return the elements a selector matches now, in document order.

        Raises:
            StageError: the selector is not understood.
        """
        part = self._parsed.parts[0]
        try:
            found = [part.by_memory[node.mem_id] for node in part.parser.css(selector) if node.mem_id in part.by_memory]
        except SelectolaxError as error:
            raise StageError(f"The selector {selector!r} is not understood; check its spelling.") from error
        return sorted(found, key=lambda element: element.order)

    # Changes. Each takes effect in the parser's tree at once, and in document and tree when these are made anew.

    def set_attribute(self, element: Element, name: str, value: str | None) -> None:
        """Give an element an attribute, or take it off with None."""
        node = self._node(element)
        if node is None or element.attributes.get(name) == value:
            return
        if value is None:
            del node.attrs[name]
            element.attributes.pop(name, None)
        else:
            node.attrs[name] = value
            element.attributes[name] = value
        self.changed = True

    def set_text(self, element: Element, text: str) -> None:
        """Put text in place of all that is in an element."""
        node = self._node(element)
        if node is None or (element.text() == text and not any(True for _ in element.elements())):
            return
        self._empty(node)
        if text:
            node.insert_child(text)
        self.changed = True

    def insert(self, element: Element, markup: str, at: str) -> None:
        """Insert markup at the "start" or "end" of an element, or "before" or "after" it."""
        node = self._node(element)
        if node is None:
            return
        fragment = LexborHTMLParser(markup, is_fragment=True)
        pieces: list[LexborNode] = []
        piece = fragment.root
        while piece is not None:
            pieces.append(piece)
            piece = piece.next
        first = node.first_child
        for piece in reversed(pieces) if at == "after" else pieces:
            if at == "before":
                node.insert_before(piece)
            elif at == "after":
                node.insert_after(piece)
            elif at == "start" and first is not None:
                first.insert_before(piece)
            else:
                node.insert_child(piece)
        self.changed = True

    def remove(self, element: Element) -> None:
        """Take an element off the page."""
        node = self._node(element)
        if node is not None:
            self._forget(node)
            node.decompose()
            self.changed = True

    def _empty(self, node: LexborNode) -> None:
        child = node.first_child
        while child is not None:
            following = child.next
            self._forget(child)
            child.decompose()
            child = following

    def _forget(self, node: LexborNode) -> None:
        """Give up the keys of a subtree: the parser may use its memory again for something else."""
        for each in [node, *node.css("*")]:
            self._keys.pop(each.mem_id, None)

    def _node(self, element: Element) -> LexborNode | None:
        return self._nodes.get(self._by_element.get(element, 0))
