"""Finding elements of an earlier take again in a later one.

Two elements are compared by their traits: what they are and say, and what is around them. The likeness is the part of
the earlier element's traits that the later one shares, by their weights. An element that shares the most is the one
that is meant. That it is *certain* takes more: a trait of its own that no other element has, in either take; or a place
in something that has such a trait, where it is the only one of its kind; or a place between the same two texts; or a
page on which nothing has changed.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from murvel.dom.document import Element
from murvel.retest.traits import NAMES_OTHERS, OWN, PLACE, WEIGHTS, Trait, Traits
from murvel.tree.model import Tree

_LEAST = 0.3
"""Below this likeness, an element counts as gone."""
_CERTAIN = 0.5
_SEVERAL = 2
"""Below `_CERTAIN`, this many unique traits are needed, as its id and the name of its field; or one, under the same
heading, or the name by which a field is submitted."""
_SPOKEN = frozenset({"text", "said"})
"""Traits that another element may have without contradicting: a heading may say what a button was named by."""
_LEAD = 0.08
"""The best candidate is certain only with this much more likeness than any other."""
_RARE = 50
"""A trait that more elements have does not bring an element into question; it counts once it is there."""
_COMPARED = 60
"""The most elements that are compared closely: those that share the most rare traits."""
_ALIKE = 0.5
_HOLDING = 0.8


@dataclass(frozen=True, slots=True)
class Found:
    """An element that was found again.

    Attributes:
        element: the element in the later take.
        likeness: how much of what it was known by it shares, from 0 to 1.
        is_certain: whether no other element can be meant.
    """

    element: Element
    likeness: float
    is_certain: bool


def find_again(old: Tree, new: Tree, wanted: Iterable[Element]) -> dict[Element, Found]:
    """Return elements of an earlier take with what each of them is in a later one; what is gone is left out.

    Args:
        old: the tree of the earlier take.
        new: the tree of the later one.
        wanted: elements of the earlier take.
    """
    return Search(old, new, wanted).found()


class Search:
    """The search for some elements of an earlier take in a later one.

    Args:
        old, new: the trees of the two takes.
        wanted: elements of the earlier one; those it does not have are passed over.
    """

    def __init__(self, old: Tree, new: Tree, wanted: Iterable[Element]) -> None:
        self._old, self._new = Traits(old), Traits(new)
        known = set(self._old.elements)
        self._wanted = [each for each in dict.fromkeys(wanted) if each in known]
        anchors = {above for each in self._wanted for above in each.ancestors() if above in known}
        self._traits = {each: set(self._old.of(each)) for each in {*self._wanted, *anchors}}
        asked = set().union(*self._traits.values())
        self._before: Counter[Trait] = Counter()
        for each in self._old.elements:
            self._before.update(asked.intersection(self._old.of(each)))
        self._now: dict[Trait, list[Element]] = defaultdict(list)
        self._shared: dict[Element, set[Trait]] = {}
        for each in self._new.elements:
            shared = asked.intersection(self._new.of(each))
            self._shared[each] = shared
            for trait in shared:
                self._now[trait].append(each)

    def found(self) -> dict[Element, Found]:
        """Return what was found; no two elements are found in the same one."""
        if self._is_same_page:
            there = dict(zip(self._old.elements, self._new.elements, strict=True))
            return {each: Found(there[each], 1.0, is_certain=True) for each in self._wanted}
        answers = {each: self._find(each) for each in self._wanted}
        taken: dict[Element, Element] = {}
        kept: dict[Element, Found] = {}
        ranked = sorted(
            ((each, found) for each, found in answers.items() if found is not None),
            key=lambda pair: (not pair[1].is_certain, -pair[1].likeness),
        )
        for each, found in ranked:
            if taken.setdefault(found.element, each) is each:
                kept[each] = found
        return kept

    @property
    def _is_same_page(self) -> bool:
        """Whether nothing has changed: then even what stands there several times is certain."""
        old, new = self._old, self._new
        return len(old.elements) == len(new.elements) and all(
            before.tag == now.tag and before.attributes == now.attributes and old.texts[before] == new.texts[now]
            for before, now in zip(old.elements, new.elements, strict=True)
        )

    def _find(self, element: Element) -> Found | None:
        traits = self._traits[element]
        whole = sum(WEIGHTS[trait[0]] for trait in traits)
        ranked = sorted(
            ((self._likeness(element, each) / whole, each) for each in self._candidates(element)), key=_most
        )
        if not ranked or ranked[0][0] < _LEAST:
            return None
        likeness, best = ranked[0]
        lead = likeness - ranked[1][0] if len(ranked) > 1 else likeness
        names = [trait for trait in traits if self._is_name(trait)]
        shared = sum(trait in self._shared[best] for trait in names)
        is_contradicted = any(
            len(self._now[trait]) == 1 and self._now[trait][0] is not best for trait in names if trait[0] not in _SPOKEN
        )
        is_named = shared > 0 and lead >= _LEAD
        if likeness < _CERTAIN:
            is_near = any(trait[0] == "heading" and trait in self._shared[best] for trait in traits)
            is_field = any(trait[0] == "field" and trait in self._shared[best] for trait in names)
            is_certain = is_named and (shared >= _SEVERAL or is_near or is_field)
        else:
            is_certain = is_named or self._is_only_one(element, best) or self._is_in_place(element, best)
        is_certain = is_certain and not is_contradicted
        return Found(best, likeness, is_certain)

    def _is_in_place(self, element: Element, best: Element) -> bool:
        """Whether it is the only one of its tag between the same two texts, then and now, and neither is elsewhere."""
        place = next(trait for trait in self._traits[element] if trait[0] == PLACE)
        if place not in self._shared[best] or self._before[place] > 1 or len(self._now[place]) > 1:
            return False
        was, now = self._old.texts[element], self._new.texts[best]
        is_elsewhere = bool(was) and was != now and bool(self._now["text", element.tag, was])
        return not is_elsewhere and (was == now or (best.tag, now) not in self._said)

    @cached_property
    def _said(self) -> set[tuple[str, str]]:
        """The texts of the earlier take, each with the tag of what holds it."""
        return {(each.tag, text) for each, text in self._old.texts.items() if text}

    def _is_name(self, trait: Trait) -> bool:
        """Whether an element is known by a trait: it is its own, and no other element has it in either take."""
        return trait[0] in OWN and self._before[trait] == 1 and len(self._now[trait]) <= 1

    def _candidates(self, element: Element) -> list[Element]:
        votes: Counter[Element] = Counter()
        for trait in self._traits[element]:
            sharing = self._now[trait]
            if len(sharing) <= _RARE:
                for each in sharing:
                    votes[each] += WEIGHTS[trait[0]]  # type: ignore[assignment]
        if element.tag not in NAMES_OTHERS:
            votes = Counter({each: count for each, count in votes.items() if each.tag not in NAMES_OTHERS})
        if not votes:
            return self._now[("tag", element.tag)][:_COMPARED]
        return [each for each, _ in votes.most_common(_COMPARED)]

    def _likeness(self, element: Element, other: Element) -> float:
        shared = sum(WEIGHTS[trait[0]] for trait in self._traits[element] & self._shared[other])
        before, now = self._old.texts[element], self._new.texts[other]
        if before and now and before != now:
            ratio = _likeness_of(before.split(), now.split())
            if ratio >= _ALIKE:
                shared += ratio * (WEIGHTS["words"] + (WEIGHTS["text"] if element.tag == other.tag else 0.0))
        return shared

    def _is_only_one(self, element: Element, best: Element) -> bool:
        """Whether it stands in something that is certain, and is the only one of its kind there, then and now."""
        for above in element.ancestors():
            names = [trait for trait in self._traits.get(above, ()) if self._is_name(trait) and self._now[trait]]
            if not names:
                continue
            around = self._now[names[0]][0]
            return (
                all(self._now[trait][0] is around for trait in names)
                and around.contains(best)
                and _kind(element, self._old) == _kind(best, self._new)
                and _count(above, element, self._old) == 1
                and _count(around, best, self._new) == 1
            )
        return False


def _most(pair: tuple[float, Element]) -> float:
    return -pair[0]


def _likeness_of(one: list[str], other: list[str]) -> float:
    """Which part of two texts their words have in common, from 0 to 1 (Dice's coefficient).

    A repair often adds words to those that were there: a text that holds all of the other's is at least `_HOLDING`.
    """
    common = (Counter(one) & Counter(other)).total()
    ratio = 2 * common / max(1, len(one) + len(other))
    return max(ratio, _HOLDING) if common and common == len(one) else ratio


def _kind(element: Element, traits: Traits) -> tuple[str, ...]:
    """What an element is taken for where there are several of its kind."""
    return element.tag, element.get("type") or "", traits.texts[element]


def _count(around: Element, element: Element, traits: Traits) -> int:
    """How many of an element's kind stand in another."""
    kind = _kind(element, traits)
    return sum(
        isinstance(each, Element) and each in traits.texts and _kind(each, traits) == kind
        for each in around.descendants()
    )
