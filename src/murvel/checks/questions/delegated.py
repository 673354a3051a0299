"""What a page as a whole listens to: clicks that a handler on the document takes for elements that have none.

Frameworks listen once, at the document or at the element that holds all of the page, and find the element that was
clicked by its attributes. Nothing shows then what an element does, so that what is noticed here rests on how it looks
and what it is called.
"""

from __future__ import annotations

from collections.abc import Iterator

from murvel.checks.engine.facts import Facts
from murvel.dom.document import Element
from murvel.patterns import pattern
from murvel.stage.script import Event
from murvel.text import collapse

_ACTING = pattern(
    r"data-(?:[\w-]+-)?(?:action|command|cmd|click|onclick|toggle|open|close|dismiss|trigger|handler|href|url|link|"
    r"method|confirm|submit|select|delete|remove|edit|add|show|hide|expand|collapse|modal|tab|goto|go)"
    r"|jsaction|hx-(?:get|post|put|patch|delete|on)|wire:click|ng-click|data-bs-[\w-]+"
)
"""Attributes that say what a click is to do; those that only count clicks are not among them."""

DELEGATES = (
    "The page as a whole listens for clicks: what it does on elements that neither look nor say so is not judged."
)
"""What is told of such a page."""

_LONGEST_TEXT = 80
_MOST_INSIDE = 12
"""Elements and texts in an element from which on it is a part of the page, and not one thing to be clicked."""


def is_delegating(page: Facts) -> bool:
    """Whether a page listens as a whole for clicks."""
    around = {"html", "body"}
    listening = page.listening(Event.ACTIVATE)
    return any(each.tag in around or _holds_all(page, each) for each in listening)


def _holds_all(page: Facts, element: Element) -> bool:
    """Whether an element holds the main content, or all of the page but scripts: where frameworks listen."""
    around = element.parent
    return (
        around is not None
        and around.tag == "body"
        and element.tag in ("div", "main")
        and not element.attributes.get("role")
    )


def delegated(page: Facts) -> Iterator[Element]:
    """Yield the exposed elements that say what a click is to do, where the page listens for clicks as a whole."""
    if not is_delegating(page):
        return
    for name, elements in page.having.items():
        if _ACTING.fullmatch(name):
            for each in elements:
                if page.is_exposed(each) and _is_one_thing(each):
                    yield each


def _is_one_thing(element: Element) -> bool:
    count = sum(1 for _ in zip(range(_MOST_INSIDE + 1), element.descendants(), strict=False))
    return count <= _MOST_INSIDE and 0 < len(collapse(element.text())) <= _LONGEST_TEXT
