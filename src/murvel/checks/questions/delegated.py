"""Delegated clicks: a handler on a part of the page takes the clicks on the elements in it.

Frameworks listen once and find the element that was clicked by its attributes. A browser tries what some of them do
(`page.clicks`); the others are for a person to judge.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice

from murvel.checks.engine.facts import Facts
from murvel.dom.document import Element
from murvel.patterns import pattern
from murvel.stage.script import ACTING, Event
from murvel.text import collapse, counted

_ACTING = pattern(ACTING)

_LONGEST_TEXT = 80
_MOST_INSIDE = 12
"""An element with more elements and texts in it is a part of the page, not one thing to be clicked."""


def is_delegating(page: Facts) -> bool:
    """Whether a page listens for clicks as a whole: on the document, or on a part with the main content in it."""
    content = [*page.tags.get("main", ()), *page.tags.get("h1", ())]
    return any(
        each.tag in ("html", "body", "main") or any(each.contains(inner) for inner in content)
        for each in page.listening(Event.ACTIVATE)
    )


def delegation(page: Facts) -> str:
    """Return what is known of the clicks on a page that listens as a whole, in a sentence; empty for other pages."""
    if not is_delegating(page):
        return ""
    if not page.clicks:
        return "The page listens for clicks as a whole. Only elements that say what a click does are judged for it."
    tried = counted(len(page.clicks), "element that looks clickable", "elements that look clickable")
    worked = sum(bool(words) for words in page.clicks.values())
    return (
        f"The page listens for clicks as a whole. {tried} took a click on a copy of the page, and {worked} did "
        "something. Nothing is known of clicks on others."
    )


def delegated(page: Facts) -> Iterator[Element]:
    """Yield the exposed elements that say what a click does and stand in a part that listens for clicks."""
    parts = {each for each in page.listening(Event.ACTIVATE) if not _is_one_thing(each)}
    if not parts:
        return
    for name, elements in page.having.items():
        if _ACTING.fullmatch(name):
            for each in elements:
                if page.is_exposed(each) and _is_one_thing(each) and not parts.isdisjoint(each.ancestors()):
                    yield each


def _is_one_thing(element: Element) -> bool:
    if element.tag in ("html", "body", "main"):
        return False
    is_small = next(islice(element.descendants(), _MOST_INSIDE, None), None) is None
    return is_small and 0 < len(collapse(element.text())) <= _LONGEST_TEXT
