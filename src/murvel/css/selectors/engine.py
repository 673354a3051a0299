"""One way to ask the parser's engine which elements a selector matches.

Lexbor matches selectors on its own nodes and knows attributes only. What other pseudo-classes ask for (`:checked`,
`:invalid`, `:lang(de)` ...) is passed to it as words of one private attribute, and the selector asks for the word.
"""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from math import comb

from selectolax.lexbor import LexborHTMLParser, LexborNode, SelectolaxError

from murvel.css.selectors.nth import NTH, nth_matched
from murvel.css.selectors.pseudo_classes import (
    ASKED_OF_ELEMENTS,
    NEVER_MATCHING,
    PSEUDO_CLASSES,
    PseudoClass,
    may_match,
    with_argument,
)
from murvel.css.selectors.selectors import Complex, match_steps, take_apart, ways
from murvel.dom.document import Document, Element
from murvel.loading.addresses import shown
from murvel.loading.errors import PageError
from murvel.patterns import pattern

_MOST_WAYS = 100_000
"""A selector with more ways to be tried on one element is matched step by step."""

_BROAD = 1_000
"""With this many children or more, an element's siblings are counted once for all of them."""

_STATE_ATTRIBUTE = "data-murvel-state"
"""The private attribute; the elements of a Document never have it."""


_ASKED = pattern(
    rf":({'|'.join(sorted(ASKED_OF_ELEMENTS | NEVER_MATCHING, key=len, reverse=True))})(?![\w(-])"
    r"|:(lang|dir)\(\s*([\w-]+)\s*\)",
    re.IGNORECASE,
)


def _keys(found: re.Match[str]) -> str:
    """The word that stands for a pseudo-class, with its argument."""
    return found.group(1).lower() if found.group(1) else f"{found.group(2)}-{found.group(3)}".lower()


_LEADING_FUNCTION = pattern(
    r"""("(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'|\\.)|(?<![^\s>+~,(])(?=:[a-z-]+\()""",
    re.DOTALL | re.IGNORECASE,
)
"""A compound that begins with a function. The engine tries `:not(.x) a` on the parent of an element only; with the
universal selector before it, which adds nothing to its specificity, it tries all ancestors."""


def states_in(selector: str) -> set[str]:
    """Return the pseudo-classes that a selector asks of elements, with their arguments."""
    return {_keys(found) for found in _ASKED.finditer(selector)} if ":" in selector else set()


def without_states(selector: str) -> str:
    """Return a selector with those pseudo-classes as attribute selectors, which are as specific."""
    return _ASKED.sub(lambda found: f'[{_STATE_ATTRIBUTE}~="{_keys(found)}"]', selector)


class SelectorError(PageError):
    """A selector that the engine does not understand."""


class CostlySelectorError(SelectorError):
    """A selector that would take too long on a page."""


