"""The widgets of a page that can be drilled."""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import islice

from murvel.checks.engine.facts import Facts
from murvel.checks.questions.delegated import delegated
from murvel.dom.document import Element
from murvel.dom.html.facts import is_disabled
from murvel.dom.html.forms import form_of
from murvel.dom.html.inputs import control_type
from murvel.dom.places import xpath
from murvel.drills.found import Kind, Widget
from murvel.drills.promises import PARTS, PROMISES, Promise
from murvel.patterns import pattern
from murvel.stage.script import Event
from murvel.text import collapse
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import BUTTONS

_POPUPS = {"menu": Kind.MENU, "true": Kind.MENU, "dialog": Kind.DIALOG, "listbox": Kind.COMBOBOX, "tree": Kind.MENU}
_COMMANDS = {"show-modal": Kind.DIALOG, "toggle-popover": Kind.DISCLOSURE, "show-popover": Kind.DISCLOSURE}


def widgets_of(page: Facts) -> Iterator[Widget]:
    """Yield the widgets of a page, in reading order."""
    seen: set[Element] = set()
    for node in page.tree.nodes:
        kind = _kind(page, node)
        if kind is not None and node.element not in seen and not is_disabled(node.element):
            seen.add(node.element)
            yield Widget(kind, xpath(node.element), page.tree.words_of(node))
    carousels = [
        node
        for node in page.tree.nodes
        if _is_carousel(node) and not any(_is_carousel(above) for above in node.ancestors())
    ]
    clicked = page.listening(Event.ACTIVATE) | set(delegated(page))
    for element in sorted(clicked - seen, key=lambda each: each.order):
        is_of_carousel = any(each.element.contains(element) for each in carousels)
        if _may_open(page, element) and not is_of_carousel:
            node = page.node_around(element)
            is_named = node.element is element and node.role != "generic"
            words = page.tree.words_of(node) if is_named else f"“{collapse(element.text())[:40]}”"
            yield Widget(Kind.DISCLOSURE, xpath(element), words, is_guess=True)
    for node in carousels:
        yield Widget(Kind.CAROUSEL, xpath(node.element), f"“{node.name}”" if node.name else "carousel")
    for element in page.tags.get("form", ()):
        if page.is_exposed(element) and any(each for each in _required(page, element)):
            yield Widget(Kind.FORM, xpath(element), "form")


def _may_open(page: Facts, element: Element) -> bool:
    """Whether something that scripts listen on may open something: no field, link, part of a widget, or large part."""
    if element.tag in _OTHERS or is_disabled(element) or not page.is_exposed(element):
        return False
    role = page.semantics.role(element)
    if role in PARTS or (element.tag == "a" and "href" in element.attributes and role == "link"):
        return False
    if control_type(element) in ("submit", "reset", "image") and form_of(page.document, element) is not None:
        return False
    return next(islice(element.descendants(), _MANY, None), None) is None and bool(collapse(element.text()))


_OTHERS = frozenset({"html", "body", "form", "input", "select", "textarea", "label", "option", "ul", "ol", "table"})
_MANY = 12
"""Elements and texts in an element from which on a handler on it is taken for one of what it holds."""


def _is_carousel(node: Node) -> bool:
    """Whether an element says that it is a carousel, in words of the page or by its class; it has to hold a button."""
    words = f"{node.element.attributes.get('aria-roledescription', '')} {node.element.attributes.get('class', '')}"
    if node.is_text or not _CAROUSEL.search(words):
        return False
    return any(each.attributes.get("role") == "button" or each.tag == "button" for each in node.element.elements())


_CAROUSEL = pattern(
    r"(?:^|\s)(?:carousel|slider|slideshow|swiper|karussell|diashow|carrousel|carrusel|karuzela)(?:\s|$)", re.I
)
"""Classes and role descriptions of carousels."""


def _required(page: Facts, form: Element) -> Iterator[Element]:
    for node in page.fields:
        if form_of(page.document, node.element) is form and node.states.get("required") is True:
            yield node.element


def _kind(page: Facts, node: Node) -> Kind | None:
    """Which drill a node gets, None for none."""
    if node.is_text or node.is_part or node.states.get("disabled") is True:
        return None
    attributes = node.element.attributes
    popup = _POPUPS.get(attributes.get("aria-haspopup", "").lower())
    if node.role == "combobox":
        return Kind.COMBOBOX if node.element.tag != "select" else None
    promised = PROMISES.get(node.role)
    if promised is not None and not _is_worked_from_elsewhere(page, node):
        return {Promise.MOVES: Kind.COMPOSITE, Promise.CHANGES: Kind.RANGE, Promise.TOGGLES: Kind.TOGGLE}.get(
            promised.promise
        )
    if node.role in BUTTONS or node.role in ("link", "menuitem"):
        if popup is not None:
            return popup
        command = _COMMANDS.get(attributes.get("command", "").lower())
        if command is not None:
            return command
        if "popovertarget" in attributes or "expanded" in node.states:
            return _opened_by(page, node.element) or Kind.DISCLOSURE
        if "pressed" in node.states:
            return Kind.TOGGLE
    if _has_tip(page, node.element):
        return Kind.TIP
    return None


def _is_worked_from_elsewhere(page: Facts, node: Node) -> bool:
    """Whether another element opens and works a widget, as a combobox does its list: that one is drilled."""
    identifier = node.element.attributes.get("id", "")
    return bool(identifier) and any(page.refers(each, identifier) for each in ("aria-controls", "aria-owns"))


def _opened_by(page: Facts, element: Element) -> Kind | None:
    """What an element controls, by the role of that."""
    for target in page.semantics.references(element, "aria-controls"):
        role = page.semantics.role(target)
        if role in ("menu", "menubar"):
            return Kind.MENU
        if role in ("dialog", "alertdialog") or target.tag == "dialog":
            return Kind.DIALOG
    return None


def _has_tip(page: Facts, element: Element) -> bool:
    described = page.semantics.references(element, "aria-describedby")
    return any(page.semantics.role(each) == "tooltip" for each in described)
