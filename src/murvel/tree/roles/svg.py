"""Roles of SVG elements (SVG-AAM 1.0 §5.2, mapping tables; §5.1.2, which elements are included)."""

from __future__ import annotations

from collections.abc import Callable

from murvel.dom.document import Element
from murvel.dom.html.facts import first_child
from murvel.tree.focus import tab_index

BY_TAG: dict[str, str] = {
    "g": "group",
    "use": "graphics-object",
    "image": "img",
    **dict.fromkeys(("circle", "ellipse", "line", "path", "polygon", "polyline", "rect"), "graphics-symbol"),
}
"""Roles of elements that are exposed only where something is said of them; any other one has no object."""

_TO_BE_READ = frozenset({"text", "a", "foreignObject"})


Drawn = Callable[[Element], Element | None]
"""Returns what a use element draws again, None where that is not on the page."""


def svg_role(element: Element, has_author_role: bool, drawn_by: Drawn) -> str | None:
    """Return the role an SVG element has by its tag, None if it has no object of its own.

    Args:
        element: any SVG element.
        has_author_role: whether its role attribute names a role.
        drawn_by: tells what a use element draws again.
    """
    if element.tag == "a":
        return "link" if "href" in element.attributes or "xlink:href" in element.attributes else "generic"
    if has_author_role or _is_said_of(element):
        return BY_TAG.get(element.tag)
    return "group" if element.tag == "use" and _draws_words(element, drawn_by) else None


def drawing_role(svg: Element, named: bool, drawn_by: Drawn) -> str | None:
    """Return the role of an svg element: an image, unless words or parts in it are to be read; nothing is nothing."""
    if not svg.children:
        return "img" if named else None
    for node in svg.descendants():
        if isinstance(node, Element) and _is_a_part(node, drawn_by):
            return "graphics-document"
    return "img"


def _is_a_part(element: Element, drawn_by: Drawn) -> bool:
    """Whether an element in a drawing is to be read for itself."""
    if element.tag in _TO_BE_READ:
        return True
    if "role" in element.attributes:
        return element.attributes["role"].strip().lower() not in ("none", "presentation")
    is_said = element.tag in BY_TAG and _is_said_of(element)
    return is_said or (element.tag == "use" and _draws_words(element, drawn_by))


def _draws_words(use: Element, drawn_by: Drawn) -> bool:
    """Whether what a use element draws again is named, or has text in it (SVG 2 §5.6.2)."""
    target = drawn_by(use)
    if target is None:
        return False
    return _is_said_of(target) or any(each.tag == "text" for each in target.elements())


def _is_said_of(element: Element) -> bool:
    """§5.1.2: whether the author gives it a name, a description, a state or the focus."""
    if any(name.startswith("aria-") and value.strip() for name, value in element.attributes.items()):
        return True
    if tab_index(element) is not None:
        return True
    said = (first_child(element, "title"), first_child(element, "desc"))
    return any(child is not None and child.text().strip() for child in said)
