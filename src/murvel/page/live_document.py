"""A document that changes: each change is made in it and in the parser's own tree, which matches selectors.

Elements stay the same objects for as long as they are on the page. What was changed is noted until `take_change`
hands it over.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Any, Literal

from selectolax.lexbor import LexborHTMLParser, LexborNode

from murvel.css.cascade.cascade import Cascade
from murvel.dom.change import DocumentChange, with_descendants
from murvel.dom.document import Document, Element, number
from murvel.dom.state import UNTOUCHED
from murvel.dom.summaries import give_summaries
from murvel.loading.fetch import PageSource
from murvel.page.open_page import fill_frames, styled_page
from murvel.page.parse import children_again, parse

Where = Literal["start", "end", "before", "after"]
"""Where markup is inserted, as seen from an element."""


class LiveDocument:
    """A document and its styles, and the changes that can be made to them.

    Only the page itself is changed; what stands in frames and shadow trees stays as it is.

    Attributes:
        document, styles: as they are now; styles follow with `take_change`.
    """

    def __init__(self, source: PageSource, width: int) -> None:
        self._parsed = parse(source, width)
        self._part = self._parsed.parts[0]
        self.document: Document = self._parsed.document
        self.styles: Cascade = styled_page(self._parsed)
        self._change = DocumentChange()
        self._not_read: set[Element] = set()
        """Elements whose children were changed in the parser's tree and not yet in the document."""
        self._new: list[Element] = []
        """The topmost elements that were read and have no number yet."""
        self._is_numbered = True

    def can_change(self, element: Element) -> bool:
        """Whether an element is on the page, outside of frames and shadow trees."""
        return self._part.has(element)

    def matching(self, selector: str) -> list[Element]:
        """Return the elements of the page that a selector matches now, in document order.

        Raises:
            SelectorError: it is not understood.
        """
        self._read_children()
        return self._part.matching(selector)

    # Changes

    def set_attribute(self, element: Element, name: str, value: str | None) -> None:
        """Give an element an attribute, or take it off with None."""
        before = element.attributes.get(name)
        if before == value or not self._part.has(element):
            return
        node = self._part.node(element)
        if value is None:
            del node.attrs[name]
            del element.attributes[name]
        else:
            node.attrs[name] = value
            element.attributes[name] = value
        self._change.note_attribute(element, name, before)
        if name == "id":
            self._find_ids_again([before, value])
        self._part.tell_state(element)

    def set_state(self, element: Element, **state: Any) -> None:
        """Set some of an element's state; the names are those of `ElementState`."""
        changed = replace(element.state, **state)
        if changed != element.state:
            element.state = changed
            self._state_changed(element)

    def reset_state(self, element: Element) -> None:
        """Let the attributes of an element say again what it is (HTML §4.10.18.7, reset algorithm)."""
        if element.state != UNTOUCHED:
            element.state = UNTOUCHED
            self._state_changed(element)

    def _state_changed(self, element: Element) -> None:
        self._change.states.add(element)
        self._part.tell_state(element)

    def put_on_top(self, element: Element, *, modal: bool) -> None:
        """Put a popover or a dialog into the top layer; a modal dialog makes all else inert."""
        self.document.top_layer.append(element)
        self.set_state(element, is_modal=True) if modal else self.set_state(element, is_showing=True)
        self._change.everywhere |= modal

    def take_from_top(self, element: Element) -> None:
        """Take a popover or a dialog out of the top layer."""
        if element in self.document.top_layer:
            self.document.top_layer.remove(element)
        self._change.everywhere |= element.state.is_modal
        self.set_state(element, is_modal=False, is_showing=False)

    def set_text(self, element: Element, text: str) -> None:
        """Put text in place of all that is in an element."""
        if not self._part.has(element):
            return
        self._read(element)
        if element.text() == text and not any(True for _ in element.elements()):
            return
        for child in element.elements():
            self._forget(child)
        node = self._part.node(element)
        child_node = node.first_child
        while child_node is not None:
            following = child_node.next
            child_node.decompose()
            child_node = following
        if text:
            node.insert_child(text)
        self._children_changed(element)

    def insert(self, element: Element, markup: str, at: Where) -> None:
        """Insert markup beside an element, or as its first or last children."""
        if not self._part.has(element):
            return
        node = self._part.node(element)
        pieces = list(_siblings(LexborHTMLParser(markup, is_fragment=True).root))
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
        parent = element.parent if at in ("before", "after") else element
        if parent is not None:
            self._children_changed(parent)

    def remove(self, element: Element) -> None:
        """Take an element off the page; the root stays."""
        if element.parent is None or not self._part.has(element):
            return
        node = self._part.node(element)
        self._forget(element)
        node.decompose()
        self._children_changed(element.parent)

    def _forget(self, root: Element) -> None:
        """Give up a subtree that is about to be removed."""
        for element in with_descendants(root):
            if element in self.document.top_layer:
                self.document.top_layer.remove(element)
                self._change.everywhere |= element.state.is_modal
            self._part.forget(element)
            self._not_read.discard(element)
        self._change.removed.append(root)

    def _children_changed(self, parent: Element) -> None:
        self._change.parents.add(parent)
        self._not_read.add(parent)

    # What was changed

    def _read(self, parent: Element) -> None:
        """Bring an element's children up to date with the parser's tree; they are not numbered yet."""
        if parent in self._not_read:
            self._not_read.discard(parent)
            self._new += children_again(self._parsed, parent)
            self._is_numbered = False

    def _read_children(self) -> None:
        """Bring the document's children up to date with the parser's tree, and number them."""
        for parent in list(self._not_read):
            self._read(parent)
        if self._is_numbered:
            return
        self._is_numbered = True
        number(self.document.root)
        self._part.places_changed()
        give_summaries(self.document, self._part.elements())
        new = [root for root in self._new if self._part.has(root)]
        self._new.clear()
        if new:
            self._part.in_document_order()
            self._change.added += new
        changed = [each for root in (*new, *self._change.removed) for each in with_descendants(root)]
        for element in changed:
            self._part.tell_state(element)
        self._find_ids_again(each.attributes.get("id") for each in changed)

    def _find_ids_again(self, identifiers: Iterable[str | None]) -> None:
        """Find the first element with each of some ids again (DOM §4.2.6)."""
        wanted = {each for each in identifiers if each}
        if not wanted:
            return
        for identifier in wanted:
            self._part.ids.pop(identifier, None)
        for element in self._part.elements():
            identifier = element.attributes.get("id", "")
            if identifier in wanted:
                self._part.ids.setdefault(identifier, element)

    def take_change(self) -> DocumentChange:
        """Return what was changed since this was last asked."""
        self._read_children()
        change, self._change = self._change, DocumentChange()
        on_page = self._part.has
        change.added = [root for root in change.added if on_page(root)]
        change.parents = {each for each in change.parents if on_page(each)}
        change.states = {each for each in change.states if on_page(each)}
        change.attributes = {each: names for each, names in change.attributes.items() if on_page(each)}
        self.document.find_base_again()
        self._open_frames(change)
        return change

    def _open_frames(self, change: DocumentChange) -> None:
        """Open the frames that came, or that show something else now."""
        frames = [each for each in change.added_elements() if each.tag == "iframe"]
        for element, names in change.attributes.items():
            if element.tag == "iframe" and names.keys() & {"src", "srcdoc"}:
                change.parents.add(element)
                element.children = []
                frames.append(element)
        if frames:
            fill_frames(self.document, frames, self.styles)
            number(self.document.root)


def _siblings(node: LexborNode | None) -> Iterable[LexborNode]:
    while node is not None:
        following = node.next
        yield node
        node = following
