"""Style rules (CSS Syntax 3 §5.4.4, CSS Nesting 1): their selectors, made ready for the parser's selector engine."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Set
from dataclasses import dataclass
from enum import Enum
from functools import cached_property, lru_cache
from typing import Any, NamedTuple

import cssselect2

from murvel.css.generated.content import Content
from murvel.css.selectors.engine import without_states
from murvel.css.selectors.grammar import Selector, is_plain, parse_selectors, selectors_in
from murvel.css.selectors.words import NEEDED
from murvel.css.sheets.conditions import significant, word
from murvel.css.sheets.limits import LONGEST_CONTENT, LONGEST_SELECTOR, MOST_COMPOUNDS
from murvel.css.sheets.raw import names_declared
from murvel.css.values.declared import PROPERTIES, Declared, Pending, declared
from murvel.css.values.variables import names_in
from murvel.loading.addresses import shown
from murvel.loading.problems import ProblemKind, Problems
from murvel.patterns import pattern

UNLAYERED = 1_000_000
"""The rank of rules outside any cascade layer, which beat all layers (CSS Cascade 5 §6.1)."""

_BELOW_ALL = -1
"""The rank of rules for hosts and slotted elements, which the page's own rules beat (CSS Cascade 5 §6.1, Context)."""

_OUR_PSEUDO_ELEMENTS = ("", "before", "after", "marker", "details-content")
_COMBINATOR = pattern(r"[^\s>+~,(]\s*(?:[>+~]\s*|\s)")
_TYPE = pattern(r"(?<![\w.#-])[a-zA-Z]")
_REACHING = pattern(r"(?:(:host)(?:\((.+)\))?|::slotted\((.+)\))(::?(?:before|after))?\s*", re.IGNORECASE)


class RuleScope(Enum):
    """Where a rule of a shadow tree looks for its elements (CSS Scoping 1 §3)."""

    INSIDE = "inside"
    HOST = "host"
    SLOTTED = "slotted"


class Rule(NamedTuple):
    """One complex selector of a style rule.

    Attributes:
        selector: its text without a pseudo-element, for the parser's selector engine.
        pseudo: "before", "after", or "" for the element itself.
        reach: which elements the selector is tried on.
        specificity: the three counts (Selectors 4 §17).
        layer: the rank of its cascade layer.
        order: its place among all rules.
        block: the style rule.
    """

    selector: str
    pseudo: str
    reach: RuleScope
    specificity: tuple[int, int, int]
    layer: int
    order: int
    block: StyleRule

    @property
    def where(self) -> str:
        """The sheet and line it stands in, for people."""
        return self.block.where


class Bounds(NamedTuple):
    """Where the selectors of an @scope rule look (CSS Cascade 6 §2.5).

    Attributes:
        root: the selectors of the elements that it looks in.
        limit: the selectors of those in them that it does not look in; empty if there are none.
    """

    root: str
    limit: str


