"""From which start tag each element came.

Parsers do not tell. Where a page is well formed, the elements in document order are its start tags in order, with
those that the parser implies between them. Anywhere else tags are ignored, repeated or moved, and no scan of the source
knows it: there each tag gets an attribute with its own place, and a second parse carries it to the element that the
tag makes. Elements that no tag made have no place: a place is exact or absent.
"""

from __future__ import annotations

import re
from collections.abc import Sequence, Set

from murvel.dom.document import Element
from murvel.dom.elements import Builder, parsed
from murvel.dom.markup import start_tags
from murvel.patterns import pattern

Part = tuple[Element, Sequence[Element]]
"""What one parse made: its root, which is the html element or a template, and its elements in document order."""

_IMPLIED = frozenset({"html", "head", "body", "colgroup", "tbody", "tr"})
"""The elements that a parser makes without a tag where a page is well formed (HTML §13.1.2.4, optional tags)."""

_SELECT_WITH_MORE = pattern(r"<select[^a-z](?:[^<]++|</?(?:optgroup|option|hr)[^a-z])*+<(?!/select)", re.IGNORECASE)
"""A select with tags in it that a parser may ignore (HTML §13.2.6.4.16). An ignored tag beside an element of its name
that no tag made, such as a paragraph of `</p>`, would look like a tag and its element."""

_NO_TEXT = pattern(r"(?:[\t\n\f\r ]|<!--[\s\S]*?--!?>|<[!?/a-zA-Z][^>]*>)*+")
"""Tags and comments. Text makes a head and a body, and a tag of a head that follows is ignored (HTML §13.2.6.4.3)."""


def starts_of(source: str, parts: Sequence[Part], unmarked: Set[str]) -> dict[Element, int]:
    """Return where the start tags of elements begin, in characters.

    Args:
        source: the page's source as it was parsed.
        parts: what it made: the page, and its declared shadow trees after the parts that they stand in.
        unmarked: the names of tags that nothing may be written into, as it would change what they make.
    """
    if len(parts) == 1 and _SELECT_WITH_MORE.search(source) is None:
        found = _in_order(source, parts[0][1])
        if found is not None:
            return found
    return _carried(source, parts, unmarked)


def _in_order(source: str, elements: Sequence[Element]) -> dict[Element, int] | None:
    """Return the places where each tag made an element and in their order; None where it is otherwise.

    An element that is moved comes before a tag of another name, as only other elements are put before tables. One
    that is repeated has no tag, and the tags do not suffice.
    """
    found: dict[Element, int] = {}
    tags = start_tags(source)
    tag = next(tags, None)
    for element in elements:
        if tag is not None and tag.name == element.tag.lower():
            if tag.name == "template":
                return None  # what is in it makes no elements of the page, or is ignored
            if tag.name == "head" and _NO_TEXT.fullmatch(source, 0, tag.start) is None:
                return None
            found[element] = tag.start
            tag = next(tags, None)
        elif element.tag not in _IMPLIED:
            return None
    return found if tag is None else None


def _carried(source: str, parts: Sequence[Part], unmarked: Set[str]) -> dict[Element, int]:
    """Return the places that attributes carry through another parse."""
    attribute = "data-at"
    while attribute in source:
        attribute += "x"
    found: dict[Element, int] = {}
    page = parts[0][0]
    markup = {page: _marked(source, attribute, unmarked)}
    for root, elements in parts:
        if root not in markup:
            continue
        builder = Builder()
        if root is page:
            builder.page(parsed(markup[root]))
        else:
            builder.shadow(Element(root.tag, root.namespace, {}, None, 0), markup[root])
        made = builder.by_memory.values()
        if [each.tag for each in made] != [each.tag for each in elements]:
            continue  # the scan took something else for a tag: the places are given up
        originals = dict(zip(made, elements, strict=True))
        for each, original in originals.items():
            mark = each.get(attribute)
            if mark is not None:
                found[original] = int(mark)
        markup.update((originals[template], content) for template, content in builder.declared)
    return found


def _marked(source: str, attribute: str, unmarked: Set[str]) -> str:
    """Return a source with the place of each start tag written into it as an attribute."""
    pieces: list[str] = []
    copied = 0
    for tag in start_tags(source):
        if tag.name not in unmarked:
            pieces += (source[copied : tag.name_end], f' {attribute}="{tag.start}"')
            copied = tag.name_end
    return "".join((*pieces, source[copied:]))
