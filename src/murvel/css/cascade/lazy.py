"""What rules declare for some elements of properties that speech rarely rests on, worked out where somebody asks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterator
from typing import Any

from murvel.css.cascade.standing import Standing, in_attribute, in_rule
from murvel.css.selectors.engine import SelectorError, Subtree
from murvel.css.selectors.matches import of_subject
from murvel.css.selectors.words import Words
from murvel.css.sheets.limits import is_deep
from murvel.css.sheets.rules import RuleScope, StyleRule
from murvel.css.tokens import block_contents
from murvel.dom.document import Element
from murvel.loading.problems import Problems

Declaration = tuple[str, list[Any]]
"""A property's name and the tokens of its value."""


def declared_for(
    part: Subtree, blocks: list[StyleRule], names: Collection[str], elements: Collection[Element]
) -> dict[Element, list[Declaration]]:
    """Return what is declared for some elements, the winning declarations last (CSS Cascade 5 §6).

    Args:
        part: the part of the document that the rules are of.
        blocks: rules that set some of the properties.
        names: the properties.
        elements: those that are asked for.
    """
    wanted = set(elements)
    subjects = {feature for element in wanted for feature in _features(element)}
    ranked: dict[Element, list[tuple[Standing, str, list[Any]]]] = defaultdict(list)
    for element in wanted:
        if "style" in element.attributes:
            for name, tokens, important in _read(element.attributes["style"], names):
                ranked[element].append((in_attribute(important=important), name, tokens))
    words = Words(part)
    for order, block in enumerate(blocks):
        if not words.may_match_one(block.needs):
            continue
        declarations = list(_read(block.content, names))
        for rule in block.rules(order, Problems()) if declarations else ():
            subject = of_subject(rule.selector)
            if rule.pseudo or rule.reach is not RuleScope.INSIDE or (subject not in subjects and subject[0] != "any"):
                continue
            for element in matched(part, rule.selector):
                if element in wanted:
                    for name, tokens, important in declarations:
                        ranked[element].append((in_rule(rule, important=important), name, tokens))
    for found in ranked.values():
        found.sort(key=lambda entry: entry[0])
    return {element: [(name, tokens) for _, name, tokens in found] for element, found in ranked.items()}


def _features(element: Element) -> Iterator[tuple[str, str]]:
    yield "", element.tag
    yield "#", element.attributes.get("id", "")
    for word in element.attributes.get("class", "").split():
        yield ".", word


def matched(part: Subtree, selector: str) -> list[Element]:
    """Return what a selector matches; nothing if it is not understood."""
    try:
        return part.matching(selector)
    except SelectorError:
        return []


def _read(tokens: object, names: Collection[str]) -> Iterator[tuple[str, list[Any], bool]]:
    for node in block_contents(tokens):
        if node.type == "declaration" and node.lower_name in names and not is_deep(node.value):
            yield node.lower_name, [each for each in node.value if each.type != "whitespace"], node.important
