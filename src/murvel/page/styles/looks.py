"""What style sheets say of looks that speech does not rest on, but checks ask for: size, weight, pointer, place.

Nothing is worked out before it is first asked for. Values are as declared, in lower case; they are neither inherited
nor computed.
"""

from __future__ import annotations

from functools import cached_property

import tinycss2

from murvel.page.document import Element
from murvel.page.engine import Subtree
from murvel.page.problems import Problems
from murvel.page.styles.lazy import matched
from murvel.page.styles.limits import is_deep
from murvel.page.styles.rules import RuleScope, StyleRule
from murvel.page.styles.words import Words

_PLACES = frozenset("clip clip-path left opacity text-indent top transform".split())
LOOKS = _PLACES | frozenset(
    "cursor font font-size font-weight outline outline-style outline-width overflow overflow-x overflow-y".split()
)
"""The properties that are kept."""

_REVEALING = _PLACES | {"display", "height", "max-height", "visibility"}
_HIDING = frozenset({("display", "none"), ("visibility", "hidden"), ("opacity", "0")})
_BY_POINTER = (":hover",)
_BY_FOCUS = (":focus-visible", ":focus-within", ":focus")


def concerns_looks(block: StyleRule, names: set[str]) -> bool:
    """Whether a rule is to be kept: it sets one of our properties, or says what pointing or focus change."""
    if not LOOKS.isdisjoint(names):
        return True
    words = {token.lower_value for token in block.prelude if token.type == "ident"}
    return not words.isdisjoint({"hover", "focus", "focus-within", "focus-visible"})


class DeclaredLooks:
    """The looks of a document's elements, as its style sheets declare them (`murvel.page.styles.style.Looks`).

    Args:
        kept: for each part of the document the rules that `concerns_looks`.
    """

    def __init__(self, kept: list[tuple[Subtree, list[StyleRule]]]) -> None:
        self._kept = kept

    def of(self, element: Element) -> dict[str, str]:
        """Return what is declared for an element, by property; its style attribute wins."""
        declared = self._declared.get(element, {})
        own = element.attributes.get("style")
        return {**declared, **_declarations(own)} if own else declared

    def with_property(self, name: str) -> set[Element]:
        """Return the elements for which a rule declares a property."""
        return {element for element, declared in self._declared.items() if name in declared}

    @cached_property
    def shown_by_pointer(self) -> set[Element]:
        """The elements that rules show while something is pointed at."""
        return self._shown(_BY_POINTER)

    @cached_property
    def shown_by_focus(self) -> set[Element]:
        """The elements that rules show while something has the focus."""
        return self._shown(_BY_FOCUS)

    @cached_property
    def _declared(self) -> dict[Element, dict[str, str]]:
        ranks: dict[tuple[Element, str], tuple[int, tuple[int, int, int], int]] = {}
        values: dict[Element, dict[str, str]] = {}
        for part, blocks in self._kept:
            words = Words(part)
            for block in blocks:
                declarations = {name: value for name, value in _declarations(block.content).items() if name in LOOKS}
                for rule in block.rules((), Problems()) if declarations else ():
                    if rule.pseudo or rule.reach is not RuleScope.INSIDE or not words.may_match(rule.selector):
                        continue
                    rank = (rule.layer, rule.specificity, rule.order)
                    for element in matched(part, rule.selector):
                        known = values.setdefault(element, {})
                        for name, value in declarations.items():
                            if ranks.get((element, name), rank) <= rank:
                                ranks[element, name] = rank
                                known[name] = value
        return values

    def _shown(self, states: tuple[str, ...]) -> set[Element]:
        found: set[Element] = set()
        for part, blocks in self._kept:
            words = Words(part)
            for block in blocks:
                if not any(state in each.text for each in block.selectors for state in states):
                    continue
                declared = _declarations(block.content).items()
                if not any(name in _REVEALING and (name, value) not in _HIDING for name, value in declared):
                    continue
                for selector in block.selectors:
                    if not selector.pseudo and any(state in selector.text for state in states):
                        at_rest = _at_rest(selector.text, states)
                        if words.may_match(at_rest):
                            found.update(matched(part, at_rest))
        return found


def _at_rest(selector: str, states: tuple[str, ...]) -> str:
    """A selector without the states that it waits for."""
    for state in states:
        selector = selector.replace(state, "")
    return selector.strip() or "*"


def _declarations(tokens: object) -> dict[str, str]:
    found = {}
    for node in tinycss2.parse_blocks_contents(tokens, skip_comments=True, skip_whitespace=True):
        if node.type == "declaration" and not is_deep(node.value):
            found[str(node.lower_name)] = " ".join(tinycss2.serialize(node.value).lower().split())
    return found
