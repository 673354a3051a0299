"""What the parts of the built-in stage know of the whole."""

from __future__ import annotations

from typing import Protocol

from murvel.dom.document import Element
from murvel.stage.html.page import LivePage
from murvel.stage.reaction import Reaction
from murvel.stage.script import Event


class Host(Protocol):
    """The stage as its parts see it: the page, who has the focus, and what events set off."""

    page: LivePage
    focused: Element | None

    def give_focus(self, element: Element, reaction: Reaction) -> None:
        """Put the focus on an element if it can take it."""

    def close_overlay(self, element: Element, reaction: Reaction) -> None:
        """Close a dialog or a popover, as its own methods do."""

    def trigger(self, when: Event, element: Element, reaction: Reaction) -> bool:
        """Let an event happen on an element; whether anything was set off."""

    def activate(self, element: Element, reaction: Reaction) -> None:
        """Do what a click does."""

    def value_changed(self, element: Element, reaction: Reaction) -> None:
        """Note that a person changed a value, and let the event happen."""
