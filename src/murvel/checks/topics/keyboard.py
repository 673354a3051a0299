"""The keyboard: what it reaches, in which order, and what only a pointer reaches (HTML §6.6; WCAG 2.2 2.1.1, 2.4.3)."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from itertools import islice
from operator import attrgetter

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic, Trait
from murvel.checks.engine.facts import Facts
from murvel.checks.questions.delegated import delegated
from murvel.checks.tables.vocabulary import plain
from murvel.dom.document import Element
from murvel.dom.html.facts import is_disabled
from murvel.dom.html.inputs import control_type
from murvel.patterns import pattern
from murvel.reader.moves.skip import skip_link
from murvel.stage.script import Deed, Event
from murvel.text import collapse
from murvel.tree.focus import is_focusable, tab_index
from murvel.tree.roles.aria_roles import LINKS
from murvel.tree.roles.semantics import Hiding

checks = Checks(Topic.KEYBOARD)

_STOPS_BEFORE_MAIN = 10
_STOPS_IN_GROUP = 4
_FOR_OTHERS = 40
"""Elements and texts in an element from which on a handler on it is taken for one of what it holds."""

_POINTER = ("onclick", "onmousedown", "onmouseup", "ondblclick")
_KEYS = frozenset({"onkeydown", "onkeyup", "onkeypress"})
_NATIVE = frozenset({"a", "area", "button", "input", "select", "textarea", "summary", "label", "option", "details"})
_COMPOSITE = frozenset({"menu", "menubar", "tablist", "tree", "treegrid", "grid", "listbox", "radiogroup", "toolbar"})
_LED_TO = frozenset({"listbox", "menu", "tree", "grid", "dialog"})
"""What a combobox or a button leads to (WAI-ARIA 1.2 §5.4, combobox)."""

_GIVES_FOCUS = pattern(r"\b(?:this|event\.target)\.focus\(\)")
_TAB_KEY = pattern(r"['\"]Tab['\"]|keyCode\s*={2,3}\s*9\b|which\s*={2,3}\s*9\b")
_STOPS_KEY = pattern(r"preventDefault|return\s+false")

_OPERATED = frozenset(
    "button checkbox link menuitem menuitemcheckbox menuitemradio option radio slider spinbutton switch tab textbox "
    "treeitem combobox listbox searchbox".split()
)


def _pointed_at(page: Facts) -> list[Element]:
    """The elements that something happens on when they are clicked: by their attributes, or by handlers on them or on
    the page as a whole."""
    found = {element for name in _POINTER for element in page.exposed_having(name)}
    found |= {
        each
        for each in page.listening(Event.ACTIVATE)
        if page.is_exposed(each) and (page.does_something(each) or not _is_for_others(each))
    }
    found.update(delegated(page))
    found |= {element for element, words in page.clicks.items() if words and page.is_exposed(element)}
    return sorted((each for each in found if each.tag not in ("html", "body", "form")), key=lambda each: each.order)


def _is_for_others(element: Element) -> bool:
    """Whether a handler on an element is likely to be for what is in it: for a control, whose clicks it hears as well,
    or for one of many things."""
    return next(islice(element.descendants(), _FOR_OTHERS, None), None) is not None or _has_inside(element)


def _is_certain(page: Facts, element: Element) -> bool:
    """Whether a click does something that people are meant to use; a script may listen for other reasons."""
    is_stated = any(name in element.attributes for name in _POINTER)
    return is_stated or page.looks.of(element).get("cursor") == "pointer" or page.does_something(element)


def _takes_keys(page: Facts, element: Element) -> bool:
    """Whether keys do something on an element, by handlers on it or around it."""
    listening = page.listening(Event.KEY)
    around = (element, *element.ancestors())
    return bool(_KEYS & element.attributes.keys()) or any(each in listening for each in around)


def _has_inside(element: Element) -> bool:
    """Whether something that can be focused stands inside an element."""
    return any(isinstance(node, Element) and is_focusable(node) for node in element.descendants())


def _is_led_to(page: Facts, element: Element) -> bool:
    """Whether an element is worked from another that has the focus: a combobox's list, by aria-activedescendant."""
    for around in (element, *element.ancestors()):
        identifier = around.attributes.get("id", "")
        if identifier and page.refers("aria-activedescendant", identifier):
            return True
        if page.semantics.role(around) in _LED_TO and identifier:
            if page.refers("aria-controls", identifier) or page.refers("aria-owns", identifier):
                return True
    return False


