"""Names of drawings and their parts: by a title element, or by what a use element draws again (SVG-AAM 1.0 §8.1)."""

from __future__ import annotations

from collections.abc import Callable

from murvel.dom.document import Element
from murvel.dom.html.facts import first_child
from murvel.text import collapse

OF_DRAWINGS = frozenset({"title", "desc", "metadata"})
"""What says something of an element of SVG and is not drawn."""

_MOST_DRAWN = 4
"""How many use elements in each other are followed."""


def drawing_name(element: Element, drawn_by: Callable[[Element], Element | None]) -> str:
    """Return what names an element of SVG beside ARIA; empty if nothing does.

    Args:
        element: the element.
        drawn_by: returns what a use element draws again, None where that is not on the page.
    """
    title = _title(element)
    return title or (_drawn_text(element, drawn_by) if element.tag == "use" else "")


def _title(element: Element) -> str:
    title = first_child(element, "title")
    return collapse(title.text()) if title is not None else ""


def _drawn_text(use: Element, drawn_by: Callable[[Element], Element | None], depth: int = 0) -> str:
    """The label, title or text of what a use element draws."""
    target = drawn_by(use) if depth < _MOST_DRAWN else None
    if target is None:
        return ""
    named = collapse(target.attributes.get("aria-label", "")) or _title(target)
    if named:
        return named
    texts = []
    for each in target.elements():
        if each.tag == "text":
            texts.append(collapse(each.text()))
        elif each.tag == "use":
            texts.append(_drawn_text(each, drawn_by, depth + 1))
    return " ".join(filter(None, texts))
