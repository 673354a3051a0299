"""Markup: what the parser had to mend, where that changes what is heard (HTML §13.2)."""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter
from operator import attrgetter

from murvel.checks.engine.check import NEEDS_EARS, Checks, Finding, Found, Topic
from murvel.checks.engine.facts import Facts
from murvel.checks.questions.parse_errors import NOT_OPEN, ParseError
from murvel.dom.document import Element
from murvel.dom.markup import START_TAG
from murvel.patterns import pattern

checks = Checks(Topic.MARKUP)

_TOLD = frozenset("id alt title role href for name type lang tabindex headers scope hidden".split())
"""Attributes that decide what is heard, beside those of ARIA."""

_ATTRIBUTE = pattern(r"\s([a-zA-Z_:][\w:.-]*)(?:\s*=\s*(?:\"[^\"]*\"|'[^']*'|[^\s>]*))?")
_SEMANTIC = frozenset(
    "a address article aside audio blockquote button canvas caption dd details dialog dl dt fieldset figure footer "
    "form h1 h2 h3 h4 h5 h6 header label legend li main nav ol option section select summary table td th tr ul "
    "video".split()
)
"""Elements that say what they are; where a div or span is left open, less is lost."""

_ENCLOSING = frozenset("article aside div dl fieldset footer form header main nav ol section table ul".split())
"""Elements that enclose parts of a page."""


def _place(error: ParseError) -> str:
    return f"{error.name}, line {error.line}, column {error.column}"


@checks.add(
    "attribute-twice", "Attribute stands twice", NEEDS_EARS, "4.1.2",
    means="The second one counts for nothing: what it says is never heard.",
    repair="Keep one of them.",
    expect="what the attribute that was meant says",
)  # fmt: skip
def attribute_twice(page: Facts) -> Found:
    """HTML §13.2.2, duplicate-attribute, for attributes that decide what is heard."""
    looked_at = set[Element]()
    for error in page.parse_errors:
        if error.kind != "twice" or error.near in looked_at:
            continue
        looked_at.add(error.near)
        names = Counter(name.lower() for name in _ATTRIBUTE.findall(_tag_of(page, error.near)))
        twice = [name for name, times in names.items() if times > 1 and (name in _TOLD or name.startswith("aria-"))]
        if twice:
            yield Finding(error.near, f"{', '.join(twice)}; {_place(error)}")


def _tag_of(page: Facts, element: Element) -> str:
    found = START_TAG.match(page.document.source.text, page.document.start_of(element) or 0)
    return found.group() if found is not None else ""


@checks.add(
    "element-left-open", "Element is left open", NEEDS_EARS, "1.3.1", "4.1.2",
    means="All that follows belongs to it: it is heard as a part of the link, heading or list.",
    repair="Close it where it ends.",
    expect="its content, and then what follows",
)  # fmt: skip
def element_left_open(page: Facts) -> Found:
    """Elements that say what they are, left open or closed like a void one: "<a .../>" opens a link."""
    for error in page.parse_errors:
        if error.kind != "open" or _is_anchor(error.near):
            continue
        if error.tag in _SEMANTIC or (not error.tag and error.near.tag in _SEMANTIC):
            yield Finding(error.near, f"{error.tag or error.near.tag}: {_place(error)}")


@checks.add(
    "nesting-broken", "Nesting was broken up", NEEDS_EARS, "1.3.1", "4.1.2",
    means="The parser ends the outer element there: what was meant as one thing is heard as two, or not at all.",
    repair="Put the inner element beside the outer one, or close them in the order they were opened.",
    expect="one thing, with its whole name",
)  # fmt: skip
def nesting_broken(page: Facts) -> Found:
    """Links in links, buttons in buttons, forms in forms, elements that overlap; emphasis alone says nothing."""
    for error in page.parse_errors:
        if (
            error.kind != "broken"
            or error.tag not in _SEMANTIC - {"p"}
            or (error.tag == "a" and _is_anchor(_opened_before(page, error.near)))
        ):
            continue
        yield Finding(error.near, f"{error.tag}: {_place(error)}")


def _is_anchor(element: Element | None) -> bool:
    """Whether an element is a place to link to: left open, it says nothing of what follows."""
    return element is None or (element.tag == "a" and "href" not in element.attributes)


def _opened_before(page: Facts, element: Element) -> Element | None:
    """The last a element that begins before another."""
    links = page.tags.get("a", [])
    at = bisect_left(links, element.order, key=attrgetter("order"))
    return links[at - 1] if at else None


@checks.add(
    "moved-out-of-table", "Content was moved out of a table", NEEDS_EARS, "1.3.1", "1.3.2",
    means="It is heard before the table, and not where it was written.",
    repair="Put it into a cell, or before the table.",
    expect="the content in its cell",
)  # fmt: skip
def moved_out_of_table(page: Facts) -> Found:
    """Foster parenting (HTML §13.2.6.1); one for each table."""
    seen: set[Element] = set()
    for error in page.parse_errors:
        table = next((each for each in (error.near, *error.near.ancestors()) if each.tag == "table"), error.near)
        if error.kind == "moved" and table not in seen:
            seen.add(table)
            yield Finding(error.near, _place(error))


@checks.add(
    "end-tag-stray", "End tags that fit nothing open", NEEDS_EARS, "1.3.1",
    means="A landmark, heading or list ends earlier or later than was meant; what follows is heard in another place.",
    repair="Close elements in the order they were opened, each once.",
    expect="each part of the page inside its landmark",
)  # fmt: skip
def end_tag_stray(page: Facts) -> Found:
    """End tags of containers that are not open, or that are not the innermost; said once, with how many there are."""
    stray = [error for error in page.parse_errors if error.kind == "stray" and error.tag in _ENCLOSING]
    if any(error.kind == "open" and _is_anchor(error.near) for error in page.parse_errors):
        stray = [error for error in stray if error.name == NOT_OPEN]  # what else is open may be a place to link to
    if stray:
        yield Finding(stray[0].near, f"{len(stray)}, the first: {stray[0].tag}, {_place(stray[0])}")
