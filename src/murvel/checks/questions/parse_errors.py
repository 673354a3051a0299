"""What the HTML parser has to mend in a page's markup, with its place (HTML §13.2.2, Parse errors).

The page itself is parsed by another library, which is fast and reports no errors; this one is asked for them alone.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections import Counter
from operator import itemgetter
from typing import NamedTuple

from murvel.checks.questions.tidiness import is_tidy
from murvel.dom.document import Document, Element
from murvel.patterns import pattern

_LONGEST = 1_500_000
"""Of longer pages, in characters, errors are not looked for."""

_FORMATTING = pattern(r"<(a|b|big|code|em|font|i|nobr|s|small|strike|strong|tt|u)\b", re.IGNORECASE)
_FORMATTING_END = pattern(r"</(a|b|big|code|em|font|i|nobr|s|small|strike|strong|tt|u)\b", re.IGNORECASE)
_MOST_OPEN = 100
"""Formatting tags that may be left open (HTML §13.2.4.3, the list of active formatting elements)."""

_MOST = 2000
"""The most errors of a page that are kept."""


class ParseError(NamedTuple):
    """Something that had to be mended.

    Attributes:
        name: the standard's name of the error; where the standard has none, what happened in its words.
        kind: what came of it, a key of `KINDS`.
        line, column: where the parser noticed it, both counted from 1.
        tag: the tag it is about, empty if it is about none.
        near: the element whose start tag stands last before it.
    """

    name: str
    kind: str
    line: int
    column: int
    tag: str
    near: Element


NOT_OPEN = "an end tag of an element that is not open"

KINDS: dict[str, tuple[str, str]] = {
    "duplicate-attribute": ("twice", "duplicate-attribute"),
    "non-void-element-with-trailing-solidus": ("open", "non-void-html-element-start-tag-with-trailing-solidus"),
    "expected-closing-tag-but-got-eof": ("open", "elements are open at the end of the file"),
    "end-tag-too-early": ("stray", "an end tag while other elements are open"),
    "end-tag-too-early-named": ("stray", "an end tag while other elements are open"),
    "unexpected-end-tag": ("stray", NOT_OPEN),
    "unexpected-end-tag-treated-as": ("stray", NOT_OPEN),
    "unexpected-start-tag-implies-end-tag": ("broken", "an element of its kind is open already and is closed"),
    "unexpected-start-tag": ("broken", "a start tag that is passed over where it stands"),
    "unexpected-start-tag-ignored": ("broken", "a start tag that is passed over where it stands"),
    "unexpected-start-tag-implies-table-voodoo": ("moved", "foster parenting: it is put before the table"),
    "unexpected-char-implies-table-voodoo": ("moved", "foster parenting: it is put before the table"),
    "unexpected-form-in-table": ("moved", "a form in a table, which holds nothing"),
    "adoption-agency-1.1": ("stray", NOT_OPEN),
    "adoption-agency-1.2": ("broken", "the adoption agency: elements overlap, and are taken apart"),
    "adoption-agency-1.3": ("broken", "the adoption agency: elements overlap, and are taken apart"),
    "unexpected-end-tag-implies-table-voodoo": ("moved", "foster parenting: it is put before the table"),
}
"""For each code of the parser: what came of it, and the standard's name or words. Other errors change nothing."""


def _leaves_much_open(text: str) -> bool:
    """Whether formatting that is left open makes a parser create many more elements than were written."""
    starts = Counter(found.group(1).lower() for found in _FORMATTING.finditer(text))
    ends = Counter(found.group(1).lower() for found in _FORMATTING_END.finditer(text))
    return sum((starts - ends).values()) > _MOST_OPEN


def parse_errors(document: Document) -> list[ParseError]:
    """Return what had to be mended in the markup of a page, in order, as far as it may change what is heard."""
    text = document.source.text
    if len(text) > _LONGEST or _leaves_much_open(text) or is_tidy(text):
        return []
    nodes = (node for node in (document.root, *document.root.descendants()) if isinstance(node, Element))
    starts = [(place, node) for node in nodes if (place := document.position_in_source(node)) is not None]
    starts.sort(key=itemgetter(0))
    places = [position for position, _ in starts]
    import html5lib
    from html5lib.treebuilders import getTreeBuilder

    parser = html5lib.HTMLParser(tree=getTreeBuilder("etree"))
    parser.parse(text)
    found: list[ParseError] = []
    for (line, column), code, about in parser.errors:
        if code in KINDS and len(found) < _MOST:
            kind, name = KINDS[code]
            at = bisect_right(places, (line, column)) - 1
            near = starts[at][1] if at >= 0 else document.root
            tag = str(about.get("name") or about.get("startName") or "")
            found.append(ParseError(name, kind, line, column + 1, tag, near))
    return found
