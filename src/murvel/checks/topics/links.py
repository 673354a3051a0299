"""Links: where they say they lead, and where they do (WCAG 2.2 2.4.4, 2.4.9; HTML §4.6)."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Set
from itertools import pairwise

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic, Trait
from murvel.checks.engine.facts import Facts
from murvel.checks.tables.vocabulary import ADDRESS, FILE_TYPES, FILE_WORDS, NEW_WINDOW, VAGUE_LINKS, plain
from murvel.dom.document import Element
from murvel.patterns import pattern
from murvel.reader.moves.skip import SKIP_WORDS, link_target
from murvel.stage.script import Event
from murvel.tree.focus import stop_index
from murvel.tree.node import Node

checks = Checks(Topic.LINKS)

_CONTEXT = frozenset(
    {"paragraph", "listitem", "cell", "gridcell", "columnheader", "rowheader", "definition", "caption"}
)
"""What gives a link its context (WCAG 2.2, programmatically determined link context)."""


_LONGEST_VAGUE = 30
_OTHERWISE_USED = frozenset({"href", "role", "tabindex", "name", "id", "aria-current", "onclick"})
"""What an anchor without a place to go to may be good for, or is checked for elsewhere."""

_HANDLING = frozenset({"onclick", "onkeydown", "onkeyup", "onkeypress", "onmousedown", "onpointerdown", "href"})
_BUTTON_STATES = frozenset({"aria-expanded", "aria-pressed", "aria-haspopup"})


_GOES_ELSEWHERE = pattern(
    r"^\s*(?:javascript:)?\s*(?:event\.preventDefault\(\);\s*)?(?:(?:window|self|top|parent|document)\.)*"
    r"(?:location(?:\.href)?\s*=[^=][^;]*|location\.(?:assign|replace)\([^;]*\)|open\([^;]*\))\s*;?\s*"
    r"(?:return(?: false| true)?;?)?\s*$",
    re.IGNORECASE,
)
"""A handler of one statement that leads to another page (HTML §7.2.4, the Location interface)."""

_ENDING = pattern(r"/[^?#]*\.([a-z0-9]{2,4})(?:[?#].*)?$|^[^/?#]*\.([a-z0-9]{2,4})(?:[?#].*)?$")


def _href(node: Node) -> str | None:
    href = node.element.attributes.get("href", node.element.attributes.get("xlink:href"))
    return href.strip() if href is not None else None


def _goes_nowhere(href: str) -> bool:
    return href in ("", "#", "#!") or href.lower().startswith("javascript:")


@checks.add(
    "link-vague", "Link text does not say where it leads", FAILS, "2.4.4", "2.4.9",
    means="In a list of links, or by Tab, listeners do not hear where the link leads.",
    repair="Say in the link where it leads; the words may be hidden from sight.",
    expect="where it leads, then “link”",
)  # fmt: skip
def link_vague(page: Facts) -> Found:
    """Where sentence, list item, cell, heading or a link beside it could tell, a person has to judge (2.4.4)."""
    vague = {node.id for node in page.links if _is_vague(node.name)}
    told = {_href(node) for node in page.links if node.name and node.id not in vague}
    for node in page.links:
        if node.id in vague and not node.description:
            has_context = _href(node) in told or _has_context(page, node)
            detail = f"“{node.name.strip()}”" + ("" if has_context else ", and nothing around it tells")
            yield Finding(node.element, detail, NEEDS_EARS if has_context else None)


def _is_vague(name: str) -> bool:
    return len(name) <= _LONGEST_VAGUE and plain(name) in VAGUE_LINKS


def _has_context(page: Facts, node: Node) -> bool:
    for above in node.ancestors():
        if above.role in _CONTEXT and len(page.text_within(above)) > len(node.name.strip()) + 3:
            return True
    return page.heading_over(node) is not None


@checks.add(
    "link-address", "Link text is an address", NEEDS_EARS, "2.4.4", "2.4.9",
    means="Listeners hear the address symbol by symbol.",
    repair="Use words that say where it leads.",
    expect="where it leads in words, then “link”",
)  # fmt: skip
def link_address(page: Facts) -> Found:
    """An address as the link's text."""
    return (Finding(node.element, node.name.strip()) for node in page.links if ADDRESS.match(node.name.strip()))


