"""What style sheets say of looks that speech does not rest on, but checks ask for: size, weight, pointer, place.

Nothing is worked out before it is first asked for. Values are as declared, in lower case, with custom properties filled
in and the shorthands of fonts and insets taken apart; they are neither inherited nor computed.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cached_property
from typing import NamedTuple

import tinycss2

from murvel.css.cascade.lazy import matched
from murvel.css.cascade.standing import Standing, in_attribute, in_rule
from murvel.css.selectors.engine import Subtree
from murvel.css.selectors.words import Words
from murvel.css.sheets.limits import is_deep
from murvel.css.sheets.rules import RuleScope, StyleRule
from murvel.css.tokens import block_contents
from murvel.css.values.variables import names_in, substitute
from murvel.dom.document import Element
from murvel.loading.problems import Problems
from murvel.patterns import pattern

_PLACES = frozenset("clip clip-path left opacity right scale text-indent top transform".split())
LOOKS = _PLACES | frozenset(
    "cursor font-size font-weight max-height max-width outline outline-style outline-width overflow overflow-x "
    "overflow-y pointer-events".split()
)
"""The properties that are kept."""

_OF_HIDING = frozenset("height position width".split())
"""Properties that are kept of a rule that puts something out of sight; nearly every other rule has one of them."""

_SIDES = ("left", "right", "top")
_SHORTHANDS = frozenset({"font", "inset"})
_WEIGHTS = frozenset({"bold", "bolder", "lighter"})
FONT_SIZES = {
    "xx-small": 9.0, "x-small": 10.0, "small": 13.0, "medium": 16.0, "large": 18.0, "x-large": 24.0, "xx-large": 32.0,
    "xxx-large": 48.0,
}  # fmt: skip
"""Sizes by keyword in CSS pixels, for the browser's default font (CSS Fonts 4 §2.5)."""

_DEEPEST = 10
"""The most custom properties that may refer to each other in a chain."""

_REVEALING = _PLACES | {"display", "height", "max-height", "visibility"}
_HIDING = frozenset({("display", "none"), ("visibility", "hidden"), ("opacity", "0")})
_BY_POINTER = (":hover",)
_STATES = pattern("hover|focus|\\\\", re.IGNORECASE)
_BY_FOCUS = (":focus-visible", ":focus-within", ":focus")


def concerns_looks(prelude: str, names: set[str]) -> bool:
    """Whether a rule is to be kept: it sets one of our properties, or says what pointing or focus change.

    Args:
        prelude: its selectors.
        names: the properties that it sets.
    """
    return any(_is_kept(name) for name in names) or _STATES.search(prelude) is not None


class _Declaration(NamedTuple):
    """A property with its value, and whether it is marked with !important."""

    name: str
    value: str
    important: bool


_Declared = dict[str, tuple[Standing, str]]
"""What is declared for an element, by property: where that stands in the cascade, and the value."""

_Known = dict[tuple[Element, str], str | None]
"""Custom properties without references, by the element that declares them and their names."""


