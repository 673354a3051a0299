"""Complex selectors taken apart (Selectors 4 §3.1): what a selector may cost, and how it is matched step by step.

An engine that tries a selector from its end goes back and forth: `a b c d` on elements that stand deep in each other
may take as many steps as there are ways to choose their ancestors. Step by step, each combinator passes over the
elements once.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from math import comb
from typing import NamedTuple

from murvel.dom.document import Element
from murvel.patterns import pattern

_TOKEN = pattern(
    r"""\\.|"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'|\[(?:[^\]"'\\]|\\.|"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*')*\]"""
    r"""|[()]|\s*[>+~]\s*|\s+|,|[^\\"'\[()>+~\s,]+|.""",
    re.DOTALL,
)


_BESIDE_NOTHING = pattern(r"""("(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'|\\.)|(?<=[^\\][(,])\s+|\s+(?=[),])""", re.DOTALL)
"""White space after an opening parenthesis or a comma, or before the end of one: it is no combinator."""


class Step(NamedTuple):
    """A compound selector, and the combinator before it; that of the first is empty."""

    combinator: str
    compound: str


class Complex(NamedTuple):
    """A selector taken apart.

    Attributes:
        steps: its compounds; empty if it is a list of selectors.
        descents: how many descendant combinators it has, those in parentheses too.
        siblings: how many subsequent-sibling combinators it has, those in parentheses too.
        is_nested: whether some stand in parentheses.
        counts: how many functions that count siblings by a selector of their own stand in each other.
        searches: how many functions that search below an element stand in each other.
        functions: how many functions of both kinds there are.
    """

    steps: list[Step]
    descents: int
    siblings: int
    is_nested: bool
    counts: int = 0
    searches: int = 0
    functions: int = 0

    @property
    def is_searching(self) -> bool:
        """Whether it may take more than one step on an element, and cannot be taken apart."""
        return self.functions > 0 or (self.is_nested and self.descents + self.siblings > 0)


_FUNCTION = pattern(
    r"""\\.|"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'|:(nth-(?:last-)?child)\((?=[^()]*?[\sn\d]of\s)|:(has)\(|([()])""",
    re.DOTALL | re.IGNORECASE,
)
"""A function that counts by a selector of its own (Selectors 4 §13.4.1) or searches (§4.5), or a parenthesis."""


def _functions(selector: str) -> tuple[int, int, int]:
    """How deep functions that count stand in each other, how deep those that search, and how many there are."""
    open_ones: list[str] = []
    counts = searches = functions = 0
    for found in _FUNCTION.finditer(selector):
        if found.group(1) or found.group(2):
            open_ones.append("count" if found.group(1) else "search")
            functions += 1
            counts = max(counts, open_ones.count("count"))
            searches = max(searches, open_ones.count("search"))
        elif found.group(3) == "(":
            open_ones.append("")
        elif found.group(3) == ")" and open_ones:
            open_ones.pop()
    return counts, searches, functions


def take_apart(selector: str) -> Complex:
    """Return the parts of a complex selector."""
    steps: list[Step] = []
    combinator, compound, depth = "", "", 0
    counts = {" ": 0, "~": 0}
    nested = is_list = False
    for token in _TOKEN.findall(_BESIDE_NOTHING.sub(lambda found: found.group(1) or "", selector.strip())):
        sign = (token.strip() or " ") if token.isspace() or token.strip() in (">", "+", "~") else ""
        if token in "()":
            depth += 1 if token == "(" else -1
        if sign in counts and not _is_of_nth(compound, depth):
            counts[sign] += 1
            nested |= depth > 0
        is_list |= token == "," and depth == 0
        if sign and depth == 0:
            steps.append(Step(combinator, compound))
            combinator, compound = sign, ""
        else:
            compound += token
    steps.append(Step(combinator, compound))
    steps = [] if is_list else steps
    return Complex(steps, counts[" "], counts["~"], nested, *_functions(selector))


def _is_of_nth(compound: str, depth: int) -> bool:
    """Whether a sign stands in the formula of an :nth-child() rather than between compounds."""
    return depth > 0 and bool(re.search(r":nth-[a-z-]+\([^()]*$", compound, re.IGNORECASE))


def ways(parts: Complex, depth: int, breadth: int) -> int:
    """Return how many ways there may be to try a selector on one element.

    Args:
        parts: the selector.
        depth: how deep elements stand in each other at most.
        breadth: how many children an element has at most.
    """
    return comb(max(depth, parts.descents), parts.descents) * comb(max(breadth, parts.siblings), parts.siblings)


def match_steps(steps: list[Step], matching: Callable[[str], Iterable[Element]]) -> list[Element]:
    """Return the elements that a complex selector matches, in document order.

    Args:
        steps: its compounds.
        matching: returns the elements that a compound matches.
    """
    current = set(matching(steps[0].compound))
    for combinator, compound in steps[1:]:
        if not current:
            return []
        found = matching(compound)
        if combinator == " ":
            current = _below(found, current)
        elif combinator == ">":
            current = {each for each in found if each.parent in current}
        else:
            current = _after(found, current, directly=combinator == "+")
    return sorted(current, key=lambda element: element.order)


def _below(found: Iterable[Element], current: set[Element]) -> set[Element]:
    """Those that have an ancestor in a set."""
    known: dict[Element, bool] = {}
    below: set[Element] = set()
    for element in found:
        path = []
        above = element.parent
        answer = False
        while above is not None:
            if above in current:
                answer = True
                break
            if above in known:
                answer = known[above]
                break
            path.append(above)
            above = above.parent
        for each in path:
            known[each] = answer
        if answer:
            below.add(element)
    return below


def _after(found: Iterable[Element], current: set[Element], *, directly: bool) -> set[Element]:
    """Those that have a sibling of a set before them, or directly before them."""
    wanted = set(found)
    after: set[Element] = set()
    for parent in {each.parent for each in wanted}:
        follows = False
        for child in parent.elements() if parent is not None else ():
            if follows and child in wanted:
                after.add(child)
            follows = child in current or (follows and not directly)
    return after
