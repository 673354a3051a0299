"""Live regions (WAI-ARIA 1.2 §6.6 aria-live, aria-atomic, aria-relevant, aria-busy; §5.3.5, live region roles).

What was exposed before a change is compared with what is exposed after it; what changed in a live region is announced,
and every other change is silent: it is visible but never announced.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Mapping, Sequence, Set
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import cached_property

from murvel.dom.document import Element
from murvel.text import collapse
from murvel.tree.following.change import Exposed, exposed
from murvel.tree.model import Tree
from murvel.tree.node import Node

Key = Hashable
"""Tells an element, in whichever tree of a page it is: by its number on the stage, or by itself."""

KeyOf = Callable[[Element], Key]


class ChangeKind(StrEnum):
    """What happened to something that is exposed."""

    ADDED = "added"
    REMOVED = "removed"
    TEXT = "text"


class Politeness(StrEnum):
    """How a region wants to be heard (§6.6 aria-live)."""

    POLITE = "polite"
    ASSERTIVE = "assertive"
    OFF = "off"


@dataclass(frozen=True, slots=True)
class Region:
    """A live region and its settings as they work, whether stated or implied by its role.

    Attributes:
        key: tells its element.
        name: its name, or its role where it has none.
        politeness, atomic, relevant, busy: its settings.
    """

    key: Key
    name: str
    politeness: Politeness
    atomic: bool
    relevant: frozenset[str]
    busy: bool


@dataclass(frozen=True, slots=True)
class Change:
    """Something that changed.

    Attributes:
        kind: what happened.
        key: tells the element it happened to.
        text: what is there now, or was there until then.
        region: the live region it is in, None if it is in none.
        why_silent: why nothing is said of it, empty if it is announced.
    """

    kind: ChangeKind
    key: Key
    text: str
    region: Region | None
    why_silent: str = ""


@dataclass(frozen=True, slots=True)
class Announcement:
    """What a region has announced."""

    region: Region
    text: str


@dataclass(slots=True)
class _Fact:
    """What is exposed of one element by itself."""

    element: Element
    texts: list[str]
    node: Node | None = None

    @property
    def text(self) -> str:
        return collapse("".join(self.texts))


class Snapshot:
    """What is exposed on a page at one moment, by element, as far as it may be something else at another.

    Attributes:
        tree: the tree.
        facts: what is exposed of each element that has text, a name or a value, or an object.
    """

    def __init__(self, tree: Tree, exposed: Sequence[Exposed], key_of: KeyOf) -> None:
        self.tree = tree
        self.key_of = key_of
        self.facts: dict[Key, _Fact] = {}
        self._exposed = exposed
        for element, node, own, _ in exposed:
            fact = self.facts.setdefault(key_of(element), _Fact(element, []))
            if own:
                fact.texts.append(own)
            if not node.is_text:
                fact.node = node

    def region_of(self, element: Element) -> Region | None:
        """Return the innermost live region that an element is or stands in."""
        above: Element | None = element
        while above is not None:
            node = self.tree.node_of(above)
            if node is not None and is_region(node):
                return region_at(node, self.key_of)
            above = above.parent
        return None

    def is_referred_to(self, key: Key) -> bool:
        """Whether an element names or describes another one, and so is heard with that."""
        fact = self.facts.get(key)
        identifier = fact.element.attributes.get("id") if fact is not None else None
        return bool(identifier) and identifier in self._referred_to

    @cached_property
    def _referred_to(self) -> set[str]:
        attributes = ("aria-describedby", "aria-labelledby", "aria-errormessage", "aria-details")
        return {
            token
            for node in self.tree.nodes
            if node.element.attributes
            for attribute in attributes
            if attribute in node.element.attributes
            for token in node.element.attributes[attribute].split()
        }

    def content(self, element: Element) -> str:
        """Return all that is exposed in an element, as one line."""
        contents = (
            each.content
            for each in self._inside(element)
            if each.content is not None and element.contains(each.element)
        )
        return collapse(" ".join(contents))

    def _inside(self, element: Element) -> Sequence[Exposed]:
        """What may be exposed in an element: found quickly by where its first piece stands."""
        first = self._first_of.get(element)
        if first is None:
            return self._exposed
        end = first
        while end < len(self._exposed) and element.contains(self._exposed[end].element):
            end += 1
        return self._exposed[first:end]

    @cached_property
    def _first_of(self) -> dict[Element, int]:
        """Where what is exposed of an element begins, for elements with an object of their own."""
        return {each.element: at for at, each in reversed(list(enumerate(self._exposed)))}

    def atomic_around(self, element: Element, region: Region) -> Node | None:
        """Return the object that is to be said as a whole when something in it changes, None if there is none."""
        above: Element | None = element
        while above is not None:
            node = self.tree.node_of(above)
            if node is not None and node.states.get("atomic") is True:
                return node
            if bool(self.key_of(above) == region.key):
                return None
            above = above.parent
        return None


def is_region(node: Node) -> bool:
    """Whether a node is a live region, be it switched off."""
    return not node.is_text and ("live" in node.states or node.role in ("timer", "marquee"))


def region_at(node: Node, key_of: KeyOf) -> Region:
    """Return the live region that a node is, with its settings as they work."""
    states = node.states
    relevant = frozenset(str(states.get("relevant", "additions text")).split())
    return Region(
        key_of(node.element),
        node.name or node.role,
        Politeness(str(states.get("live", "off"))),
        states.get("atomic") is True,
        frozenset({"additions", "text", "removals"}) if "all" in relevant else relevant,
        states.get("busy") is True,
    )


def regions_of(tree: Tree) -> list[tuple[Node, Region]]:
    """Return the live regions of a page, those that are off too, in reading order."""
    return [(node, region_at(node, lambda element: element)) for node in tree.nodes if is_region(node)]


def changes(before: Snapshot, after: Snapshot, renewed: Set[Element] = frozenset()) -> list[Change]:
    """Return what changed between two moments, in reading order: outermost elements only, and the alerts in them.

    Text that was taken away and put back the same has changed as well: `renewed` has its elements.
    """
    found: list[Change] = []
    for key, fact in after.facts.items():
        old = before.facts.get(key)
        if old is None:
            if not _is_new(fact.element.parent, before, after):
                text = after.content(fact.element)
                if text:
                    found.append(Change(ChangeKind.ADDED, key, text, after.region_of(fact.element)))
            elif fact.node is not None and fact.node.role == "alert":
                alert = region_at(fact.node, after.key_of)
                found.append(Change(ChangeKind.ADDED, key, after.content(fact.element), alert))
        elif old.text != fact.text or (fact.text and fact.element in renewed):
            kind = ChangeKind.TEXT if fact.text else ChangeKind.REMOVED
            region = after.region_of(fact.element)
            found.append(Change(kind, key, fact.text or old.text, region))
    for key, fact in before.facts.items():
        if key not in after.facts and not _is_new(fact.element.parent, after, before):
            text = before.content(fact.element)
            if text:
                found.append(Change(ChangeKind.REMOVED, key, text, _region_after(fact.element, before, after)))
    return found


def _is_new(element: Element | None, other: Snapshot, own: Snapshot) -> bool:
    """Whether the nearest exposed element around is not there in the other snapshot."""
    above = element
    while above is not None:
        key = own.key_of(above)
        if key in own.facts:
            return key not in other.facts
        above = above.parent
    return False


def _region_after(element: Element, before: Snapshot, after: Snapshot) -> Region | None:
    """The region in which something was, if it is still there."""
    region = before.region_of(element)
    return region if region is not None and region.key in after.facts else None


def announce(found: list[Change], before: Snapshot, after: Snapshot) -> tuple[list[Announcement], list[Change]]:
    """Settle what is announced of changes, and why the others are silent.

    Returns:
        The announcements, each region's in order, and the silent changes with their reasons.
    """
    said: dict[tuple[Key, str], Announcement] = {}
    silent: list[Change] = []
    for change in found:
        reason = _why_silent(change, before, after)
        if reason or change.region is None:
            silent.append(Change(change.kind, change.key, change.text, change.region, reason))
            continue
        text = _announced(change, after)
        said.setdefault((change.region.key, text), Announcement(change.region, text))
    return list(said.values()), [each for each in (_without(change, said, after) for change in silent) if each.text]


def _without(change: Change, said: Mapping[tuple[Key, str], Announcement], after: Snapshot) -> Change:
    """A silent change without what alerts in it have announced."""
    around, text = after.facts.get(change.key), change.text
    for key, announced in said:
        fact = after.facts.get(key)
        if change.kind is ChangeKind.ADDED and around is not None and fact is not None:
            text = text.replace(announced, "", 1) if around.element.contains(fact.element) else text
    return change if text == change.text else replace(change, text=collapse(text))


def _why_silent(change: Change, before: Snapshot, after: Snapshot) -> str:
    region = change.region
    if region is None:
        if after.is_referred_to(change.key):
            return "it is in no live region, and heard only where something that refers to it is reached"
        if change.key == after.key_of(after.tree.root.element):
            return "a new title is heard only when the page is opened, or asked for"
        return "it is in no live region"
    if region.politeness is Politeness.OFF:
        return "its region is off"
    if region.busy:
        return "its region is busy"
    if region.key not in before.facts and not _is_alert(region, after):
        return "its region came together with its content; it has to be there before"
    wanted = {ChangeKind.ADDED: "additions", ChangeKind.REMOVED: "removals", ChangeKind.TEXT: "text"}[change.kind]
    if wanted not in region.relevant:
        return f"{wanted} are not relevant in its region"
    return ""


def _is_alert(region: Region, after: Snapshot) -> bool:
    """Browsers announce an alert that appears, whatever it holds."""
    fact = after.facts.get(region.key)
    return fact is not None and fact.node is not None and fact.node.role == "alert"


def _announced(change: Change, after: Snapshot) -> str:
    fact = after.facts.get(change.key)
    region = change.region
    assert region is not None
    element = fact.element if fact is not None else after.facts[region.key].element
    whole = after.atomic_around(element, region)
    if whole is None:
        return change.text
    inside = exposed(after.tree.nodes[whole.id : whole.end])
    content = collapse(" ".join(each.content for each in inside if each.content is not None))
    return f"{whole.name}, {content}" if whole.name and whole.name != content else content
