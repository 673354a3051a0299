"""The direction of an element's text (HTML §3.2.6.4, the dir attribute)."""

from __future__ import annotations

import unicodedata

from murvel.dom.document import Element, Text
from murvel.dom.html.controls import field_value

_LTR, _RTL = ("L",), ("R", "AL")
_NOT_ASKED = frozenset({"bdi", "script", "style", "textarea"})


def direction_of(element: Element) -> str:
    """Return "ltr" or "rtl"."""
    node: Element | None = element
    while node is not None:
        stated = node.attributes.get("dir", "").lower()
        if stated in ("ltr", "rtl"):
            return stated
        if stated == "auto" or node.tag == "bdi":
            found = _first_strong(node)
            if found is not None or node.tag != "bdi":
                return found or "ltr"
        node = node.parent
    return "ltr"


def _first_strong(element: Element) -> str | None:
    """The direction of the first character that has one, None if there is none."""
    if element.tag in ("input", "textarea"):
        return _strong(field_value(element))
    stack = list(reversed(element.children))
    while stack:
        node = stack.pop()
        if isinstance(node, Text):
            found = _strong(node.data)
            if found is not None:
                return found
        elif node.tag not in _NOT_ASKED and "dir" not in node.attributes:
            stack.extend(reversed(node.children))
    return None


def _strong(text: str) -> str | None:
    for character in text:
        kind = unicodedata.bidirectional(character)
        if kind in _LTR:
            return "ltr"
        if kind in _RTL:
            return "rtl"
    return None