@checks.add(
    "links-same-text", "Same link text, different targets", NEEDS_EARS, "2.4.4", "2.4.9",
    means="Listeners cannot tell the links apart in a list.",
    repair="Say in each link what is different.",
    expect="a text of its own for each place",
)  # fmt: skip
def links_same_text(page: Facts) -> Found:
    """One lead for a text, at the first link that leads elsewhere; vague texts have a check of their own."""
    alike: dict[str, dict[str, Node]] = defaultdict(dict)
    for node in page.links:
        href = _href(node)
        if href is not None and node.name and not _goes_nowhere(href):
            alike[f"{node.name} {node.description}"].setdefault(href, node)
    for text, places in alike.items():
        if len(places) > 1 and plain(text) not in VAGUE_LINKS and plain(text):
            targets: dict[str, Node] = {}
            for href, node in places.items():
                targets.setdefault(page.document.resolve(href).rstrip("/"), node)
            if len(targets) > 1:
                other = list(targets.values())[1]
                yield Finding(other.element, f"“{other.name.strip()[:60]}” leads to {len(targets)} places")


@checks.add(
    "links-same-target", "Adjacent links to the same target", NEEDS_EARS, "2.4.4",
    means="Listeners hear the same link twice, and Tab stops at it twice.",
    repair="Put the image and the text into one link.",
    expect="one link in place of two",
)  # fmt: skip
def links_same_target(page: Facts) -> Found:
    """Two links in a row with no text between them, in the same container."""
    for before, node in pairwise(page.links):
        href = _href(node)
        if href and href == _href(before) and not _goes_nowhere(href) and before.end <= node.id:
            between = page.tree.nodes[before.end : node.id]
            is_together = _container(before) is _container(node)
            if before.name and is_together and not any(each.is_text and each.name.strip() for each in between):
                yield Finding(node.element, f"after “{before.name.strip()[:60]}”")


def _container(node: Node) -> Node | None:
    plain_roles = ("generic", "heading", "paragraph", "strong", "emphasis")
    return next((above for above in node.ancestors() if above.role not in plain_roles), None)


@checks.add(
    "link-opens-window", "Link opens a window without saying so", NEEDS_EARS, "3.2.5",
    means="Listeners are in another window without notice, and going back does not work.",
    repair="Say so in the link, or open it in the same window.",
    expect="where it leads and that it opens a new window, then “link”",
)  # fmt: skip
def link_opens_window(page: Facts) -> Found:
    """A target that is another browsing context (HTML §4.6.5)."""
    for node in page.links:
        target = node.element.attributes.get("target", "").lower()
        if target and target not in ("_self", "_top", "_parent"):
            if not NEW_WINDOW.search(f"{node.name} {node.description}"):
                yield Finding(node.element)


@checks.add(
    "link-without-target", "Link without a target", NEEDS_EARS, "2.1.1", "4.1.2",
    means="It looks or sounds like a link, and it leads nowhere.",
    repair="Give it an href, or make it a button if it acts on this page.",
    expect="its text, then “link” or “button”",
    traits=[Trait.NOT_REACHED],
)  # fmt: skip
def link_without_target(page: Facts) -> Found:
    """Anchors without href that hold text (HTML §4.5.1: a placeholder for where a link might be), and elements that
    have the role alone: the browser follows no role, and nothing listens at them as far as is known."""
    for element in page.elements("a"):
        attributes = element.attributes
        if not attributes.keys() & _OTHERWISE_USED and page.words(element).strip():
            yield Finding(element)
    listening = page.listening(Event.ACTIVATE) | page.listening(Event.KEY)
    for node in page.links:
        element = node.element
        is_role_alone = element.tag != "area" and _href(node) is None and stop_index(element) is not None
        if is_role_alone and not any(_is_heard_at(each, listening) for each in (element, *element.ancestors())):
            yield Finding(element, "role=link, and no handler is known that follows it")


