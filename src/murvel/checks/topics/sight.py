"""Sight: what is heard and not seen, seen and not heard, and what a pointer cannot use (WCAG 2.2 1.3.1, 2.4.7)."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.checks.engine.check import NEEDS_EARS, Checks, Finding, Found, Topic, Trait
from murvel.checks.engine.facts import Facts
from murvel.checks.questions.sight import CUT_OFF, DRAWN_OVER, NO_CONTRAST, first_text
from murvel.dom.document import Element, Text
from murvel.dom.html.facts import is_disabled
from murvel.reader.moves.skip import skip_link
from murvel.text import collapse
from murvel.tree.roles.aria_roles import BUTTONS, FIELDS, LINKS
from murvel.tree.roles.semantics import Hiding

checks = Checks(Topic.SIGHT)

_LONG = 150
"""Hidden words for listeners are few; a text with more characters is a part of the page."""

_FEWEST = 3
_CONTROLS = LINKS | BUTTONS | FIELDS | {"menuitem", "tab"}


@checks.add(
    "heard-not-seen", "Much is heard that is not seen", NEEDS_EARS, "1.3.1", "1.3.2",
    means="Listeners hear a part of the page that nobody sees; it may be out of date, or meant for nobody.",
    repair="Hide it from everybody (display: none), or show it.",
    expect="the same as is seen",
    traits=[Trait.UNSEEN],
)  # fmt: skip
def heard_not_seen(page: Facts) -> Found:
    """Text out of sight that is longer than a hint for listeners: the topmost element with its own reason.

    No hint is written in the colour of its background.
    """
    for element, why in page.out_of_sight:
        words = page.text_within(page.node_around(element)) if page.node(element) else page.words(element)
        if len(words) > (_FEWEST if why == NO_CONTRAST else _LONG):
            yield Finding(element, f"{why}: {words[:60]}")


@checks.add(
    "stop-not-seen", "Tab stop out of sight", NEEDS_EARS, "2.4.7", "2.4.11",
    means="People who see the page lose the focus there.",
    repair="Show it while it has the focus, or take it out of the Tab order.",
    expect="the same to the ear; to the eye, where the focus is",
    traits=[Trait.UNSEEN],
)  # fmt: skip
def stop_not_seen(page: Facts) -> Found:
    """Stops out of sight that no rule for focus shows, once for each part; not fields, which often have drawn ones over
    them, and not skip links."""
    if not page.is_source:
        return
    skip = skip_link(page.tree)
    shown = page.looks.shown_by_focus
    parts: dict[Element, list[tuple[Element, str]]] = {}
    for element in page.tree.tab_order:
        why = page.sight.unseen(element)
        if not why or element.tag in DRAWN_OVER or (skip is not None and skip.node.element is element):
            continue
        if not any(each in shown for each in (element, *element.ancestors())):
            part = element.parent if why == CUT_OFF and element.parent is not None else element
            while part.parent is not None and page.sight.unseen(part.parent):
                part = part.parent
            parts.setdefault(part, []).append((element, why))
    for stops in parts.values():
        element, why = stops[0]
        yield Finding(element, why if len(stops) == 1 else f"{why}; {len(stops)} stops in the same part")


@checks.add(
    "seen-not-heard", "Text is seen and not heard", NEEDS_EARS, "1.3.1", "1.1.1",
    means="People who see the page read it; listeners never learn of it.",
    repair="Remove aria-hidden, or say the same in words that are heard.",
    expect="the text",
    traits=[Trait.UNHEARD],
)  # fmt: skip
def seen_not_heard(page: Facts) -> Found:
    """Words in aria-hidden that are in sight, and that nothing around says as well."""
    for element in page.having.get("aria-hidden", ()):
        hidden = page.semantics.hidden(element)
        if hidden is None or hidden.by is not element or hidden.why is not Hiding.ARIA_HIDDEN:
            continue
        text = collapse("".join(_seen_texts(page, element)))
        if sum(character.isalpha() for character in text) >= _FEWEST and not _is_said(page, element, text):
            yield Finding(element, text[:60], heard="")


def _seen_texts(page: Facts, element: Element) -> Iterator[str]:
    """What is seen of the text in an element."""
    for node in element.descendants():
        if isinstance(node, Text) and node.data.strip():
            around = [node.parent, *node.parent.ancestors()]
            styles = [page.styles.of(each) for each in around]
            is_shown = all(style.display != "none" for style in styles) and styles[0].visibility == "visible"
            is_icon = any(word in node.parent.attributes.get("class", "") for word in ("icon", "symbols"))
            if is_shown and not is_icon and not page.sight.unseen(node.parent) and not _is_closed(page, node.parent):
                yield f" {node.data} "


def _is_closed(page: Facts, element: Element) -> bool:
    """Whether an element stands in what is hidden from those who listen because it is closed: a dialog, a menu."""
    return any(
        page.semantics.role(above) in ("dialog", "alertdialog", "menu", "tabpanel", "tooltip")
        for above in (element, *element.ancestors())
    )


def _is_said(page: Facts, element: Element, text: str) -> bool:
    """Whether what an element shows is said by what it stands in, word by word."""
    words = set(text.casefold().split())
    around = element.parent
    for _ in range(3):
        if around is None:
            return False
        node = page.node(around)
        said = f"{node.name} {page.text_within(node)}" if node is not None else page.words(around)
        if words <= set(said.casefold().split()):
            return True
        around = around.parent
    return False


@checks.add(
    "pointer-cannot-use", "Control that a pointer cannot use", NEEDS_EARS, "4.1.2",
    means="Listeners hear a control and can work it; a pointer goes through it.",
    repair="Disable it for everybody, or let the pointer reach it.",
    expect="“disabled”, if it is not to be used",
)  # fmt: skip
def pointer_cannot_use(page: Facts) -> Found:
    """pointer-events: none on a control that is not said to be disabled (CSS Pointer Events)."""
    if not page.is_source:
        return
    off = page.looks.with_property("pointer-events")
    for node in page.nodes(sorted(_CONTROLS)):
        element = node.element
        declared = next((each for each in (element, *element.ancestors()) if each in off), None)
        if declared is None or page.looks.of(declared).get("pointer-events") != "none":
            continue
        if "disabled" not in node.states and not is_disabled(element) and not page.sight.unseen(element):
            yield Finding(element, node.role)


@checks.add(
    "inert-without-dialog", "Part of the page is inert without a reason", NEEDS_EARS, "4.1.2", "2.1.1",
    means="It is seen, and neither heard, reached nor clicked.",
    repair="Take inert away when the dialog that asked for it is closed.",
    expect="the part of the page",
    traits=[Trait.UNHEARD],
)  # fmt: skip
def inert_without_dialog(page: Facts) -> Found:
    """The inert attribute on something that is in sight, with no dialog on the page (HTML §6.3.2)."""
    if any(page.nodes(("dialog", "alertdialog"))):
        return
    for element in page.having.get("inert", ()):
        around = (element, *element.ancestors())
        is_shown = all(page.styles.of(each).display != "none" for each in around)
        inner = first_text(element)
        if is_shown and inner is not None and not page.sight.unseen(inner):
            yield Finding(element, collapse(element.text())[:60], heard="")
