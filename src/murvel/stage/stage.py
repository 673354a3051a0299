"""The protocol of stages: all that the reader, the checks and the application know of what a page runs on."""

from __future__ import annotations

from collections.abc import Sequence, Set
from typing import TYPE_CHECKING, NamedTuple, Protocol

from murvel.dom.document import Element
from murvel.stage.inputs import Input
from murvel.stage.reaction import Reaction
from murvel.stage.script import Handler
from murvel.tree.model import Tree

if TYPE_CHECKING:
    from murvel.page.captured.capture import Capture
    from murvel.stage.seen import Seen


class Revealed(NamedTuple):
    """A copy of a page with nothing closed.

    Attributes:
        tree: its tree.
        hidden: the elements that were hidden from everybody when the page arrived, and are exposed now.
    """

    tree: Tree
    hidden: Set[Element]


class Stage(Protocol):
    """A page at work.

    Elements are named by keys, which stay the same while an element is on the page, also when the tree changes.
    """

    is_live: bool
    """Whether the page runs by itself: its clock is real, and Tab goes to it as a key like all others."""

    about: str
    """What the page runs on, in words, as "Chromium 130.0.1, 1280 pixels wide"."""

    @property
    def tree(self) -> Tree:
        """The tree as it is now; its document and styles are those of now as well."""

    @property
    def focus(self) -> int | None:
        """The key of the element that has the focus, None if nothing has."""

    @property
    def now(self) -> float:
        """The seconds since the page was loaded. A simulated clock is moved by `Wait` only, a real one runs."""

    @property
    def next_due(self) -> float | None:
        """The second at which the next thing is known to happen by itself; None if nothing is known."""

    @property
    def is_busy(self) -> bool:
        """Whether the page still works on an input that it was given; `Wait` tells what came of it."""

    def key_of(self, element: Element) -> int | None:
        """Return an element's key; None for one that cannot be acted on."""

    def element(self, key: int | None) -> Element | None:
        """Return the element with a key, None if it is no longer on the page."""

    def perform(self, given: Input) -> Reaction:
        """Let something happen, and return what came of it."""

    def revealed(self) -> Revealed:
        """Return a copy of the page as it arrived, with all shown that was hidden there: menus, dialogs, panels."""

    def measure(self) -> None:
        """Give the elements their boxes as they are now, where the page is laid out."""

    @property
    def seen(self) -> Seen | None:
        """What was seen of the page when it was looked at last; None if it never was."""

    def look(self) -> Seen | None:
        """Look at the page, and return what is seen: contrast, targets, focus indicators; None if it is not laid out.

        Raises:
            MurvelError: the page does not answer.
        """

    def take(self) -> Capture | None:
        """Return the page as it is now with all that a browser knows of it; None if its own markup says it all.

        Raises:
            MurvelError: the page does not answer.
        """

    def picture(self, element: Element) -> bytes | None:
        """Return a picture of an element and what is close to it, as PNG; None if nothing of it is seen.

        Raises:
            MurvelError: the page does not answer.
        """

    def close(self) -> None:
        """Let go of what the page runs on; nothing is asked of it afterwards."""

    def handlers(self) -> Sequence[Handler]:
        """Return what is known of the page's handlers and of changes that happen by themselves."""