@checks.add(
    "click-not-reached", "Only a pointer can reach it", FAILS, "2.1.1",
    means="A click activates it. Tab does not reach it, and nothing says that it can be activated.",
    repair="Make it a button, or a link if it leads elsewhere.",
    expect="what it does, then “button”, at a Tab stop",
    traits=[Trait.NOT_REACHED],
)  # fmt: skip
def click_not_reached(page: Facts) -> Found:
    """Handlers of clicks on what cannot have the focus; where a control stands inside, that may do the same."""
    guessed = set(delegated(page))
    for element in _pointed_at(page):
        if element.tag in _NATIVE and (element.tag != "a" or "href" in element.attributes):
            continue
        if is_focusable(element) or any(is_focusable(above) or above.tag == "label" for above in element.ancestors()):
            continue
        if _is_led_to(page, element):
            continue
        is_tried = bool(page.clicks.get(element))
        is_sure = is_tried or (element not in guessed and _is_certain(page, element) and not _has_inside(element))
        yield Finding(element, _clicked(page, element), None if is_sure else NEEDS_EARS)


def _clicked(page: Facts, element: Element) -> str:
    """What is clicked, and what that does as far as it was tried."""
    text, does = collapse(element.text())[:60], page.clicks.get(element)
    if does is None:
        return text
    return f"{text}; clicked on a copy of the page: {does or 'no change was noticed'}"


@checks.add(
    "pointer-style-not-reached", "Looks clickable, but Tab does not reach it", NEEDS_EARS, "2.1.1",
    means="The pointer turns into a hand over it, but Tab does not reach it.",
    repair="Make it a button or a link if a click does something.",
    expect="what it does, then “button”, at a Tab stop",
    traits=[Trait.NOT_REACHED],
)  # fmt: skip
def pointer_style_not_reached(page: Facts) -> Found:
    """cursor: pointer on text that is not operated in any way."""
    styled = page.looks.with_property("cursor")
    candidates = {element for element in page.exposed_having("style") if "cursor" in element.attributes["style"]}
    if styled:
        candidates |= {node.element for node in page.tree.nodes if node.element in styled}
    known = set(_pointed_at(page))
    for element in sorted(candidates, key=attrgetter("order")):
        if page.looks.of(element).get("cursor") != "pointer" or element in known or element.tag in _NATIVE:
            continue
        around = (element, *element.ancestors())
        if any(is_focusable(each) or each.tag in _NATIVE for each in around) or _has_inside(element):
            continue
        if page.semantics.role(element) not in _OPERATED and collapse(element.text()):
            yield Finding(element, _clicked(page, element))


@checks.add(
    "widget-not-reached", "Tab does not reach the control", FAILS, "2.1.1", "4.1.2",
    means="It is announced as a control, but the keyboard does not reach it.",
    repair="Use the native element, or add tabindex=\"0\" and its keys.",
    expect="{name}, {role}, at a Tab stop",
    traits=[Trait.NOT_REACHED],
)  # fmt: skip
def widget_not_reached(page: Facts) -> Found:
    """Roles that are operated on elements that cannot have the focus; parts of composite widgets may be led to."""
    for element in page.exposed_having("role"):
        node = page.node(element)
        if node is None or node.role not in _OPERATED or is_focusable(element) or "disabled" in node.states:
            continue
        if any(above.role in _COMPOSITE or above.role in ("combobox", "button") for above in node.ancestors()):
            continue
        if _is_led_to(page, element):
            continue
        if not _has_inside(element) and node.role not in ("option", "treeitem") and page.is_source:
            yield Finding(element, node.role)


@checks.add(
    "handler-without-role", "Tab stop without a role", FAILS, "4.1.2",
    means="Tab stops at it and listeners hear text, but not that it can be activated.",
    repair="Make it a button, or a link if it leads elsewhere.",
    expect="what it does, then “button”",
)  # fmt: skip
def handler_without_role(page: Facts) -> Found:
    """Handlers on texts and blocks that can have the focus and have no role of their own."""
    guessed = set(delegated(page))
    for element in _pointed_at(page):
        node = page.node(element)
        if is_focusable(element) and element.tag not in _NATIVE and "contenteditable" not in element.attributes:
            if node is None or node.role in ("generic", "paragraph", "listitem", "cell", "row", "img"):
                what = node.role if node is not None else element.tag
                is_sure = element not in guessed or page.does_something(element)
                yield Finding(element, what, None if is_sure else NEEDS_EARS)


