"""Which rules match which elements, kept up to date as a document changes.

A change can only make a rule match again where its selector speaks of what was changed: a class, an id, an attribute,
a state, or where elements stand. Only these rules are tried again.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable, Iterator

from murvel.css.selectors.engine import CostlySelectorError, SelectorError, Subtree, states_in
from murvel.css.selectors.pseudo_classes import ASKED_OF_ELEMENTS, NEVER_MATCHING
from murvel.css.selectors.words import Words
from murvel.css.sheets.rules import Rule, RuleScope, StyleRule
from murvel.dom.change import DocumentChange
from murvel.dom.document import Element
from murvel.loading.addresses import shown
from murvel.loading.problems import ProblemKind, Problems
from murvel.patterns import pattern

_FEATURES = pattern(r"([.#])((?:[\w-]|[^\x00-\x7f])+)|\[\s*([\w|-]+)")
_BY_PLACE = pattern(r"[+~](?!=)|:(?:nth-|first-|last-|only-|empty|has\()", re.IGNORECASE)
_PSEUDO_CLASS = pattern(r"(?<!:):(?!:)([a-z-]+)", re.IGNORECASE)
_BY_WORDS = frozenset({"is", "not", "where", "has", "root", "lang", "dir", *NEVER_MATCHING, *ASKED_OF_ELEMENTS})
"""Pseudo-classes that ask for nothing but what stands in them, or that no change here touches."""

_ANY = ("any", "")
_PLACE = ("place", "")


def _features(selector: str) -> set[tuple[str, str]]:
    """Return what a change has to touch for a selector to match other elements than before."""
    if "\\" in selector:
        return {_ANY}
    found = {_PLACE} if _BY_PLACE.search(selector) else set()
    for name in _PSEUDO_CLASS.findall(selector):
        if name.lower() not in _BY_WORDS and not _BY_PLACE.match(f":{name}"):
            return {_ANY}
    for kind, word, attribute in _FEATURES.findall(selector):
        found.add((kind, word) if kind else ("[", attribute.lower()))
    return found | {(":", name) for name in states_in(selector)}


_LAST_COMPOUND = pattern(r"[^\s>+~]*$")
_IN_PARENTHESES = pattern(r"\([^()]*\)|\[[^\]]*\]")
_SIMPLE = pattern(r"([.#]?)((?:[\w-]|[^\x00-\x7f])+)")


def of_subject(selector: str) -> tuple[str, str]:
    """Return something that an element must have for a selector to match it: an id, a class or a tag."""
    if "\\" in selector:
        return _ANY
    while (inner := _IN_PARENTHESES.sub("", selector)) != selector:
        selector = inner
    last = _LAST_COMPOUND.search(selector.strip())
    simple = _SIMPLE.findall(last.group().partition(":")[0]) if last is not None else []
    for kind in ("#", ".", ""):
        for found, word in simple:
            if found == kind:
                return (kind, word if kind else word.lower())
    return _ANY


class Matches:
    """The rules of one part with the elements they match.

    Attributes:
        rules: the rules that were tried; their place here is their number.
        of: for each element the rules that match it.
        outwards: the rules that match elements outside of the part: its host, and what its slots take.
    """

    def __init__(self, part: Subtree, blocks: Iterable[StyleRule], problems: Problems) -> None:
        self.rules: list[Rule] = []
        self.outwards: list[Rule] = []
        self.of: dict[Element, list[int]] = {}
        self._part = part
        self._problems = problems
        self._matched: list[list[Element]] = []
        self._asleep: list[tuple[int, StyleRule]] = []
        """Rules that need a class or an id that the part does not have, as it is now."""
        self._by_feature: dict[tuple[str, str], list[int]] | None = None
        self._by_subject: dict[tuple[str, str], list[int]] = defaultdict(list)
        words = Words(part)
        for order, block in enumerate(blocks):
            if not words.may_match_one(block.needs):
                self._asleep.append((order, block))
                continue
            for rule in self._rules_of(order, block):
                found = self._find(rule) if words.may_match(rule.selector) else []
                for element in found:
                    self.of.setdefault(element, []).append(len(self.rules))
                self.rules.append(rule)
                self._matched.append(found)

    def _rules_of(self, order: int, block: StyleRule) -> Iterator[Rule]:
        if not (block.is_understood or block.declarations):
            return  # a selector whose rule declares nothing is no problem
        for rule in block.rules(order, self._problems):
            if rule.reach is RuleScope.INSIDE:
                yield rule
            else:
                self.outwards.append(rule)

    def _wake(self) -> None:
        """Take the other rules in: the part is changing, and may come to have what they need."""
        more = [rule for order, block in self._asleep for rule in self._rules_of(order, block)]
        self._asleep.clear()
        self.rules += more
        self._matched += [[] for _ in more]

    def _find(self, rule: Rule) -> list[Element]:
        try:
            return self._part.matching(rule.selector)
        except CostlySelectorError as error:
            self._problems.add(ProblemKind.LIMIT, f"{error.message}, at {rule.where}, and is left out.")
        except SelectorError:
            text = f"The selector {shown(rule.selector)} at {rule.where} is not understood."
            self._problems.add(ProblemKind.STYLE, text)
        return []

    def update(self, change: DocumentChange) -> set[Element]:
        """Try rules again that a change concerns; return the elements that other rules match now."""
        for root in change.removed:
            for element in (root, *root.descendants()):
                if isinstance(element, Element):
                    self.of.pop(element, None)
        again = self._concerned(change) | self._for_new(change)
        different: set[Element] = set()
        for number in sorted(again):
            before = set(self._matched[number])
            found = self._find(self.rules[number])
            self._matched[number] = found
            now = set(found)
            self._note(number, now - before, before - now)
            different |= before ^ now
        return different

    def _note(self, number: int, more: Iterable[Element], less: Iterable[Element]) -> None:
        for element in more:
            known = self.of.setdefault(element, [])
            known.append(number)
            known.sort()
        for element in less:
            if element in self.of:
                self.of[element].remove(number)

    def _concerned(self, change: DocumentChange) -> set[int]:
        if self._by_feature is None:
            self._wake()
            self._by_feature = defaultdict(list)
            for number, rule in enumerate(self.rules):
                self._by_subject[of_subject(rule.selector)].append(number)
                for feature in _features(rule.selector):
                    self._by_feature[feature].append(number)
        touched = {_ANY} if change.attributes or change.parents or change.states else set()
        if change.parents:
            touched.add(_PLACE)
        for element, attributes in change.attributes.items():
            for name, before in attributes.items():
                now = element.attributes.get(name)
                touched.add(("[", name))
                if name == "class":
                    words = set((before or "").split()) ^ set((now or "").split())
                    touched |= {(".", word) for word in words}
                elif name == "id":
                    touched |= {("#", before or ""), ("#", now or "")}
        if change.states or change.attributes or change.parents:
            touched |= {feature for feature in self._by_feature if feature[0] == ":"}
        return {number for feature in touched for number in self._by_feature.get(feature, ())}

    def _for_new(self, change: DocumentChange) -> set[int]:
        """The rules that may match elements that came."""
        subjects = {_ANY} if change.added else set()
        for element in change.added_elements():
            attributes = element.attributes
            subjects |= {("", element.tag.lower()), ("#", attributes.get("id", ""))}
            subjects |= {(".", word) for word in attributes.get("class", "").split()}
        return {number for subject in subjects for number in self._by_subject.get(subject, ())}
