"""The page that the built-in stage works on: a document that changes, and the tree that follows it."""

from __future__ import annotations

from itertools import count

from murvel.css.selectors.engine import SelectorError
from murvel.dom.document import Document, Element
from murvel.dom.html.controls import is_open
from murvel.dom.memory import no_collection
from murvel.loading.fetch import PageSource
from murvel.page.live_document import LiveDocument
from murvel.page.styled_document import StyledDocument
from murvel.stage.errors import StageError
from murvel.stage.html.showing import show
from murvel.tree.following.change import TreeChange
from murvel.tree.following.rebuild import LiveTree
from murvel.tree.model import Tree


class LivePage:
    """A page and its present state.

    Attributes:
        live: its document, and what can be done to that.
    """

    def __init__(self, source: PageSource, width: int) -> None:
        with no_collection():
            self.live = LiveDocument(source, width)
            self._tree = LiveTree(StyledDocument(self.live.document, self.live.styles))
        self._keys: dict[Element, int] = {}
        self._by_key: dict[int, Element] = {}
        self._numbers = count(1)

    @property
    def document(self) -> Document:
        """The document as it is now."""
        return self.live.document

    @property
    def tree(self) -> Tree:
        """The tree as it was when the page was last followed."""
        return self._tree.tree

    def follow(self) -> TreeChange | None:
        """Bring styles and tree up to date; return what became of the tree, None if nothing was changed."""
        change = self.live.take_change()
        if not change:
            return None
        with no_collection():
            return self._tree.follow(change, self.live.styles.update(change))

    def key_of(self, element: Element) -> int | None:
        """Return an element's key; None for one in a frame or shadow tree, which the stage does not change."""
        key = self._keys.get(element)
        if key is None and self.live.can_change(element):
            key = self._keys[element] = next(self._numbers)
            self._by_key[key] = element
        return key

    def element(self, key: int | None) -> Element | None:
        """Return the element with a key, None if it is no longer on the page."""
        element = self._by_key.get(key) if key is not None else None
        return element if element is not None and self.live.can_change(element) else None

    def matches_any(self, selector: str) -> bool:
        """Whether a selector matches something; one that is not understood may."""
        try:
            return bool(self.live.matching(selector))
        except SelectorError:
            return True

    def select(self, selector: str) -> list[Element]:
        """Return the elements a selector matches now, in document order.

        Raises:
            StageError: the selector is not understood.
        """
        try:
            return self.live.matching(selector)
        except SelectorError as error:
            raise StageError(str(error)) from error


class ShownPage(LivePage):
    """A copy of a page in which closed things can be opened (`murvel.stage.revealing.Showable`)."""

    def show(self, element: Element) -> None:
        """Show what an element hides by itself."""
        if element.tag == "details" and not is_open(element):
            self.live.set_attribute(element, "open", "")
        else:
            show(self.live, element)
