"""The child-indexed pseudo-classes (Selectors 4 §13.4, §13.5), worked out for all elements in one pass.

An engine that counts the siblings of each element again takes as long as their number squared.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable

import tinycss2.nth

from murvel.dom.document import Element
from murvel.patterns import pattern

NTH = pattern(r":(nth-(?:last-)?(?:child|of-type))\(([^()]*)\)", re.IGNORECASE)
"""A pseudo-class of the kind, with its formula; one with `of` has its own rule and is not meant."""


def nth_matched(elements: Iterable[Element], name: str, formula: str) -> set[Element] | None:
    """Return the elements that a child-indexed pseudo-class matches; None if its formula is not understood.

    Args:
        elements: all elements, in document order.
        name: the pseudo-class, as `nth-child`.
        formula: as `2n+1` or `even`.
    """
    parsed = tinycss2.nth.parse_nth(formula)
    if parsed is None:
        return None
    step, offset = parsed
    families: dict[tuple[Element | None, str], list[Element]] = defaultdict(list)
    by_type = name.lower().endswith("of-type")
    for element in elements:
        families[element.parent, element.tag if by_type else ""].append(element)
    found: set[Element] = set()
    for family in families.values():
        counted = reversed(family) if "last" in name.lower() else family
        found.update(each for at, each in enumerate(counted, 1) if _is_nth(at, step, offset))
    return found


def _is_nth(at: int, step: int, offset: int) -> bool:
    """Whether there is an n of 0 or more with step * n + offset = at."""
    if step == 0:
        return at == offset
    return (at - offset) % step == 0 and (at - offset) // step >= 0
