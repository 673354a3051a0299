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
from murvel.loading.addresses import origin_of
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
            seen.add(element)
            yield Widget(Kind.DISCLOSURE, xpath(element), _words(page, element), is_guess=True)
    for element in sorted(page.listening(Event.HOVER) - seen, key=lambda each: each.order):
        is_around = any(element.contains(each) for each in seen)  # the pointer is on another widget then
        if (
            page.is_exposed(element)
            and element.tag not in ("html", "body")
            and not _is_large(element)
            and not is_around
        ):
            yield Widget(Kind.TIP, xpath(element), _words(page, element), is_guess=True)
    for node in carousels:
        yield Widget(Kind.CAROUSEL, xpath(node.element), f"“{node.name}”" if node.name else "carousel")
    yield from _routes(page)
    for element in page.tags.get("form", ()):
        if page.is_exposed(element) and any(each for each in _required(page, element)):
            yield Widget(Kind.FORM, xpath(element), "form")


_MOST_ROUTES = 3


def _routes(page: Facts) -> Iterator[Widget]:
    """The first links that a router may follow: their clicks are heard by a script, and they lead within the site."""
    if page.session.stage is None or not page.session.stage.is_live:
        return
    own = page.document.resolve("").partition("#")[0]
    listening, known = page.listening(Event.ACTIVATE), {own}
    for node in page.nodes(("link",)):
        href = node.element.attributes.get("href", "")
        address = page.document.resolve(href)
        where = address if href.startswith("#/") else address.partition("#")[0]
        if not href or where in known or origin_of(where) != origin_of(own):
            continue
        if "target" in node.element.attributes or "download" in node.element.attributes:
            continue
        if any(each in listening for each in (node.element, *node.element.ancestors())):
            known.add(where)
            yield Widget(Kind.ROUTE, xpath(node.element), page.tree.words_of(node))
            if len(known) > _MOST_ROUTES:
                return


def _may_open(page: Facts, element: Element) -> bool:
    """Whether something that scripts listen on may open something: no field, link, part of a widget, or large part."""
    if element.tag in _OTHERS or is_disabled(element) or not page.is_exposed(element):
        return False
    role = page.semantics.role(element)
    if role in PARTS or (element.tag == "a" and "href" in element.attributes and role == "link"):
        return False
    if control_type(element) in ("submit", "reset", "image") and form_of(page.document, element) is not None:
        return False
    return not _is_large(element) and bool(collapse(element.text()))


def _may_show(page: Facts, element: Element) -> bool:
    """Whether a pointer over an element may show something."""
    return page.is_exposed(element) and element.tag not in ("html", "body") and not _is_large(element)


def _is_large(element: Element) -> bool:
    return next(islice(element.descendants(), _MANY, None), None) is not None


def _words(page: Facts, element: Element) -> str:
    """The role and name of an element; its text where it is heard as text."""
    node = page.node_around(element)
    is_named = node.element is element and node.role != "generic"
    return page.tree.words_of(node) if is_named else f"“{collapse(element.text())[:40]}”"


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
