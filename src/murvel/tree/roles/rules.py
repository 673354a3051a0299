"""Which rule gave an element its role, in words that name the standard."""

from __future__ import annotations

from murvel.dom.document import Element, Namespace
from murvel.tree.roles.html_roles import CONTEXTUAL, author_role
from murvel.tree.roles.semantics import Semantics


def role_rule(semantics: Semantics, element: Element) -> str:
    """Return which rule gave an element its role, in words that name the standard."""
    stated = element.attributes.get("role", "").strip()
    if stated:
        chosen = author_role(element)
        if chosen is None:
            return f'role="{stated}" names no role (WAI-ARIA 1.2 §5.4), so {_native_rule(element)}'
        if chosen == semantics.role(element):
            return f'role="{stated}" (WAI-ARIA 1.2 §5.4)'
        if chosen == "none":
            undone = "is undone by focus or a global attribute (WAI-ARIA 1.2 §7.2)"
            return f'role="{stated}" {undone}, so {_native_rule(element)}'
        return f'role="{stated}" lacks what it needs around it or a name, so {_native_rule(element)}'
    return _native_rule(element)


def _native_rule(element: Element) -> str:
    if element.namespace is Namespace.SVG:
        return f"the element {element.tag} (SVG-AAM 1.0)"
    context = " in its context" if element.tag in CONTEXTUAL else ""
    return f"the element {element.tag}{context} (HTML-AAM 1.0 §3.4)"
