"""A copy of a page in a browser, in which closed things can be opened (`murvel.stage.revealing.Showable`)."""

from __future__ import annotations

from collections.abc import Callable

from murvel.dom.document import Element
from murvel.dom.html.controls import is_open
from murvel.dom.memory import no_collection
from murvel.page.captured.capture import Capture
from murvel.page.captured.document import Batch, CapturedDocument
from murvel.tree.following.rebuild import LiveTree
from murvel.tree.model import Tree


class CopiedPage:
    """A copy of a page: what is done to it does not reach the browser.

    Args:
        capture: the page; it has looks, and no boxes, which would tell of the page with its parts closed.
        file: returns the file that the browser was given.
    """

    def __init__(self, capture: Capture, file: Callable[[], str]) -> None:
        self._page = CapturedDocument(capture, file=file)
        self._tree = LiveTree(self._page.styled)
        self._batch = Batch(0.0)

    @property
    def tree(self) -> Tree:
        """The tree, as it was when it was last followed."""
        return self._tree.tree

    def show(self, element: Element) -> None:
        """Show what an element hides by itself."""
        number = self._page.number_of(element)
        if number is None:
            return
        if element.tag == "details" and not is_open(element):
            self._batch.attributes.append((number, "open", ""))
            return
        if element.tag == "dialog":
            self._batch.attributes.append((number, "open", ""))
        if "popover" in element.attributes:
            self._batch.states.append((number, [None, None, None, 1, 0, 0]))
        styles = self._page.styles
        inherits = [each for each in element.elements() if styles.of(each).visibility != "visible"]
        for each in (element, *inherits):
            number, style = self._page.number_of(each), styles.shown(each)
            if number is not None and style is not None:
                self._batch.styles.append((number, style))

    def follow(self) -> None:
        """Bring the tree up to date."""
        batch, self._batch = self._batch, Batch(0.0)
        with no_collection():
            change, restyled = self._page.apply(batch)
            if change or restyled:
                self._tree.follow(change, restyled)
