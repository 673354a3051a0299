"""Source that the parser takes long for, written so that it does not; the elements that come of it are the same.

Two things cost Lexbor the square of a page's size. It looks through all that is open for many a start tag; elements
deeper than a browser keeps them (`murvel.dom.elements.MAX_DEPTH`) are closed early, where they would become siblings
anyway. And it settles which option of a select is chosen again with each that comes; a select of several options is
left alone.
"""

from __future__ import annotations

import re
from collections import defaultdict

from selectolax.lexbor import LexborHTMLParser

from murvel.dom.markup import Tag, tags
from murvel.patterns import pattern

_DEEP = 1_000
"""Where more elements than this are open, those inside are closed early. A browser keeps half as many in each other."""

_LONG = 500
"""A list with more options is written as one of which several may be chosen, until it is parsed."""

_SINGLE = "data-murvel-single"
"""What marks such a list; no element of a Document has it."""

_QUICK = pattern(r"<(/?)([a-zA-Z][^\t\n\f\r />]*)")

_IN_SELECT = pattern(r"<(?:option|/?(select))\b", re.IGNORECASE)
"""An option, or what ends a list of them."""

_NEVER_OPEN = frozenset(
    "area base br col embed hr img input link meta param source track wbr "  # void (HTML §13.1.2)
    "html head body p li dt dd option optgroup tr td th thead tbody tfoot rp rt colgroup caption".split()
)
"""Elements that are void, or that the next of their kind closes: none of them makes a page deep by itself."""

_FOREIGN = frozenset({"svg", "math"})


def cheap_to_parse(source: str) -> str:
    """Return a source from which the parser makes the same elements, in a time that grows as the source does."""
    has_long_list = source.count("<option") + source.count("<OPTION") > _LONG
    if not has_long_list and not _may_be_deep(source):
        return source
    return _rewritten(source)


def leave_as_written(parser: LexborHTMLParser) -> None:
    """Take back what `cheap_to_parse` wrote into elements."""
    for node in parser.css(f"[{_SINGLE}]"):
        del node.attrs["multiple"]
        del node.attrs[_SINGLE]


def _may_be_deep(source: str) -> bool:
    """Whether the limit of open elements may be passed; True where that is not certain."""
    if source.count("<") <= _DEEP:
        return False
    depth = deepest = 0
    for slash, name in _QUICK.findall(source):
        if name in _NEVER_OPEN:
            continue
        depth += -1 if slash else 1
        if depth < 0:
            depth = 0
        elif depth > deepest:
            deepest = depth
    return deepest > _DEEP


def _rewritten(source: str) -> str:
    pieces: list[str] = []
    taken = 0
    nesting = _Nesting()
    for tag in tags(source):
        before, is_dropped = nesting.meets(tag, source)
        if before:
            pieces += (source[taken : tag.start], before)
            taken = tag.start
        if is_dropped:
            pieces.append(source[taken : tag.start])
            taken = tag.end
        elif tag.name == "select" and not tag.is_end_tag and _is_long(source, tag):
            pieces += (source[taken : tag.name_end], f' multiple {_SINGLE}="" ')
            taken = tag.name_end
    pieces.append(source[taken:])
    return "".join(pieces)


def _is_long(source: str, tag: Tag) -> bool:
    """Whether a select has very many options and may have one chosen."""
    if re.search(r"[\s\"'/]multiple\b", source[tag.name_end : tag.end], re.IGNORECASE):
        return False
    for number, found in enumerate(_IN_SELECT.finditer(source, tag.end)):
        if number == _LONG:
            return True
        if found.group(1):
            return False
    return False


class _Nesting:
    """The elements that are open, as far as their tags tell, and which of them were closed early."""

    def __init__(self) -> None:
        self._open: list[tuple[str, bool]] = []
        self._places: dict[str, list[int]] = defaultdict(list)
        self._foreign = 0

    def meets(self, tag: Tag, source: str) -> tuple[str, bool]:
        """Note a tag; return what is written before it, and whether it is left out itself."""
        if tag.name in _NEVER_OPEN:
            return "", False
        if not tag.is_end_tag:
            if self._foreign and source[tag.end - 2 : tag.end] == "/>":
                return "", False
            return self._opens(tag.name), False
        return "", self._closes(tag.name)

    def _opens(self, name: str) -> str:
        before = ""
        if len(self._open) > _DEEP and not self._open[-1][1]:
            last = self._open[-1][0]
            self._open[-1] = (last, True)
            before = f"</{last}>"
        self._places[name].append(len(self._open))
        self._open.append((name, False))
        self._foreign += name in _FOREIGN
        return before

    def _closes(self, name: str) -> bool:
        places = self._places[name]
        if not places:
            return False
        place = places[-1]
        was_closed = self._open[place][1]
        for each, _ in reversed(self._open[place:]):
            self._places[each].pop()
            self._foreign -= each in _FOREIGN
        del self._open[place:]
        return was_closed