@dataclass(eq=False)
class StyleRule:
    """A style rule as it stands in a sheet; it is never changed.

    Attributes:
        prelude: its selector list, as text.
        content: its declarations, as text.
        parent: the selector list of the rule it is nested in; empty if it is in none.
        layer: the rank of its cascade layer.
        where: the sheet and line it stands in, for people.
        bounds: the scope that it stands in.
        queries: the container queries that it stands in.
        custom: the custom properties whose declarations are of interest.
    """

    prelude: str
    content: str
    parent: str
    layer: int
    where: str
    bounds: Bounds | None = None
    queries: tuple[list[Any], ...] = ()
    custom: Set[str] = frozenset()

    @cached_property
    def names(self) -> set[str]:
        """What may be the names of its declarations, as `names_declared` gives them."""
        return names_declared(self.content)

    @cached_property
    def needs(self) -> tuple[frozenset[str], ...] | None:
        """The classes and ids, with their sign, that an element needs for each of its selectors; None: not known."""
        if self.parent or not is_plain(self.prelude):
            return None
        return tuple(frozenset(NEEDED.findall(each)) for each in self.prelude.split(","))

    @cached_property
    def references(self) -> frozenset[str]:
        """The custom properties that it asks for to set one of our properties."""
        content = self.content
        if "(" not in content or ("\\" not in content and "var(" not in content.lower()):
            return frozenset()
        return frozenset() if PROPERTIES.isdisjoint(self.names) else references_in(self.declarations)

    @cached_property
    def declarations(self) -> tuple[Declared, ...]:
        """Those of its declarations that are of interest, in order; read when they are first asked for."""
        return tuple(item for item in declared(self.content, self.custom) if not is_too_long(item))

    @cached_property
    def selectors(self) -> list[Selector]:
        """Its selectors, none where one is not valid; where it is nested, with the parent's put in (CSS Nesting 1 §3).

        Those that are too long are left out.
        """
        whole = (self._absolute(each) for each in self._written or ())
        return [each for each in whole if each is not None]

    @cached_property
    def _written(self) -> list[Selector] | None:
        return selectors_in(self.prelude, is_nested=bool(self.parent))

    def _absolute(self, selector: Selector) -> Selector | None:
        text = selector.text
        if self.bounds is not None:
            text = _bounded(text, self.bounds)
        around = f":is({self.parent})" if self.parent else ":root"
        times = max(1, text.count("&"))
        if len(text) + times * len(around) > LONGEST_SELECTOR or len(_COMBINATOR.findall(text)) > MOST_COMPOUNDS:
            return None
        if "&" in text:
            return selector._replace(text=text.replace("&", around))
        return selector._replace(text=f"{around} {text}" if self.parent else text)

    @property
    def is_understood(self) -> bool:
        """Whether all its selectors are valid."""
        return self._written is not None

    @property
    def is_too_long(self) -> bool:
        """Whether one of its selectors is longer than is followed."""
        if len(self.prelude) < 2 * MOST_COMPOUNDS and not self.parent and self.bounds is None:
            return False
        return len(self.selectors) < len(self._written or ())

    def rules(self, order: int, problems: Problems) -> Iterator[Rule]:
        """Yield a rule for each selector, given its place; what is not understood is added to the problems."""
        if not self.is_understood and not _is_vendors(self.prelude):
            selector = shown(self.prelude.strip())
            problems.add(ProblemKind.STYLE, f"The selector {selector} at {self.where} is not understood.")
        for whole in self.selectors:
            reach, text, pseudo = _reach(whole)
            if pseudo not in _OUR_PSEUDO_ELEMENTS:
                continue
            text = text if text and text[-1] not in " >+~" else text + "*"
            try:
                specificity = _specificity(text) if not pseudo else _plus_element(_specificity(text))
            except (cssselect2.SelectorError, IndexError, SyntaxError, RecursionError, MemoryError):
                continue
            layer = self.layer if reach is RuleScope.INSIDE else _BELOW_ALL
            yield Rule(text, pseudo, reach, specificity, layer, order, self)


def references_in(items: Iterable[Declared]) -> frozenset[str]:
    """Return the custom properties that declarations ask for."""
    return frozenset(name for item in items if isinstance(item.value, Pending) for name in names_in(item.value.text))


def is_too_long(item: Declared) -> bool:
    """Whether a declaration generates more content than is followed."""
    return isinstance(item.value, Content) and item.value.size > LONGEST_CONTENT


def bounds_of(prelude: list[Any]) -> Bounds | None:
    """Return the bounds that an @scope rule names, None if it is not valid; without any it looks everywhere."""
    tokens = significant(prelude)
    blocks = [token for token in tokens if token.type == "() block"]
    has_limit = len(tokens) > 1 and word(tokens[-2]) == "to"
    if len(blocks) != len(tokens) - has_limit or len(blocks) > 2:
        return None
    lists = [parse_selectors(block.content) for block in blocks]
    texts = [", ".join(each.text for each in found) for found in lists if found is not None]
    if len(texts) < len(lists):
        return None
    root = texts[0] if len(texts) > has_limit else ":root"
    return Bounds(root, texts[-1] if has_limit else "")


def _bounded(text: str, bounds: Bounds) -> str:
    """Return a selector that looks within bounds only: for its root, or below it, but not below the limit."""
    around = f":where({bounds.root})"
    text = text.replace("&", around) if "&" in text else text
    below = f":is({around}, {around} *)"
    if bounds.limit:
        below += f":not(:where({around} :where({bounds.limit}), {around} :where({bounds.limit}) *))"
    return f"{text.replace(':root', around) if ':root' in text else text}:where({below})"


@lru_cache(maxsize=4096)
def _specificity(selector: str) -> tuple[int, int, int]:
    if is_plain(selector):
        return selector.count("#"), selector.count("."), len(_TYPE.findall(selector))
    specificity: tuple[int, int, int] = cssselect2.compile_selector_list(without_states(selector))[0].specificity
    return specificity


def _plus_element(specificity: tuple[int, int, int]) -> tuple[int, int, int]:
    return specificity[0], specificity[1], specificity[2] + 1


def _is_vendors(text: str) -> bool:
    """Whether a selector has a vendor's pseudo-element or pseudo-class, which is no problem of the page."""
    return "::-" in text or ":-" in text


def _reach(selector: Selector) -> tuple[RuleScope, str, str]:
    """Return where a selector looks, the selector for elements there, and the pseudo-element."""
    found = _REACHING.fullmatch(str(selector))
    if found is None:
        return RuleScope.INSIDE, selector.text or "*", selector.pseudo
    reach = RuleScope.HOST if found.group(1) else RuleScope.SLOTTED
    return reach, found.group(2) or found.group(3) or "*", (found.group(4) or "").lstrip(":")
