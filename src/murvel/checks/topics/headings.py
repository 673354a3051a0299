"""Headings: the page's outline as it is jumped through (HTML §4.3.11; WCAG 2.2 1.3.1, 2.4.6)."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice, pairwise

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic, Trait
from murvel.checks.engine.facts import Facts, unnamed
from murvel.checks.questions.sight import first_text
from murvel.checks.tables.vocabulary import MESSAGE_LABELS
from murvel.dom.document import Element, Text
from murvel.text import collapse
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import DIALOGS

checks = Checks(Topic.HEADINGS)

_MUCH = 40
"""Items of a page, or of a part, from which on headings are missed."""

_LONG = 120
_SHORT = 80
_FEW = 160
"""Characters that may stand between a heading and what it announces."""

_CLOSED_AT_TIMES = DIALOGS | {"tabpanel"}
_TAGS = ("h1", "h2", "h3", "h4", "h5", "h6")
_SAID_OTHERWISE = frozenset({*_TAGS, "a", "label", "li", "td", "th", "button", "summary", "legend", "figcaption"})
_BLOCKS = ("p", "div", "span", "b", "strong", "font")
_INLINE = frozenset("b big em font i span strong u".split())
_STRUCTURES = frozenset("canvas dl form input ol select svg table textarea ul".split())
_TITLED = frozenset({"button", "heading", "link", "menuitem", "option", "status", "alert", "tab"})
_HOPS = 3
"""A title may end a header of its own; the search leaves at most this many elements around it."""

_DEEPEST_TEXT, _ICON = 10, 200
"""How deep in inline elements a title is looked for, and the most nodes of an icon."""

_LARGER = 1.15
"""The factor of size by which a text stands out from the text around it."""


def _level(node: Node) -> int:
    level = node.states.get("level")
    return level if isinstance(level, int) else 2


@checks.add(
    "headings-none", "No headings", NEEDS_EARS, "1.3.1", "2.4.1",
    means="Listeners cannot jump through the page or get an overview of it.",
    repair="Mark up the visible titles as headings.",
    expect="on arrival: how many headings there are",
)  # fmt: skip
def headings_none(page: Facts) -> Found:
    """Only where there is enough to read that headings would help."""
    if not page.headings and len(page.readout.items) >= _MUCH:
        yield Finding(page.root, f"{len(page.readout.items)} items to read")


@checks.add(
    "level-1-missing", "No heading of level 1", NEEDS_EARS, "1.3.1", "2.4.6",
    means="Listeners who jump to level 1 to find the content find nothing.",
    repair="Make the title of the content a heading of level 1.",
    expect="the title, then “heading level 1”",
)  # fmt: skip
def level_1_missing(page: Facts) -> Found:
    """Where there are headings at all."""
    if page.headings and all(_level(node) != 1 for node in page.headings):
        yield Finding(page.headings[0].element)


@checks.add(
    "level-1-several", "Several headings of level 1", NEEDS_EARS, "1.3.1", "2.4.6",
    means="Listeners cannot tell which of them names the content.",
    repair="Keep level 1 for the title of the content.",
    expect="one title with “heading level 1”",
)  # fmt: skip
def level_1_several(page: Facts) -> Found:
    """From the second one on; articles in a feed of them may each have one."""
    first = [node for node in page.headings if _level(node) == 1]
    for node in first[1:]:
        if not any(above.role == "article" for above in node.ancestors()):
            yield Finding(node.element)


@checks.add(
    "heading-first-not-1", "First heading is not of level 1", NEEDS_EARS, "1.3.1",
    means="The outline begins below level 1, and listeners look for the heading above it.",
    repair="Begin with the title at level 1, or remove the heading markup before it.",
    expect="“heading level 1” at the first jump",
)  # fmt: skip
def heading_first_not_1(page: Facts) -> Found:
    """Where a heading of level 1 comes later."""
    if page.headings and _level(page.headings[0]) > 1 and any(_level(node) == 1 for node in page.headings):
        yield Finding(page.headings[0].element, f"level {_level(page.headings[0])} before level 1")


@checks.add(
    "heading-level-skipped", "Heading level skipped", NEEDS_EARS, "1.3.1",
    means="Listeners think they missed a heading and go back to look for it.",
    repair="Use the next level below the heading it belongs to.",
    expect="the heading, one level below the one before",
)  # fmt: skip
def heading_level_skipped(page: Facts) -> Found:
    """Downwards only: coming back up by several levels ends several parts."""
    for before, node in pairwise(page.headings):
        if _level(node) > _level(before) + 1:
            yield Finding(node.element, f"level {_level(node)} after level {_level(before)}")


@checks.add(
    "heading-empty", "Empty heading", FAILS, "1.3.1", "2.4.6",
    means="Listeners who jump to it hear a level but no text.",
    repair="Give it text, or remove the element.",
    expect="its text, then “{role}”",
)  # fmt: skip
def heading_empty(page: Facts) -> Found:
    """Headings without a name."""
    return (Finding(node.element) for node in unnamed(page.headings))


@checks.add(
    "heading-hidden", "Visible heading is not exposed", NEEDS_EARS, "1.3.1",
    means="Listeners cannot jump to the section it begins.",
    repair="Remove aria-hidden or the role from the heading.",
    expect="its text, then “heading” with its level",
)  # fmt: skip
def heading_hidden(page: Facts) -> Found:
    """Headings that are taken from the tree though they are rendered."""
    for tag in _TAGS:
        for element in page.tags.get(tag, ()):
            hidden = page.semantics.hidden(element)
            if hidden is not None and hidden.why.value == "aria-hidden" and collapse(element.text()):
                if page.styles.of(element).visibility == "visible" and not _is_put_away(page, element):
                    yield Finding(element, collapse(element.text())[:60], heard="")
            elif hidden is None and "role" in element.attributes and page.words(element):
                role = page.semantics.role(element)
                if role in (None, "none", "generic", "paragraph"):
                    yield Finding(element, f'role="{element.attributes["role"]}"')


def _is_put_away(page: Facts, element: Element) -> bool:
    """Whether an element stands in a dialog or panel, which aria-hidden keeps from listeners while it is closed."""
    return any(page.semantics.role(above) in _CLOSED_AT_TIMES for above in element.ancestors())


@checks.add(
    "heading-look-alike", "Text that looks like a heading", NEEDS_EARS, "1.3.1",
    means="People who see the page find the section at once; listeners cannot jump to it.",
    repair="Use a heading element of the matching level.",
    expect="its text, then “heading” with its level",
    traits=[Trait.LOOK_ALIKE],
)  # fmt: skip
def heading_look_alike(page: Facts) -> Found:
    """A block that is one short text, set in bolder or larger type than the content that comes next."""
    for element in page.elements(*_BLOCKS):
        text = _only_text(element)
        if (
            not text
            or len(text) > _SHORT
            or text[-1] in ".,;!"
            or MESSAGE_LABELS.match(text)
            or page.styles.of(element).is_inline
        ):
            continue
        if any(above.tag in _SAID_OTHERWISE or page.semantics.role(above) in _TITLED for above in element.ancestors()):
            continue
        content = _content_after(page, element)
        if content is not None and _stands_out(page, element, content):
            yield Finding(element, text)


def _only_text(element: Element) -> str:
    """The text of a block that holds nothing else than text in one piece, beside icons."""
    if element.tag in _SAID_OTHERWISE:
        return ""
    around = element
    for _ in range(_DEEPEST_TEXT):
        parts = [child for child in around.children if not _is_icon(child)]
        if len(parts) != 1:
            return ""
        only = parts[0]
        if isinstance(only, Text):
            text = collapse(only.data)
            return text if sum(character.isalpha() for character in text) * 2 > len(text) else ""
        if only.tag not in _INLINE or only.attributes.keys() & {"role", "onclick", "tabindex"}:
            return ""
        around = only
    return ""


def _is_icon(child: Element | Text) -> bool:
    """Whether a child says nothing: white space, or an element without any text."""
    if isinstance(child, Text):
        return not child.data.strip()
    if child.tag not in ("i", "span", "svg", "em"):
        return False
    inside = list(islice(child.descendants(), _ICON + 1))
    return len(inside) <= _ICON and not any(isinstance(node, Text) and node.data.strip() for node in inside)


def _content_after(page: Facts, element: Element) -> Element | None:
    """What comes next, behind a block or behind what it ends: more text, or a list, table, form or drawing."""
    around = element
    for _ in range(_HOPS):
        after = page.next_element(around)
        if after is not None:
            if not page.is_exposed(after) or after.tag in _TAGS:
                return None
            has_more = len(collapse(after.text())) > _SHORT or after.tag in _STRUCTURES
            return after if has_more or any(inner.tag in _STRUCTURES for inner in _some_inside(after)) else None
        if around.parent is None or around.parent.tag in ("body", "main", "li", "td"):
            return None
        around = around.parent
    return None


def _some_inside(element: Element) -> Iterator[Element]:
    """The first elements inside one: structures that a title announces stand near its beginning."""
    return islice((node for node in element.descendants() if isinstance(node, Element)), 30)


def _stands_out(page: Facts, element: Element, content: Element) -> bool:
    """Whether a text is bolder or clearly larger than the text of the content after it."""
    inner = first_text(element) or element
    font = page.sight.font(inner)
    other = page.sight.font(first_text(content) or content)
    return (font.is_bold and not other.is_bold) or font.size >= _LARGER * other.size


@checks.add(
    "heading-over-nothing", "Heading without content", NEEDS_EARS, "1.3.1", "2.4.6",
    means="Listeners who jump to it find no content that belongs to it.",
    repair="Put the content under it, or remove the heading markup.",
    expect="the heading, and then its content",
)  # fmt: skip
def heading_over_nothing(page: Facts) -> Found:
    """A heading that follows another without content between and is not below it, and an empty last one."""
    for before, node in pairwise(page.headings):
        if _level(node) <= _level(before) and not _has_content(page, before.end, node.id):
            yield Finding(before.element, f"next comes “{node.name.strip()[:60]}”")


def _has_content(page: Facts, start: int, end: int) -> bool:
    return any(
        (node.is_text and node.name.strip()) or (not node.is_text and page.readout.first_object(node) is not None)
        for node in page.tree.nodes[start:end]
    )


@checks.add(
    "heading-long", "Heading as long as a paragraph", NEEDS_EARS, "2.4.6",
    means="Jumping from heading to heading takes as long as reading.",
    repair="Say in a few words what the section is about, and put the rest under it.",
    expect="a few words, then “{role}”",
)  # fmt: skip
def heading_long(page: Facts) -> Found:
    """Headings of more than 120 characters."""
    return (Finding(node.element, f"{len(node.name)} characters") for node in page.headings if len(node.name) > _LONG)


@checks.add(
    "part-without-heading", "Section without a heading", NEEDS_EARS, "1.3.1", "2.4.6", "2.4.10",
    means="Listeners do not hear where the section begins and cannot jump to it.",
    repair="Begin the section with a heading, or name it.",
    expect="what the part is about, where it begins",
)  # fmt: skip
def part_without_heading(page: Facts) -> Found:
    """Sections, articles, dialogs and forms with much in them."""
    for element in page.elements("section", "article", "form"):
        node = page.node(element)
        if node is not None and node.name.strip():
            continue
        if page.headings_in(element):
            continue
        if _is_much(page, element) and not _heading_just_before(page, element):
            yield Finding(element, element.tag)
    for node in page.nodes(sorted(DIALOGS)):
        if not node.name.strip() and not page.within(node, page.headings) and page.text_within(node):
            yield Finding(node.element, node.role)


def _is_much(page: Facts, element: Element) -> bool:
    if element.tag == "form":
        return len(page.fields_in(element)) >= 3
    return len(collapse(element.text())) > 300


def _length_behind(heading: Element, around: Element) -> int:
    """How many characters stand behind a heading in an element around it."""
    texts = (node for node in around.descendants() if isinstance(node, Text) and node.order >= heading.end)
    return sum(len(text.data.strip()) for text in texts)


def _heading_just_before(page: Facts, element: Element) -> bool:
    """Whether a heading stands before a part, with no more than a few words between."""
    between = 0
    for around in (element, *element.ancestors()):
        for before in page.siblings(around, -1):
            if isinstance(before, Text):
                between += len(before.data.strip())
            elif headings := page.headings_in(before):
                return between + _length_behind(headings[-1].element, before) <= _FEW
            elif page.is_exposed(before):
                between += len(collapse(before.text()))
            if between > _FEW:
                return False
    return False