@dataclass(slots=True)
class Subtree:
    """What one parse made, with the engine that matches selectors on it: the page, or a declared shadow tree.

    Attributes:
        root: the html element, or the template.
        ids: the first element with each id; ids are unique within a part (DOM §4.2.6).
        parser: Lexbor's tree.
        by_memory: our element for each of its nodes, by `mem_id`, in document order.
        declared: the templates in it that declare a shadow tree, with their content as markup.
        around: the part that a shadow tree's host stands in; None for the page.
        document: the document that it belongs to, as soon as there is one.
    """

    root: Element
    ids: dict[str, Element]
    parser: LexborHTMLParser
    by_memory: dict[int, Element]
    declared: list[tuple[Element, str]]
    around: Subtree | None = None
    document: Document | None = None
    _nodes: dict[Element, LexborNode] = field(default_factory=dict)
    _nth: dict[str, set[Element]] = field(default_factory=dict)
    """What child-indexed pseudo-classes match, as far as the engine was told."""
    _shape: tuple[Counter[int], Counter[int]] | None = None
    """How often each depth, and each number of children, occurs."""
    _admitted: dict[str, bool] = field(default_factory=dict)
    """The selectors that search, and whether they may."""
    _told: dict[str, PseudoClass] = field(default_factory=dict)
    """The pseudo-classes that the engine knows."""
    _is_stale: bool = False
    """Whether what it was told may hold no longer for elements that were not changed themselves."""

    def elements(self) -> Iterable[Element]:
        """Return the elements of the part in document order."""
        return self.by_memory.values()

    def matching(self, selector: str) -> list[Element]:
        """Return the elements that a selector matches now, in document order.

        Raises:
            SelectorError: it is not understood.
        """
        parts = self._costly(selector) if " " in selector or "~" in selector or ":has(" in selector.lower() else None
        if parts is not None:
            return match_steps(parts.steps, self.matching)
        found = self._engine_finds(self._without_states(self._without_nth(selector)))
        by_memory = self.by_memory
        elements = [by_memory[node.mem_id] for node in found if node.mem_id in by_memory]
        # The engine gives what a list of selectors matches one selector after the other.
        return sorted(set(elements), key=_order) if "," in selector else elements

    def _costly(self, selector: str) -> Complex | None:
        """Return the parts of a selector that has to be matched step by step, None if the engine may try it."""
        parts = take_apart(selector)
        if parts.is_searching and not self._may_search(selector, parts):
            raise CostlySelectorError(
                f"The selector {shown(selector)} takes too long on this page, beside those before it",
                "write it shorter.",
            )
        depth, breadth = self._extent()
        is_broad = breadth > _BROAD and parts.siblings > 0
        if not is_broad and ways(parts, depth, breadth) <= _MOST_WAYS:
            return None
        if not parts.is_nested and parts.steps:
            return parts
        if is_broad and breadth <= 10 * _BROAD and ways(parts, depth, 1) <= _MOST_WAYS and parts.siblings == 1:
            return None  # in parentheses it cannot be taken apart; the engine still ends soon
        raise CostlySelectorError(f"The selector {shown(selector)} takes too long on this page", "write it shorter.")

    def _may_search(self, selector: str, parts: Complex) -> bool:
        """Whether a selector may take the steps that it may need on this page; each is counted once."""
        if selector not in self._admitted:
            resources = self.document.resources if self.document is not None else None
            steps = self._steps(parts)
            self._admitted[selector] = resources is None or resources.may_search(steps)
        return self._admitted[selector]

    def _steps(self, parts: Complex) -> float:
        """The steps that a selector may need: for each element its ancestors, its siblings, and so on, by depth.

        A selector is tried on all siblings where it counts, and on all elements below where it searches. What
        stands in each other is multiplied.
        """
        depths_often, sizes_often = self._known_shape()
        upward, beside = parts.descents + parts.searches, parts.siblings + parts.counts
        below = sum(often * comb(max(depth, upward), upward) for depth, often in depths_often.items())
        across = sum(often * size ** (beside + 1) for size, often in sizes_often.items())
        steps: float = below * across / max(1, len(self.by_memory)) * max(1, parts.functions)
        return steps

    def _without_nth(self, selector: str) -> str:
        """Return a selector with its child-indexed pseudo-classes as words of the attribute, on a broad page."""
        if ":nth-" not in selector.lower() or self._extent()[1] <= _BROAD:
            return selector

        def told(found: re.Match[str]) -> str:
            key = found.group().lower()
            if key not in self._nth:
                matched = nth_matched(self.by_memory.values(), found.group(1), found.group(2))
                if matched is None:
                    return found.group()
                self._nth[key] = matched
                for element in matched:
                    self._write_state(element)
            return f'[{_STATE_ATTRIBUTE}~="nth{list(self._nth).index(key)}"]'

        return NTH.sub(told, selector)

    def _extent(self) -> tuple[int, int]:
        """How deep elements stand in each other at most, and how many children one has at most."""
        depths, sizes = self._known_shape()
        return max(depths, default=0), max(sizes, default=0)

    def _known_shape(self) -> tuple[Counter[int], Counter[int]]:
        if self._shape is None:
            depths: dict[Element, int] = {}
            sizes: dict[Element | None, int] = defaultdict(int)
            for element in self.by_memory.values():
                depths[element] = depths.get(element.parent, 0) + 1 if element.parent is not None else 1
                sizes[element.parent] += 1
            self._shape = Counter(depths.values()), Counter(sizes.values())
        return self._shape

    def node(self, element: Element) -> LexborNode:
        """Return the parser's node of an element of the part."""
        return self._known_nodes()[element]

    def has(self, element: Element) -> bool:
        """Whether an element belongs to the part."""
        return element in self._known_nodes()

    def _known_nodes(self) -> dict[Element, LexborNode]:
        """The parser's nodes by element; they are collected when one is first asked for."""
        if not self._nodes:
            by_memory = self.by_memory
            for node in self._engine_finds("*"):
                known = by_memory.get(node.mem_id)
                if known is not None:
                    self._nodes[known] = node
        return self._nodes

    def add(self, node: LexborNode, element: Element) -> None:
        """Note an element that was added after the parse."""
        self.by_memory[node.mem_id] = element
        self._nodes[element] = node

    def forget(self, element: Element) -> None:
        """Forget an element that is about to be removed: the parser may use its memory again for something else."""
        node = self._nodes.pop(element, None)
        if node is not None:
            self.by_memory.pop(node.mem_id, None)

    def in_document_order(self) -> None:
        """Sort the elements again after some were added."""
        self.by_memory = dict(sorted(self.by_memory.items(), key=lambda entry: entry[1].order))

    def places_changed(self) -> None:
        """Be told that elements stand in other places than before."""
        self._shape = None
        matched, self._nth = self._nth, {}
        for element in {each for family in matched.values() for each in family if self.has(each)}:
            self._write_state(element)

    def tell_state(self, element: Element) -> None:
        """Tell the engine what an element is now, as far as selectors asked for that yet."""
        if self._told and self.has(element):
            self._write_state(element)
            self._is_stale = self._is_stale or any(pseudo.is_wide for pseudo in self._told.values())

    def _tell_all(self, names: Iterable[str]) -> None:
        """Tell the engine of all elements that some pseudo-classes are asked of."""
        asked = [self._told[name] for name in names]
        for element in self.by_memory.values():
            if any(may_match(pseudo, element) for pseudo in asked):
                self._write_state(element)

    def _write_state(self, element: Element) -> None:
        words = [name for name, pseudo in self._told.items() if self._holds(pseudo, element)]
        words += [f"nth{at}" for at, matched in enumerate(self._nth.values()) if element in matched]
        node = self.node(element)
        if words:
            node.attrs[_STATE_ATTRIBUTE] = " ".join(words)
        elif _STATE_ATTRIBUTE in node.attributes:
            del node.attrs[_STATE_ATTRIBUTE]

    def _holds(self, pseudo: PseudoClass, element: Element) -> bool:
        return self.document is not None and may_match(pseudo, element) and pseudo.holds(self.document, element)

    def _without_states(self, selector: str) -> str:
        asked = states_in(selector) - NEVER_MATCHING
        if not asked:
            return without_states(selector)
        new = [name for name in sorted(asked) if name not in self._told]
        for name in new:
            kind, _, argument = name.partition("-")
            self._told[name] = PSEUDO_CLASSES.get(name) or with_argument(kind, argument)
        if new or self._is_stale:
            self._tell_all(self._told if self._is_stale else new)
            self._is_stale = False
        return without_states(selector)

    def _engine_finds(self, selector: str) -> list[LexborNode]:
        if "(" in selector:
            selector = _LEADING_FUNCTION.sub(lambda found: found.group(1) or "*", selector)
        try:
            return self.parser.css(selector)
        except SelectolaxError as error:
            raise SelectorError(f"The selector {shown(selector)} is not understood", "check its spelling.") from error


def _order(element: Element) -> int:
    return element.order