@checks.add(
    "tabindex-positive", "Positive tabindex", NEEDS_EARS, "2.4.3",
    means="Tab reaches it before everything else, wherever it stands.",
    repair="Use tabindex=\"0\" or none, and move it to its place in the source.",
    expect="{name}, {role}, where it stands in the reading",
)  # fmt: skip
def tabindex_positive(page: Facts) -> Found:
    """HTML §6.6.3: positive values come first; they are discouraged there."""
    for element in page.exposed_having("tabindex"):
        index = tab_index(element)
        if index is not None and index > 0:
            yield Finding(element, f"tabindex {index}")


@checks.add(
    "native-not-reached", "Native control removed from the Tab order", NEEDS_EARS, "2.1.1",
    means="Listeners hear it when they read, but Tab does not reach it.",
    repair="Remove the tabindex, unless arrow keys lead to it from a Tab stop.",
    expect="{name}, {role}, at a Tab stop",
    traits=[Trait.NOT_REACHED],
)  # fmt: skip
def native_not_reached(page: Facts) -> Found:
    """Negative tabindex on links, buttons and fields outside of composite widgets."""
    for element in page.exposed_having("tabindex"):
        index = tab_index(element)
        if index is None or index >= 0 or element.tag not in ("a", "button", "input", "select", "textarea"):
            continue
        if element.tag == "a" and "href" not in element.attributes:
            continue
        node = page.node(element)
        if node is None or is_disabled(element) or any(above.role in _COMPOSITE for above in node.ancestors()):
            continue
        yield Finding(element)


@checks.add(
    "focus-in-hidden", "Tab stop in hidden content", FAILS, "4.1.2", "1.3.1",
    means="Tab stops, and listeners hear nothing.",
    repair="Remove aria-hidden, or remove the control from the Tab order.",
    expect="a name and a role at each stop",
)  # fmt: skip
def focus_in_hidden(page: Facts) -> Found:
    """WAI-ARIA 1.2 §6.6 aria-hidden: not on what can have the focus."""
    yield from (Finding(element, heard="") for element in page.tree.covered_stops)


@checks.add(
    "stop-inside-control", "Tab stop inside another control", FAILS, "4.1.2",
    means="Tab stops at it, but browsers do not expose controls inside a button or an image.",
    repair="Put the inner control beside the outer one.",
    expect="two controls beside each other, each with its name",
)  # fmt: skip
def stop_inside_control(page: Facts) -> Found:
    """Stops in roles whose children are presentational (WAI-ARIA 1.2 §5.2.9), and controls in links."""
    stops = {node.id for node in page.tree.stops}
    for node in page.tree.stops:
        outer = next((each for each in node.ancestors() if each.role in LINKS and each.id in stops), None)
        if node.is_part or (outer is not None and node.role != "generic"):
            yield Finding(node.element, node.role)


@checks.add(
    "order-parts", "Tab order differs from reading order", NEEDS_EARS, "2.4.3", "1.3.2",
    means="Tab comes to it at another point than reading does, so that focus leaps to and fro.",
    repair="Put the elements into the source in their intended order.",
    expect="stops in the order of reading",
)  # fmt: skip
def order_parts(page: Facts) -> Found:
    """The fewest stops that would have to move; those that merely follow one that was moved are not counted."""
    order = page.tab_order
    for at in sorted(order.moved):
        yield Finding(order.elements[at], f"stop {at + 1}, read as number {order.ranks[at] + 1}")


def stops_before_main(page: Facts) -> int:
    """Return how many Tab stops come before the main part; 0 if there is none."""
    main = next(iter(page.roles.get("main", ())), None)
    if main is None:
        return 0
    return sum(page.place_of(element) < main.id for element in page.tree.tab_order)


@checks.add(
    "no-way-past", "No skip link", NEEDS_EARS, "2.4.1",
    means="People who use Tab go through everything at the top again on every page.",
    repair="Begin the page with a link to the content.",
    expect="“Skip to the content, link” at the first Tab",
)  # fmt: skip
def no_way_past(page: Facts) -> Found:
    """More than ten stops before the main part, and no link past them."""
    count = stops_before_main(page)
    if count > _STOPS_BEFORE_MAIN and skip_link(page.tree) is None:
        yield Finding(page.tree.tab_order[0], f"{count} stops before the main part")


