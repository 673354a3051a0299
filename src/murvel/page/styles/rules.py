"""Style rules (CSS Syntax 3 §5.4.4, CSS Nesting 1): their selectors, made ready for the parser's selector engine."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from enum import Enum
from typing import Any

import cssselect2
import tinycss2

from murvel.page.engine import without_states
from murvel.page.loading.addresses import shown
from murvel.page.problems import ProblemKind, Problems
from murvel.page.styles.limits import LONGEST_SELECTOR, MOST_COMPOUNDS
from murvel.page.styles.values import PROPERTIES, Declared

UNLAYERED = 1_000_000
"""The rank of rules outside any cascade layer, which beat all layers (CSS Cascade 5 §6.1)."""

_BELOW_ALL = -1
"""The rank of rules for hosts and slotted elements, which the page's own rules beat (CSS Cascade 5 §6.1, Context)."""

_OUR_PSEUDO_ELEMENTS = (None, "before", "after", "marker")
_PSEUDO_AT_END = re.compile(r"(?:::?(?:before|after)|::marker)\s*$", re.IGNORECASE)
_COMBINATOR = re.compile(r"[^\s>+~,(]\s*(?:[>+~]\s*|\s)")
_REACHING = re.compile(r"(?:(:host)(?:\((.+)\))?|::slotted\((.+)\))(::?(?:before|after))?\s*", re.IGNORECASE)


class RuleScope(Enum):
    """Where a rule of a shadow tree looks for its elements (CSS Scoping 1 §3)."""

    INSIDE = "inside"
    HOST = "host"
    SLOTTED = "slotted"


@dataclass(frozen=True, slots=True)
class Rule:
    """One complex selector with the declarations that concern us.

    Attributes:
        selector: its text without a pseudo-element, for the parser's selector engine.
        pseudo: "before", "after", or "" for the element itself.
        reach: which elements the selector is tried on.
        specificity: the three counts (Selectors 4 §17).
        layer: the rank of its cascade layer.
        order: its place among all rules.
        where: the sheet and line it stands in, for people.
        declarations: the declarations, in order.
    """

    selector: str
    pseudo: str
    reach: RuleScope
    specificity: tuple[int, int, int]
    layer: int
    order: int
    where: str
    declarations: tuple[Declared, ...]


@dataclass(frozen=True, slots=True)
class StyleRule:
    """A style rule as it stands in a sheet.

    Attributes:
        prelude: the tokens of its selector list.
        content: the tokens between its braces.
        parent: the selector list of the rule it is nested in; empty where it is in none.
        layer: the rank of its cascade layer.
        order: its place among all rules.
        where: the sheet and line it stands in, for people.
    """

    prelude: list[Any]
    content: list[Any]
    parent: str
    layer: int
    order: int
    where: str

    @property
    def selectors(self) -> list[str]:
        """Its selectors, those too long left out; where it is nested, with the parent's put in (CSS Nesting 1 §3)."""
        whole = (self._absolute(_text(part)) for part in comma_separated(self.prelude))
        return [text for text in whole if text]

    def _absolute(self, text: str) -> str:
        around = f":is({self.parent})" if self.parent and text else ""
        times = max(1, text.count("&"))
        if len(text) + times * len(around) > LONGEST_SELECTOR or len(_COMBINATOR.findall(text)) > MOST_COMPOUNDS:
            return ""
        if not around:
            return text
        return text.replace("&", around) if "&" in text else f"{around} {text}"

    @property
    def is_too_long(self) -> bool:
        """Whether one of its selectors is longer than is followed."""
        return len(self.selectors) < sum(bool(_text(part)) for part in comma_separated(self.prelude))

    def properties(self) -> set[str]:
        """Return every identifier that may be a property's name, as written; its declarations' names are among them."""
        return {str(token.value) for token in self.content if token.type == "ident"}

    def concerns_us(self, names: set[str]) -> bool:
        """Whether it may set one of our properties, `names` being what `properties` gave."""
        return not PROPERTIES.isdisjoint(name.lower() for name in names)

    def rules(self, declarations: tuple[Declared, ...], problems: Problems) -> Iterator[Rule]:
        """Yield a rule for each selector; what is not understood is added to the problems."""
        for whole in self.selectors:
            reach, text = _reach(whole)
            try:
                selector = cssselect2.compile_selector_list(without_states(text))[0]
            except (cssselect2.SelectorError, IndexError, SyntaxError, RecursionError, MemoryError):
                if "::-" not in text and ":-" not in text:  # a vendor's pseudo-element or pseudo-class: no box of ours
                    problems.add(ProblemKind.STYLE, f"The selector {shown(text)} at {self.where} is not understood.")
                continue
            if selector.never_matches or selector.pseudo_element not in _OUR_PSEUDO_ELEMENTS:
                continue
            pseudo = selector.pseudo_element or ""
            bare = _PSEUDO_AT_END.sub("", text) if pseudo else text
            if not bare or bare[-1] in " >+~":
                bare += "*"
            layer = self.layer if reach is RuleScope.INSIDE else _BELOW_ALL
            yield Rule(bare, pseudo, reach, selector.specificity, layer, self.order, self.where, declarations)


def _text(tokens: list[Any]) -> str:
    return str(tinycss2.serialize(tokens)).strip()


def _reach(selector: str) -> tuple[RuleScope, str]:
    """Return where a selector looks, and the selector for elements there."""
    found = _REACHING.fullmatch(selector)
    if found is None:
        return RuleScope.INSIDE, selector
    reach = RuleScope.HOST if found.group(1) else RuleScope.SLOTTED
    return reach, (found.group(2) or found.group(3) or "*") + (found.group(4) or "")


def comma_separated(tokens: list[Any]) -> Iterator[list[Any]]:
    """Yield the parts of a list that stand between its commas."""
    part: list[Any] = []
    for token in tokens:
        if token.type == "literal" and token.value == ",":
            yield part
            part = []
        else:
            part.append(token)
    yield part