def _is_heard_at(element: Element, listening: Set[Element]) -> bool:
    """Whether something may happen at an element, as far as is known."""
    return element in listening or bool(element.attributes.keys() & _HANDLING)


@checks.add(
    "link-does-script", "Link target is a script or empty", NEEDS_EARS, "4.1.2", "2.4.4",
    means="“Link” promises another page; something else happens, or nothing.",
    repair="Make it a button.",
    expect="what it does, then “button”",
)  # fmt: skip
def link_does_script(page: Facts) -> Found:
    """Links to "#", to nothing, or to javascript:."""
    for node in page.links:
        href = _href(node)
        is_button = node.element.attributes.keys() & _BUTTON_STATES  # that has a check of its own
        if href is not None and _goes_nowhere(href) and page.is_source and not is_button:
            yield Finding(node.element, f'href="{href[:40]}"')


@checks.add(
    "button-leads-elsewhere", "Button that leads to a page", NEEDS_EARS, "4.1.2",
    means="“Button” promises an action on this page; instead another page opens.",
    repair="Remove the role; the element is a link.",
    expect="{name}, link",
)  # fmt: skip
def button_leads_elsewhere(page: Facts) -> Found:
    """Anchors with a place to go to that are made buttons, and buttons whose handler only goes to another page."""
    for node in page.nodes(("button",)):
        href = _href(node)
        if node.element.tag == "a" and href and not _goes_nowhere(href) and not href.startswith("#"):
            yield Finding(node.element)
        elif _GOES_ELSEWHERE.match(node.element.attributes.get("onclick", "")):
            yield Finding(node.element, node.element.attributes["onclick"].strip()[:60])


@checks.add(
    "link-is-button", "Link that acts as a button", NEEDS_EARS, "4.1.2",
    means="“Link” promises another page; instead something opens or is switched here.",
    repair="Make it a button.",
    expect="{name}, button, and its state",
)  # fmt: skip
def link_is_button(page: Facts) -> Found:
    """Links with states of buttons, and buttons made links by role."""
    for node in page.links:
        attributes = node.element.attributes
        states = attributes.keys() & _BUTTON_STATES
        if node.element.tag == "button" or states:
            yield Finding(node.element, ", ".join(sorted(states)))


@checks.add(
    "link-file-unsaid", "Link to a file without saying so", NEEDS_EARS, "2.4.4", "2.4.9",
    means="Listeners expect a page and get a download whose type and size they were not told.",
    repair="Say in the link which type the file has and how large it is.",
    expect="where it leads, the kind of file and its size, then “link”",
)  # fmt: skip
def link_file_unsaid(page: Facts) -> Found:
    """By the ending of the address."""
    for node in page.links:
        found = _ENDING.search((_href(node) or "").lower())
        ending = (found.group(1) or found.group(2)) if found else ""
        if ending in FILE_TYPES and not any(child.role == "img" for child in node.children):
            said = f"{node.name} {node.description}".lower()
            if ending not in said and FILE_WORDS.get(ending, ending) not in said:
                yield Finding(node.element, f"a {ending} file")


@checks.add(
    "link-place-missing", "Link to a missing place on the page", FAILS, "2.4.4",
    means="Following the link does nothing.",
    repair="Give the target the id that the link names.",
    expect="after Enter: what is at the target",
)  # fmt: skip
def link_place_missing(page: Facts) -> Found:
    """Fragments of this page (HTML §7.4.6.3); a way past the menu is checked as such."""
    for node in page.links:
        href = _href(node) or ""
        if href.startswith("#") and len(href) > 1 and not href.startswith(("#!", "#/", "#:~:")):
            is_skip_link = node in page.tree.stops[:1] and SKIP_WORDS.search(node.name)
            if link_target(page.tree, node) is None and not is_skip_link:
                yield Finding(node.element, href[:60])