@checks.add(
    "skip-not-first", "Skip link is not the first Tab stop", NEEDS_EARS, "2.4.1", "2.4.3",
    means="People who press Tab once and hear something else do not expect a skip link any more.",
    repair="Put it first in the source.",
    expect="“Skip to the content, link” at the first Tab",
)  # fmt: skip
def skip_not_first(page: Facts) -> Found:
    """A link into the main part that comes second or third."""
    link = skip_link(page.tree)
    if link is not None and link.number > 1 and page.roles.get("main"):
        target, element = link.target, link.node.element
        main = page.roles["main"][0].element
        if target is not None and (main.contains(target) or target.contains(main)) and not main.contains(element):
            yield Finding(element)


@checks.add(
    "skip-broken", "Skip link leads nowhere", FAILS, "2.4.1",
    means="Following the link does nothing, so people go through the whole menu.",
    repair="Give the main element the id that the link names.",
    expect="after Enter: the beginning of the content",
)  # fmt: skip
def skip_broken(page: Facts) -> Found:
    """The first stop, where it is a link to a place that is not there."""
    link = skip_link(page.tree)
    if link is not None and link.number == 1 and link.target is None:
        yield Finding(link.node.element, link.node.element.attributes["href"])


@checks.add(
    "skip-never-seen", "Skip link is never visible", NEEDS_EARS, "2.4.7",
    means="Sighted people who use the keyboard do not find it, and lose sight of the focus.",
    repair="Show the link while it has the focus.",
    expect="{name}, link, and it is to be seen",
)  # fmt: skip
def skip_never_seen(page: Facts) -> Found:
    """A skip link that rules put out of sight, and no rule for focus shows."""
    link = skip_link(page.tree)
    if link is None or not page.is_source:
        return
    element = link.node.element
    around = (element, element.parent)
    hidden = any(each is not None and _is_out_of_sight(page.looks.of(each)) for each in around)
    if hidden and element not in page.looks.shown_by_focus:
        yield Finding(element)


def _is_out_of_sight(looks: Mapping[str, str]) -> bool:
    far = any(looks.get(name, "").startswith("-") and len(looks[name]) > 4 for name in ("left", "top", "text-indent"))
    clip, path = looks.get("clip", "").replace(" ", ""), looks.get("clip-path", "")
    clipped = clip.startswith(("rect(0", "rect(1px")) or "inset(" in path
    return far or clipped or looks.get("opacity") == "0"


@checks.add(
    "scroller-not-reached", "Tab does not reach the scrollable area", NEEDS_EARS, "2.1.1",
    means="In some browsers, people cannot scroll the area by keyboard.",
    repair="Give it tabindex=\"0\", a role and a name.",
    expect="the name of the part, at a Tab stop",
    traits=[Trait.NOT_REACHED],
)  # fmt: skip
def scroller_not_reached(page: Facts) -> Found:
    """overflow: auto or scroll with text, and nothing in it that can have the focus."""
    for element in _with_looks(page, ("overflow", "overflow-x", "overflow-y")):
        looks = page.looks.of(element)
        values = " ".join(looks.get(name, "") for name in ("overflow", "overflow-x", "overflow-y")).split()
        if {"auto", "scroll"} & set(values) and element.tag not in ("html", "body", "textarea", "select"):
            is_reached = is_focusable(element) and not element.state.is_scroll_stop  # other browsers do not stop at it
            if not is_reached and not _has_inside(element) and len(collapse(element.text())) > 200:
                yield Finding(element)


def _with_looks(page: Facts, names: tuple[str, ...]) -> list[Element]:
    if not page.is_source:
        return []
    found = set(page.exposed_having("style"))
    for name in names:
        found.update(each for each in page.looks.with_property(name) if page.is_exposed(each))
    return sorted(found, key=attrgetter("order"))


@checks.add(
    "hover-only", "Content shown on hover only", NEEDS_EARS, "2.1.1", "1.4.13",
    means="People without a pointer cannot reach it.",
    repair="Show it on focus as well, or by a button that has a state.",
    expect="what is shown, after Tab or after the button",
    traits=[Trait.NOT_REACHED],
)  # fmt: skip
def hover_only(page: Facts) -> Found:
    """Rules for :hover that show what is hidden, and none for focus; a cue or handler may show it in another way."""
    if not page.is_source:
        return
    only = page.looks.shown_by_pointer - page.looks.shown_by_focus
    shown_otherwise = {
        each
        for handler in page.handlers
        for change in handler.changes
        if change.deed is Deed.SHOW
        for each in change.elements
    }
    for element in sorted(only - shown_otherwise, key=attrgetter("order")):
        hidden = page.semantics.hidden(element)
        if hidden is not None and hidden.by is element and plain(element.text()):
            if hidden.why in (Hiding.NOT_DISPLAYED, Hiding.NOT_VISIBLE):
                yield Finding(element, collapse(element.text())[:60], heard="")