class DeclaredLooks:
    """The looks of a document's elements, as its style sheets declare them (`murvel.css.values.style.Looks`).

    Args:
        kept: for each part of the document the rules that `concerns_looks`.
    """

    def __init__(self, kept: list[tuple[Subtree, list[StyleRule]]]) -> None:
        self._kept = kept

    def of(self, element: Element) -> dict[str, str]:
        """Return what is declared for an element, by property."""
        declared = self._declared_with_own(element)
        if not any("var(" in value for value in declared.values()):
            return declared
        resolved: dict[str, str] = {}
        known: _Known = {}
        for name, value in declared.items():
            written = self._filled(element, value, known) if "var(" in value else value
            if written is not None:
                resolved |= _taken_apart(name, written)
        return resolved

    def _declared_with_own(self, element: Element) -> dict[str, str]:
        declared = self._declared.get(element, {})
        own = element.attributes.get("style")
        if own:
            declared = dict(declared)
            for each in _declarations(own):
                _declare(declared, each, in_attribute(important=each.important))
        return {name: value for name, (_, value) in declared.items()}

    def _filled(self, element: Element, value: str, known: _Known, depth: int = 0) -> str | None:
        """A value with the custom properties of an element in it; None if it is not valid then."""
        values: dict[str, str] = {}
        for name in names_in(value) if depth < _DEEPEST else ():
            found = self._declaring(element, name)
            if found is None:
                continue
            around, given = found
            if (around, name) not in known:
                known[around, name] = None  # one that refers to itself is not valid (CSS Variables 1 §2.3)
                known[around, name] = self._filled(around, given, known, depth + 1) if "var(" in given else given
            filled = known[around, name]
            if filled is not None:
                values[name] = filled
        return substitute(value, values)

    def _declaring(self, element: Element, name: str) -> tuple[Element, str] | None:
        """The nearest element around that declares a custom property, with the value."""
        for around in (element, *element.ancestors()):
            given = self._declared_with_own(around).get(name)
            if given is not None:
                return around, given
        return None

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
    def _declared(self) -> dict[Element, _Declared]:
        declared: dict[Element, _Declared] = {}
        for part, blocks in self._kept:
            words = Words(part)
            for order, block in enumerate(blocks):
                if not words.may_match_one(block.needs):
                    continue
                declarations = _kept(block)
                for rule in block.rules(order, Problems()) if declarations else ():
                    if rule.pseudo or rule.reach is not RuleScope.INSIDE or not words.may_match(rule.selector):
                        continue
                    ranked = [(each, in_rule(rule, important=each.important)) for each in declarations]
                    for element in matched(part, rule.selector):
                        known = declared.setdefault(element, {})
                        for each, standing in ranked:
                            _declare(known, each, standing)
        return declared

    def _shown(self, states: tuple[str, ...]) -> set[Element]:
        found: set[Element] = set()
        for part, blocks in self._kept:
            words = Words(part)
            for block in blocks:
                if not any(state in each.text for each in block.selectors for state in states):
                    continue
                declared = _declarations(block.content)
                if not any(each.name in _REVEALING and each[:2] not in _HIDING for each in declared):
                    continue
                for selector in block.selectors:
                    if not selector.pseudo and any(state in selector.text for state in states):
                        at_rest = _at_rest(selector.text, states)
                        if words.may_match(at_rest):
                            found.update(matched(part, at_rest))
        return found


def _declare(known: _Declared, declaration: _Declaration, standing: Standing) -> None:
    name = declaration.name
    if name not in known or known[name][0] <= standing:
        known[name] = standing, declaration.value


def _kept(block: StyleRule) -> list[_Declaration]:
    """What is kept of the declarations of a rule."""
    every = list(_declarations(block.content))
    hides = _hides({each.name: each.value for each in every})
    return [each for each in every if _is_kept(each.name) or (hides and each.name in _OF_HIDING)]


def _hides(declared: dict[str, str]) -> bool:
    """Whether the declarations of a rule put something out of sight, as they are usually written."""
    if declared.keys() & {"clip", "clip-path", "text-indent"}:
        return True
    sizes = {declared.get(side) for side in ("width", "height", "max-width", "max-height")}
    if sizes & {"0", "0px", "1px"} and any(name.startswith("overflow") for name in declared):
        return True
    is_placed = declared.get("position") in ("absolute", "fixed")
    return is_placed and any("-" in declared.get(side, "") for side in _SIDES)


def _is_kept(name: str) -> bool:
    return name in LOOKS or name in _SHORTHANDS or name.startswith("--")


def _at_rest(selector: str, states: tuple[str, ...]) -> str:
    """A selector without the states that it waits for."""
    for state in states:
        selector = selector.replace(state, "")
    return selector.strip() or "*"


def _declarations(tokens: object) -> Iterator[_Declaration]:
    for node in block_contents(tokens):
        if node.type == "declaration" and not is_deep(node.value):
            name = str(node.name) if node.name.startswith("--") else str(node.lower_name)
            written = " ".join(tinycss2.serialize(node.value).lower().split())
            for each, value in _taken_apart(name, written).items():
                yield _Declaration(each, value, node.important)


def _taken_apart(name: str, value: str) -> dict[str, str]:
    """A declaration as those that it stands for; one that waits for custom properties is kept as it is."""
    if name not in _SHORTHANDS or "var(" in value:
        return {name: value}
    if name == "inset":
        sides = value.split()
        top, right = sides[0], sides[1 if len(sides) > 1 else 0]
        return {"top": top, "right": right, "left": sides[3] if len(sides) > 3 else right}
    words = value.partition("/")[0].split()
    weight = next((word for word in words if word in _WEIGHTS or word.isdecimal()), "normal")
    size = next(
        (word for word in words if word[0].isdigit() or word[0] == "." or word in FONT_SIZES or "(" in word), ""
    )
    return {"font-weight": weight, "font-size": size} if size else {}
