"""What is known of a page's handlers and scripted changes, as data about its elements as they are now."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from murvel.dom.document import Element

ACTING = (
    r"data-(?:[\w-]+-)?(?:action|command|cmd|click|onclick|toggle|open|close|dismiss|trigger|handler|href|url|link|"
    r"method|confirm|submit|select|delete|remove|edit|add|show|hide|expand|collapse|modal|tab|goto|go)"
    r"|jsaction|hx-(?:get|post|put|patch|delete|on)|wire:click|ng-click|data-bs-[\w-]+"
)
"""The names of attributes that say what a click is to do; those that only count clicks are not among them."""


class Event(StrEnum):
    """What sets a handler off."""

    ACTIVATE = "activate"
    KEY = "key"
    """A key is pressed while the focus is there."""
    HOVER = "hover"
    """A pointer comes over it."""
    FOCUS = "focus"
    LEAVE = "leave"
    """The focus leaves it (`blur`)."""
    INPUT = "input"
    SUBMIT = "submit"
    LOAD = "load"


class Deed(StrEnum):
    """What a scripted change does."""

    ATTRIBUTE = "attribute"
    CLASS = "class"
    STYLE = "style"
    TEXT = "text"
    INSERT = "insert"
    REMOVE = "remove"
    SHOW = "show"
    HIDE = "hide"
    FOCUS = "focus"
    TITLE = "title"


@dataclass(frozen=True, slots=True)
class ScriptedChange:
    """A change that a handler makes.

    Attributes:
        deed: what it does.
        elements: to which elements, as far as they are on the page now.
        name: the attribute, class or property it sets, empty otherwise.
        value: the attribute's or property's value (None takes it off, as it does a class), the text, or the markup that
            is inserted.
    """

    deed: Deed
    elements: tuple[Element, ...]
    name: str = ""
    value: str | None = ""


@dataclass(frozen=True, slots=True)
class Handler:
    """Something the page does when something happens.

    Attributes:
        when: the event, or the second since the page was loaded.
        elements: where the event has to happen; empty if it belongs to no element.
        changes: what follows, as far as that is known.
    """

    when: Event | float
    elements: tuple[Element, ...] = ()
    changes: tuple[ScriptedChange, ...] = ()

    def concerns(self, element: Element) -> bool:
        """Whether the event on an element sets it off."""
        return any(each.contains(element) for each in self.elements)
