"""From a capture to a Document, and on with it as a browser tells what changes.

Elements stay the same objects for as long as they are on the page. Their numbers are the browser's. A shadow tree
stands in a template, the first child of its host; the document in a frame stands in the iframe.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

from murvel.css.selectors.engine import SelectorError
from murvel.dom.change import DocumentChange, with_descendants
from murvel.dom.document import Box, Document, Element, Namespace, Text, number
from murvel.dom.shadow import assign_slots
from murvel.dom.source_text import SourceText
from murvel.dom.state import UNTOUCHED, ElementState
from murvel.dom.summaries import give_summaries
from murvel.loading.addresses import shown
from murvel.loading.errors import PageError
from murvel.loading.problems import ProblemKind
from murvel.page.captured.capture import Capture
from murvel.page.captured.markup import write_markup
from murvel.page.captured.matching import matching
from murvel.page.captured.placing import places_in
from murvel.page.captured.references import References, ids_of
from murvel.page.captured.styles import CapturedStyles
from murvel.page.styled_document import StyledDocument

_NAMESPACES = (Namespace.HTML, Namespace.SVG, Namespace.MATHML)
_SHADOW = -1
_FRAMES = frozenset({"iframe", "frame"})


@dataclass(slots=True)
class Batch:
    """What a page's scripts, or a person, changed at one moment, as the browser tells it.

    Attributes:
        at: the second since the page began to load.
        attributes: number, name, and value or None; for references of scripts, the numbers of the elements.
        texts: number and text.
        children: the number of a parent, and those of its children now.
        added: nodes that came, as in a capture.
        styles: the number of an element, and that of its style now.
        states: the number of an element, and its state now.
    """

    at: float
    attributes: list[tuple[int, str, str | list[int] | None]] = field(default_factory=list)
    texts: list[tuple[int, str]] = field(default_factory=list)
    children: list[tuple[int, list[int]]] = field(default_factory=list)
    added: list[list[Any]] = field(default_factory=list)
    styles: list[tuple[int, int]] = field(default_factory=list)
    states: list[tuple[int, Any]] = field(default_factory=list)


class CapturedDocument:
    """A document that a browser holds, and its styles.

    Attributes:
        document, styles: as they are now.
        by_number: the elements by the browser's numbers.
        renewed: the elements whose text was put back the same by what was applied last.
    """

    def __init__(
        self,
        capture: Capture,
        look: Callable[[], Mapping[str, list[Any]]] | None = None,
        match: Callable[[str], list[int] | None] | None = None,
        file: Callable[[], str] | None = None,
    ) -> None:
        """Make the document of a capture.

        Args:
            capture: what the browser told.
            look: asks the page for what elements look like now; by default the capture's own are used.
            match: asks the page for the numbers of the elements that a selector matches, None if it is not
                understood; by default selectors are matched on the markup of the capture.
            file: returns the file that the browser was given, for the lines of elements; by default they have those of
                the markup of the capture.

        Raises:
            PageError: the capture is damaged.
        """
        self.by_number: dict[int, Element] = {}
        self._numbers: dict[Element, int] = {}
        self._texts: dict[int, Text] = {}
        self._shadows: set[Element] = set()
        """The templates that stand for shadow trees."""
        self._styles_told: dict[Element, int] = {}
        self.renewed: set[Element] = set()
        self._references = References()
        self._has_moved = False
        """Whether elements came, went or moved since the document was numbered last."""
        if not capture.nodes:
            raise PageError("The capture has no nodes", "capture the page again.")
        try:
            for node in capture.nodes:
                self._make(node)
        except (TypeError, ValueError, IndexError, KeyError, AttributeError) as error:
            raise PageError("A node of the capture is damaged", "capture the page again.") from error
        self._references.resolve(self.by_number)
        root = self.by_number.get(capture.nodes[0][0])
        if root is None or root.parent is not None:
            raise PageError("The capture does not begin with an element", "capture the page again.")
        number(root)
        starts: dict[Element, int] = {}
        markup = write_markup(root, starts=starts)
        self.document = Document(
            capture.address, root, SourceText(markup), {}, capture.width, find_starts=lambda: starts
        )
        self.document.falls_back = _falls_back
        if file is not None:
            self.document.find_places = lambda: places_in(file(), root)
        self._match = match
        self.styles = CapturedStyles(
            capture.styles,
            lambda: (look() if look is not None else capture.looks, self.by_number),
            self._matching,
        )
        self._settle()
        self.styles.give(self._styles_told)
        self.styles.number()
        self._styles_told = {}
        self.take_boxes(capture.boxes)
        self.document.focused = self.by_number.get(capture.focus)
        for kind, text in capture.problems:
            if kind in set(ProblemKind):
                self.document.problems.add(ProblemKind(kind), text)

    @property
    def styled(self) -> StyledDocument:
        """The document with its styles, as trees are built from."""
        return StyledDocument(self.document, self.styles)

    def number_of(self, element: Element) -> int | None:
        """Return the browser's number of an element, None for one that is no longer on the page."""
        known = self._numbers.get(element)
        return known if known is not None and self.by_number.get(known) is element else None

    def apply(self, batch: Batch) -> tuple[DocumentChange, set[Element]]:
        """Make the changes of one moment; return them, and the elements whose style is another one now."""
        change = DocumentChange()
        self.renewed.clear()
        for node in batch.added:
            self._make(node, is_new=True)
        has_named = self._references.resolve(self.by_number)
        for identifier, name, value in batch.attributes:
            if isinstance(value, list):
                value, is_new = ids_of(value, self.by_number)
                has_named |= is_new
            self._set_attribute(identifier, name, value, change)
        for identifier, data in batch.texts:
            text = self._texts.get(identifier)
            if text is not None and text.data != data:
                text.data = data
                change.parents.add(text.parent)
        for parent, children in batch.children:
            self._set_children(parent, children, change)
        has_moved = self._has_moved
        if has_moved:
            self._after_moves(change)
        if self._shadows and (batch.children or any(name in ("slot", "name") for _, name, _ in batch.attributes)):
            self._settle()
        elif has_moved or has_named or any(name == "id" for _, name, _ in batch.attributes):
            self._find_ids()
        for identifier, state in batch.states:
            self._set_state(identifier, state, change)
        told = {**self._styles_told, **dict(self._elements(batch.styles))}
        self._styles_told = {}
        restyled = self.styles.give(dict(sorted(told.items(), key=lambda pair: pair[0].order)))
        if self.styles.has_counted(change, restyled):
            restyled |= self.styles.number()
        self.document.find_base_again()
        return change, restyled

    def _matching(self, selector: str) -> list[Element]:
        if self._match is None:
            return matching(self.document.root, selector)
        numbers = self._match(selector)
        if numbers is None:
            raise SelectorError(f"The selector {shown(selector)} is not understood", "check its spelling.")
        return [self.by_number[each] for each in numbers if each in self.by_number]

    # Making nodes

    def _make(self, node: list[Any], *, is_new: bool = False) -> None:
        """Make the node of an entry; it goes to the end of its parent's children.

        Where it `is_new` on a page that was known before, the children of what was there already are told apart.
        """
        identifier, around = node[0], node[1]
        parent = self.by_number.get(around)
        is_told_apart = is_new and parent is not None and parent.order >= 0
        if len(node) == 3:
            if parent is not None:
                text = self._texts[identifier] = Text(str(node[2]), parent, -1)
                if not is_told_apart:
                    parent.add(text)
            return
        if node[3] == _SHADOW:
            element = Element("template", Namespace.HTML, {"shadowrootmode": str(node[2])}, parent, -1)
            self._shadows.add(element)
        else:
            tag, namespace, listed, style, state = node[2:7]
            names = iter(listed)
            told = {str(name): value for name, value in zip(names, names, strict=True)}
            attributes = {name: "" if isinstance(value, list) else str(value) for name, value in told.items()}
            element = Element(str(tag), _NAMESPACES[namespace], attributes, parent, -1)
            for name, value in told.items():
                if isinstance(value, list):
                    self._references.note(element, name, [number for number in value if isinstance(number, int)])
            element.state = _state(state)
            self._styles_told[element] = int(style)
        self.by_number[identifier] = element
        self._numbers[element] = identifier
        if parent is not None and not is_told_apart:
            parent.add(element)

    def _elements(self, pairs: Iterable[tuple[int, int]]) -> Iterator[tuple[Element, int]]:
        for identifier, told in pairs:
            element = self.by_number.get(identifier)
            if element is not None:
                yield element, told

    def _settle(self) -> None:
        """Find ids, shadow trees, frames, what slots take, and the top layer."""
        document = self.document
        document.flat.clear()
        document.slotted.clear()
        every = with_descendants(document.root)
        self._find_ids()
        templates = [each for each in every if each in self._shadows]
        if templates:
            assign_slots(document, templates)
        give_summaries(document, every)
        document.top_layer = [each for each in every if each.state.is_showing or each.state.is_modal]

    def _find_ids(self) -> None:
        document = self.document
        document.ids.clear()
        document.scopes.clear()
        scope_of: dict[Element, dict[str, Element]] = {}
        for element in with_descendants(document.root):
            ids = scope_of.get(element.parent, document.ids) if element.parent is not None else document.ids
            is_frame = element.tag == "html" and element.parent is not None and element.parent.tag in _FRAMES
            if is_frame or element in self._shadows:
                ids = document.scopes[element] = {}
            scope_of[element] = ids
            identifier = element.attributes.get("id")
            if identifier:
                ids.setdefault(identifier, element)

    def take_boxes(self, boxes: list[float]) -> None:
        """Give elements their boxes, told as in a capture."""
        values = iter(boxes)
        for identifier, *sides in zip(values, values, values, values, values, strict=False):
            element = self.by_number.get(int(identifier))
            if element is not None:
                element.box = Box(*sides)

    # Changing it

    def _set_attribute(self, identifier: int, name: str, value: str | None, change: DocumentChange) -> None:
        element = self.by_number.get(identifier)
        if element is None or element.attributes.get(name) == value:
            return
        change.note_attribute(element, name, element.attributes.get(name))
        if value is None:
            element.attributes.pop(name, None)
        else:
            element.attributes[name] = value

    def _set_state(self, identifier: int, told: Any, change: DocumentChange) -> None:
        element = self.by_number.get(identifier)
        if element is None:
            return
        before, element.state = element.state, _state(told)
        if before == element.state:
            return
        change.states.add(element)
        change.everywhere |= before.is_modal is not element.state.is_modal
        layer = self.document.top_layer
        is_on_top = element.state.is_showing or element.state.is_modal
        if is_on_top and element not in layer:
            layer.append(element)
        elif not is_on_top and element in layer:
            layer.remove(element)

    def _set_children(self, identifier: int, children: list[int], change: DocumentChange) -> None:
        parent = self.by_number.get(identifier)
        if parent is None:
            return
        now: list[Element | Text] = []
        for each in children:
            node = self.by_number.get(each) or self._texts.get(each)
            if node is not None:
                if node.parent is not parent and node.parent is not None and node in node.parent.children:
                    node.parent.children = [each for each in node.parent.children if each is not node]
                    change.parents.add(node.parent)
                node.parent = parent
                now.append(node)
        staying = set(now)
        gone = [each for each in parent.children if each not in staying]
        change.removed.extend(each for each in gone if isinstance(each, Element))
        known = set(parent.children)
        change.added.extend(each for each in now if isinstance(each, Element) and each not in known)
        if now != list(parent.children):
            is_new = any(isinstance(each, Text) and each.order < 0 for each in now)
            if is_new and _words(now) == _words(parent.children):
                self.renewed.add(parent)
            before = list(parent.elements())
            self._has_moved |= before != [each for each in now if isinstance(each, Element)]
            for node in now:
                if isinstance(node, Text) and node.order < 0:
                    node.order = parent.order  # until the document is numbered again
            parent.children = now
            change.parents.add(parent)

    def _after_moves(self, change: DocumentChange) -> None:
        """Number the document again where elements came, went or moved, and forget what is no longer in it."""
        document = self.document
        self._has_moved = False
        number(document.root)
        here = set(with_descendants(document.root))
        gone = [each for root in change.removed for each in with_descendants(root) if each not in here]
        change.removed = [root for root in change.removed if root not in here]
        change.added = [root for root in dict.fromkeys(change.added) if root in here]
        change.parents &= here
        for element in gone:
            identifier = self._numbers.pop(element, None)
            if identifier is not None and self.by_number.get(identifier) is element:
                del self.by_number[identifier]
            if element in document.top_layer:
                document.top_layer.remove(element)
                change.everywhere |= element.state.is_modal
            if document.focused is element:
                document.focused = None
        self.styles.forget(gone)
        give_summaries(document, here)


def _words(children: Iterable[Element | Text]) -> str:
    return "".join(each.data for each in children if isinstance(each, Text))


def _falls_back(element: Element) -> bool:
    return element.state.is_fallback or not element.attributes.get("data", "").strip()


def _state(told: Any) -> ElementState:
    if not told:
        return UNTOUCHED
    checked, value, selected, showing, modal, indeterminate, *more = told
    # captures of earlier versions tell nothing of these
    scrolls, is_open, is_fallback, has_custom_error = (*more, 0, 0, 0, 0)[:4]
    return ElementState(
        None if checked is None else bool(checked),
        None if value is None else str(value),
        None if selected is None else bool(selected),
        bool(showing),
        bool(modal),
        bool(indeterminate),
        bool(scrolls),
        bool(is_open),
        bool(is_fallback),
        bool(has_custom_error),
    )
