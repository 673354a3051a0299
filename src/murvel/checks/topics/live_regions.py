"""Live regions and what changes: announced too much, too late, or not at all (WAI-ARIA 1.2 §6.6 aria-live)."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic
from murvel.checks.engine.facts import Facts
from murvel.dom.document import Element
from murvel.stage.script import Deed, Handler, ScriptedChange
from murvel.text import collapse
from murvel.tree.focus import is_focusable
from murvel.tree.node import Node

checks = Checks(Topic.LIVE)

_IMPLIED = {"alert": "assertive", "status": "polite", "log": "polite", "timer": "off", "marquee": "off"}
_LONG = 300
_SPEAKING = ("alert", "status", "aria-live")
_TELLING = frozenset({"aria-expanded", "aria-pressed", "aria-checked", "open"})


def _is_region(element: Element) -> bool:
    live = element.attributes.get("aria-live", "").strip().lower()
    role = element.attributes.get("role", "").strip().lower()
    is_output = element.tag == "output" and live != "off"
    return live in ("polite", "assertive") or role in ("alert", "log", "status") or is_output


def _region_around(element: Element) -> Element | None:
    return next((each for each in (element, *element.ancestors()) if _is_region(each)), None)


@checks.add(
    "alert-at-load", "Alert is there on arrival", NEEDS_EARS, "4.1.3",
    means="Voices announce changes only, so it is not announced; some browsers announce it over the page's title.",
    repair="Put the message into the page as text; fill an alert only when something happens.",
    expect="on arrival the title; the alert when something happens",
)  # fmt: skip
def alert_at_load(page: Facts) -> Found:
    """role=alert, or an assertive region, that holds text as the page arrives."""
    for node in page.nodes(("alert",)):
        if page.text_within(node):
            yield Finding(node.element, page.text_within(node)[:60])


@checks.add(
    "alerts-several", "Several alerts", NEEDS_EARS, "4.1.3",
    means="Each alert interrupts the one before, so listeners hear only the last one to its end.",
    repair="Keep one alert for all messages, with the most important first.",
    expect="one alert that is heard to its end",
)  # fmt: skip
def alerts_several(page: Facts) -> Found:
    """From the second one on that stands empty or filled on the page."""
    regions = [each for each in page.having.get("role", ()) if each.attributes["role"].strip().lower() == "alert"]
    for element in regions[1:]:
        if page.styles.of(element).display != "none" or page.is_exposed(element):
            yield Finding(element, f"{len(regions)} of them")


@checks.add(
    "region-twice-live", "Live region set twice", NEEDS_EARS, "4.1.3",
    means="Some voices announce each message twice.",
    repair="Keep the role; it implies the live setting.",
    expect="each message once",
)  # fmt: skip
def region_twice_live(page: Facts) -> Found:
    """aria-live beside a role that implies one (WAI-ARIA 1.2 §5.4, Implicit Value for Role)."""
    for element in page.exposed_having("aria-live"):
        role = element.attributes.get("role", "").strip().lower()
        live = element.attributes["aria-live"].strip().lower()
        if role in _IMPLIED and live in ("polite", "assertive"):
            yield Finding(element, f"role {role} and aria-live {live}")


@checks.add(
    "live-off-silences", "Live role with aria-live off", FAILS, "4.1.3",
    means="Its messages are never announced.",
    repair="Remove aria-live=\"off\".",
    expect="the message, when it comes",
)  # fmt: skip
def live_off_silences(page: Facts) -> Found:
    """aria-live=off on alert, status or log."""
    for element in page.exposed_having("aria-live"):
        role = element.attributes.get("role", "").strip().lower()
        if element.attributes["aria-live"].strip().lower() == "off" and role in ("alert", "status", "log"):
            yield Finding(element, f"role {role}")


@checks.add(
    "assertive-overused", "Too many assertive regions", NEEDS_EARS, "4.1.3", "2.2.4",
    means="Messages that could wait interrupt the reading.",
    repair="Use aria-live=\"polite\" or role=\"status\"; keep assertive for what cannot wait.",
    expect="the message after what is being read",
)  # fmt: skip
def assertive_overused(page: Facts) -> Found:
    """Assertive regions with much in them, or more than two of them."""
    regions = [
        each for each in page.exposed_having("aria-live")
        if each.attributes["aria-live"].strip().lower() == "assertive"
    ]  # fmt: skip
    for element in regions:
        if len(regions) > 2 or len(collapse(element.text())) > _LONG:
            yield Finding(element, f"{len(regions)} of them" if len(regions) > 2 else "with much text in it")


@checks.add(
    "region-hidden", "Hidden live region", NEEDS_EARS, "4.1.3",
    means="Text written into it is not announced; many browsers announce nothing when region and text appear together.",
    repair="Keep the region visible and empty, and write the message into it.",
    expect="the message, when it comes",
)  # fmt: skip
def region_hidden(page: Facts) -> Found:
    """Regions in what is not rendered or hidden as the page arrives."""
    for name in ("aria-live", "role"):
        for element in page.having.get(name, ()):
            is_new = name == "aria-live" or "aria-live" not in element.attributes
            hidden = page.semantics.hidden(element)
            if is_new and _is_region(element) and hidden is not None:
                yield Finding(element, f"by {hidden.why.value}", heard="")


@checks.add(
    "region-late", "Live region added together with its message", NEEDS_EARS, "4.1.3",
    means="Many browsers announce only changes in a region that was there before.",
    repair="Put the empty region on the page from the start, and write the message into it.",
    expect="the message, when it comes",
)  # fmt: skip
def region_late(page: Facts) -> Found:
    """Handlers that insert a region together with its text."""
    for handler in page.handlers:
        for change in handler.changes:
            markup = change.value or "" if change.deed is Deed.INSERT else ""
            if "aria-live=" in markup or 'role="status"' in markup:
                for element in change.elements:
                    if _region_around(element) is None:
                        yield Finding(element, "a cue inserts it", heard="")


def _changed(change: ScriptedChange) -> Iterator[Element]:
    """The elements whose content a change changes for all to see."""
    speaks = change.deed is Deed.INSERT and any(word in (change.value or "") for word in _SPEAKING)
    if change.deed in (Deed.TEXT, Deed.INSERT, Deed.SHOW) and not speaks:
        yield from change.elements


@checks.add(
    "change-silent", "Visible change is not announced", NEEDS_EARS, "4.1.3",
    means="People who see the page notice the change; listeners hear nothing.",
    repair="Write what happened into an element with role=\"status\" that is on the page from the start.",
    expect="what happened, without moving",
)  # fmt: skip
def change_silent(page: Facts) -> Found:
    """Where handlers show it: texts that change outside of live regions, with the focus left where it is."""
    known: set[Element] = set()
    for handler in page.handlers:
        if _tells(page, handler):
            continue
        for change in handler.changes:
            for element in _changed(change):
                # What a person is at says its new name or value by itself.
                if _region_around(element) is None and element not in known and not handler.concerns(element):
                    known.add(element)
                    when = f"{handler.when:g} s" if isinstance(handler.when, float) else handler.when
                    yield Finding(element, f"on {when}", heard="")


def _tells(page: Facts, handler: Handler) -> bool:
    """Whether a handler, or another for the same event and place, moves the focus, states what opens, or speaks."""
    together = [each for each in page.handlers if (each.when, each.elements) == (handler.when, handler.elements)]
    for change in (change for each in together for change in each.changes):
        if change.deed in (Deed.FOCUS, Deed.TITLE) or change.name in _TELLING:
            return True
        if change.deed is Deed.INSERT and any(word in (change.value or "") for word in ("alert", "status")):
            return True
        if any(_region_around(element) is not None for element in _changed(change)):
            return True
    return False


@checks.add(
    "focus-moved-unsaid", "Focus moves to a silent element", NEEDS_EARS, "2.4.3", "4.1.2",
    means="The focus moves, but listeners do not hear where they are.",
    repair="Move the focus to an element with a name: a heading, a field or a dialog.",
    expect="the name of where the focus is now",
)  # fmt: skip
def focus_moved_unsaid(page: Facts) -> Found:
    """Handlers that give the focus to what has no name, or cannot take it."""
    for handler in page.handlers:
        for change in handler.changes:
            for element in change.elements[:1] if change.deed is Deed.FOCUS else ():
                node = page.node(element)
                if not is_focusable(element):
                    yield Finding(element, "it cannot take the focus")
                elif page.is_exposed(element) and not _says_something(page, node):
                    yield Finding(element, "it has no name")


def _says_something(page: Facts, node: Node | None) -> bool:
    return node is not None and bool(node.name.strip() or page.text_within(node))
