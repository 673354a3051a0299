"""Whether markup is plainly tidy, so that a parser has nothing to mend in it: found out in one quick pass.

Markup that is not plainly tidy may have nothing wrong with it; the parser that reports errors is asked then.
"""

from __future__ import annotations

import re

_TAG = re.compile(
    r"<!--.*?-->|<!\[CDATA\[.*?\]\]>"
    r"|<(script|style|textarea|title|iframe|noscript|xmp)\b(?P<raw>[^>]*)>.*?</\1\s*>"
    r"|<(?P<end>/?)(?P<name>[a-zA-Z][^\s/>]*)(?P<rest>(?:[^>\"']|\"[^\"]*\"|'[^']*')*)>",
    re.DOTALL | re.IGNORECASE,
)
_NAMES = re.compile(r"\s([^\s=\"'/>]+)(?:\s*=\s*(?:\"[^\"]*\"|'[^']*'|[^\s>\"']*))?")
_VOID = frozenset("area base br col embed hr img input link meta param source track wbr".split())
_MAY_BE_OPEN = frozenset("body colgroup dd dt head html li optgroup option p rp rt tbody td tfoot th thead tr".split())
_FOREIGN = frozenset({"svg", "math"})
_NOT_IN_ITSELF = frozenset({"a", "button", "form"})
_PARTS_OF_TABLES = frozenset("caption col colgroup tbody td template tfoot th thead tr".split())
_AROUND_CELLS = frozenset({"table", "tbody", "tfoot", "thead", "tr"})


def is_tidy(text: str) -> bool:
    """Return whether every element of markup is closed in its turn, and none has an attribute twice."""
    open_: list[str] = []
    for found in _TAG.finditer(text):
        name = found["name"]
        if name is None:
            continue
        name, rest = name.lower(), found["rest"]
        if found["end"]:
            while open_ and open_[-1] != name and open_[-1] in _MAY_BE_OPEN:
                open_.pop()
            if not open_ or open_.pop() != name:
                return False
            continue
        if rest.count("=") > 1 or rest.count(" ") > 1:
            names = [each.lower() for each in _NAMES.findall(rest)]
            if len(names) != len(set(names)):
                return False
        is_foreign = bool(_FOREIGN.intersection(open_[-20:]))
        if name in _VOID and not is_foreign:
            continue
        if rest.endswith("/"):
            if not is_foreign and name not in _FOREIGN:
                return False
            continue
        if name in _NOT_IN_ITSELF and name in open_:
            return False
        if open_ and open_[-1] in _AROUND_CELLS and name not in _PARTS_OF_TABLES:
            return False
        open_.append(name)
    return all(name in _MAY_BE_OPEN for name in open_)
