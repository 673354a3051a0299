"""Whether markup is plainly tidy, so that a parser has nothing to mend in it: found out in one quick pass.

Markup that is not plainly tidy may have nothing wrong with it; the parser that reports errors is asked then.
"""

from __future__ import annotations

import re

from murvel.patterns import pattern

_TAG = pattern(
    r"<!--.*?-->|<!\[CDATA\[.*?\]\]>"
    r"|<(script|style|textarea|title|iframe|noscript|xmp)\b(?P<raw>[^>]*)>.*?</\1\s*>"
    r"|<(?P<end>/?)(?P<name>[a-zA-Z][^\s/>]*)(?P<rest>(?:[^>\"']++|\"[^\"]*\"|'[^']*')*+)>",
    re.DOTALL | re.IGNORECASE,
)
_NAMES = pattern(r"\s([^\s=\"'/>]+)(?:\s*=\s*(?:\"[^\"]*\"|'[^']*'|[^\s>\"']*))?")
_VOID = frozenset("area base br col embed hr img input link meta param source track wbr".split())
_MAY_BE_OPEN = frozenset("body colgroup dd dt head html li optgroup option p rp rt tbody td tfoot th thead tr".split())
_ENDS_OTHERS = frozenset(
    "address article aside blockquote body button colgroup dd details dialog div dl dt fieldset figcaption figure "
    "footer form head header hgroup html li main menu nav ol optgroup ruby search section select table tbody td tfoot "
    "th thead tr ul".split()
)
"""Elements whose end tags end what may be left open in them (HTML §13.2.6.4.7)."""

_OPEN_AT_THE_END = frozenset({"optgroup", "option", "rp", "rt"})
"""What may be left open, but not by the end of the file, in the eyes of the parser that is asked."""

_FOREIGN = frozenset({"svg", "math"})
_NOT_IN_ITSELF = frozenset({"a", "button", "form"})
_PARTS_OF_TABLES = frozenset("caption col colgroup tbody td template tfoot th thead tr".split())
_AROUND_CELLS = frozenset({"table", "tbody", "tfoot", "thead", "tr"})


def is_tidy(text: str) -> bool:
    """Return whether every element of markup is closed in its turn, and none has an attribute twice."""
    open_: list[str] = []
    foreign = 0  # how many of those are open
    for found in _TAG.finditer(text):
        name, is_end, rest, raw = found.group("name", "end", "rest", "raw")
        if name is None:
            if raw and _is_twice(raw):
                return False
            continue
        name = name.lower()
        if is_end:
            while name in _ENDS_OTHERS and open_ and open_[-1] != name and open_[-1] in _MAY_BE_OPEN:
                open_.pop()
            if not open_ or open_.pop() != name:
                return False
            foreign -= name in _FOREIGN
            continue
        if rest and _is_twice(rest):
            return False
        if name in _VOID and not foreign:
            continue
        if rest.endswith("/"):
            if not foreign and name not in _FOREIGN:
                return False
            continue
        if name in _NOT_IN_ITSELF and name in open_:
            return False
        is_part = name in _PARTS_OF_TABLES
        if (is_part and "table" not in open_) or (not is_part and open_ and open_[-1] in _AROUND_CELLS):
            return False
        open_.append(name)
        foreign += name in _FOREIGN
    return all(name in _MAY_BE_OPEN - _OPEN_AT_THE_END for name in open_)


def _is_twice(attributes: str) -> bool:
    """Whether one of a tag's attributes stands twice."""
    if attributes.count("=") < 2 and attributes.count(" ") < 2:
        return False
    names = [each.lower() for each in _NAMES.findall(attributes)]
    return len(names) != len(set(names))