@checks.add(
    "access-key-twice", "Duplicate access key", NEEDS_EARS, "2.1.1", "4.1.2",
    means="Browsers differ in which of the two elements they activate.",
    repair="Give each element its own key, or none.",
    expect="one place for each access key",
)  # fmt: skip
def access_key_twice(page: Facts) -> Found:
    """HTML §6.9.2; each key once, at the second place it leads to."""
    places: dict[str, dict[str, Element]] = defaultdict(dict)
    for element in page.exposed_having("accesskey"):
        for key in element.attributes["accesskey"].lower().split()[:1]:
            places[key].setdefault(element.attributes.get("href", f" {element.order}"), element)
    for key, elements in places.items():
        if len(elements) > 1:
            yield Finding(list(elements.values())[1], f"key {key} leads to {len(elements)} places")


@checks.add(
    "stops-many-in-group", "Many Tab stops in one widget", NEEDS_EARS, "2.1.1", "2.4.3",
    means="Tab stops at each part, where people expect one stop and the arrow keys.",
    repair="Let Tab reach one part and the arrow keys the others (roving tabindex).",
    expect="one stop for the whole {role}",
)  # fmt: skip
def stops_many_in_group(page: Facts) -> Found:
    """Composite widgets (WAI-ARIA 1.2 §5.3.2) by role; native radios have one stop by themselves."""
    counts: dict[int, int] = defaultdict(int)
    for stop in page.tree.stops:
        for above in stop.ancestors():
            if above.role in _COMPOSITE:
                counts[above.id] += control_type(stop.element) != "radio"
    for identifier, count in sorted(counts.items()):
        if count >= _STOPS_IN_GROUP:
            yield Finding(page.tree.nodes[identifier].element, f"{count} stops")


@checks.add(
    "widget-without-keys", "Control reacts to clicks only", NEEDS_EARS, "2.1.1",
    means="Tab reaches it, but Enter or Space may do nothing.",
    repair="Use a native button or link, or handle its keys as well.",
    expect="after Enter or Space: what a click does",
)  # fmt: skip
def widget_without_keys(page: Facts) -> Found:
    """Where handlers show it: one for clicks and none for keys, on what is no native control."""
    for element in _pointed_at(page):
        node = page.node(element)
        if element.tag in _NATIVE or node is None or node.role not in _OPERATED or not is_focusable(element):
            continue
        if not _takes_keys(page, element):
            yield Finding(element, node.role)


@checks.add(
    "focus-comes-back", "Focus comes back by itself", FAILS, "2.1.2", "3.2.1",
    means="Tab leads away, and the page puts the focus back: nobody gets past it by keyboard.",
    repair="Leave the focus where the listener puts it; tell of errors in a message.",
    expect="after Tab: the next stop",
)  # fmt: skip
def focus_comes_back(page: Facts) -> Found:
    """A handler for the loss of focus that gives it back, on what Tab stops at; and two stops that send it round."""
    stops = page.tree.stop_numbers
    for element in page.having.get("onblur", ()):
        if element in stops and _GIVES_FOCUS.search(element.attributes["onblur"]):
            yield Finding(element, "onblur")
    order = page.tree.tab_order
    for handler in page.handlers:
        if handler.when not in (Event.LEAVE, Event.FOCUS):
            continue
        targets = {each for change in handler.changes if change.deed is Deed.FOCUS for each in change.elements[:1]}
        for element in handler.elements:
            number = stops.get(element)
            if number is None:
                continue
            comes_from = order[number - 2] if number > 1 else None
            back = element in targets if handler.when is Event.LEAVE else comes_from in targets
            if back:
                yield Finding(element, f"on {handler.when.value}")


@checks.add(
    "tab-key-taken", "Tab may not lead away", NEEDS_EARS, "2.1.2",
    means="A handler takes the Tab key for itself; the focus may be caught there.",
    repair="Let Tab do what it always does; use other keys inside a widget.",
    expect="after Tab: the next stop",
)  # fmt: skip
def tab_key_taken(page: Facts) -> Found:
    """An inline handler of keys that names Tab and stops it; in a dialog it may have to keep the focus in."""
    for element in page.having.get("onkeydown", ()):
        code = element.attributes["onkeydown"]
        if _TAB_KEY.search(code) and _STOPS_KEY.search(code):
            around = (page.semantics.role(each) for each in (element, *element.ancestors()))
            if not any(role in ("dialog", "alertdialog") for role in around):
                yield Finding(element)
