"""What the application asks of each of its views, and what they ask of it."""

from __future__ import annotations

from typing import Protocol

from textual.message import Message
from textual.widget import Widget

from murvel.casebook.defect import Defect
from murvel.page.document import Element


class View(Protocol):
    """A view: it shows the page and the work as they are when it is asked to."""

    @property
    def for_keys(self) -> Widget:
        """What gets the keys when the view comes up."""

    def show_now(self) -> None:
        """Show what there is now."""


class GoTo(Message):
    """A place on the page is asked for.

    Args:
        element: what stands there.
        move: what the going there is called.
        then: what is told the person who is there.
    """

    def __init__(self, element: Element, move: str, then: str = "") -> None:
        self.element = element
        self.move = move
        self.then = then
        super().__init__()


class Document(Message):
    """A defect is to be documented, with what is filled in already."""

    def __init__(self, draft: Defect) -> None:
        self.draft = draft
        super().__init__()
