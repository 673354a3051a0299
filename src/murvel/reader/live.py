"""Live regions (WAI-ARIA 1.2 §6.6 aria-live, aria-atomic, aria-relevant, aria-busy; §5.3.5, live region roles).

Two trees of one page are compared; what changed in a live region is announced, and every other change is silent: a
looker sees it, a listener never learns of it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from murvel.page.document import Element
from murvel.page.text import collapse
from murvel.tree.model import Node, Tree

KeyOf = Callable[[Element], int | None]
"""Tells an element of any of the trees by a number that stays."""


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
        key: its element's number.
        name: its name, or its role where it has none.
        politeness, atomic, relevant, busy: its settings.
    """

    key: int
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
        key: the number of the element it happened to.
        text: what is there now, or was there until then.
        region: the live region it is in, None where it is in none.
        why_silent: why nothing is said of it, empty where it is announced.
    """

    kind: ChangeKind
    key: int
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
    """What is exposed on a page at one moment, by element.

    Attributes:
        tree: the tree.
        facts: what is exposed of each element that has text, a name or a value, or an object.
    """

    def __init__(self, tree: Tree, key_of: KeyOf) -> None:
        self.tree = tree
        self.key_of = key_of
        self.facts: dict[int, _Fact] = {}
        for node in tree.nodes:
            key = key_of(node.element)
            if key is None or node.is_part:
                continue
            fact = self.facts.setdefault(key, _Fact(node.element, []))
            if node.is_text:
                fact.texts.append(node.name)
                continue
            fact.node = node
            if not any(child.is_text for child in node.children) and (node.name or node.value):
                fact.texts.append(f"{node.name} {node.value}" if node.value else node.name)

    def regions(self) -> list[Region]:
        """Return the live regions of the page, those that are off too, in reading order."""
        return [self._region(node) for node in self.tree.nodes if self._is_region(node)]

    def region_of(self, element: Element) -> Region | None:
        """Return the innermost live region that an element is or stands in."""
        above: Element | None = element
        while above is not None:
            node = self.tree.node_of(above)
            if node is not None and self._is_region(node):
                return self._region(node)
            above = above.parent
        return None

    def _is_region(self, node: Node) -> bool:
        return not node.is_text and ("live" in node.states or node.role in ("timer", "marquee"))

    def _region(self, node: Node) -> Region:
        states = node.states
        relevant = frozenset(str(states.get("relevant", "additions text")).split())
        return Region(
            self.key_of(node.element) or 0,
            node.name or node.role,
            Politeness(str(states.get("live", "off"))),
            states.get("atomic") is True,
            frozenset({"additions", "text", "removals"}) if "all" in relevant else relevant,
            states.get("busy") is True,
        )

    def is_referred_to(self, key: int) -> bool:
        """Whether an element names or describes another one, and so is heard with that."""
        fact = self.facts.get(key)
        identifier = fact.element.attributes.get("id") if fact is not None else None
        if not identifier:
            return False
        return any(
            identifier in node.element.attributes.get(attribute, "").split()
            for node in self.tree.nodes
            if node.element.attributes
            for attribute in ("aria-describedby", "aria-labelledby", "aria-errormessage", "aria-details")
        )

    def content(self, element: Element) -> str:
        """Return all that is exposed in an element, as one line."""
        nodes = [node for node in self.tree.nodes if node.is_text or not node.children]
        inside = [node for node in nodes if element.contains(node.element) and not node.is_part]
        return collapse(" ".join(node.name if node.is_text else f"{node.name} {node.value}" for node in inside))

    def atomic_around(self, element: Element, region: Region) -> Element | None:
        """Return the element that is to be said as a whole when something in it changes, None where there is none."""
        above: Element | None = element
        while above is not None:
            node = self.tree.node_of(above)
            if node is not None and node.states.get("atomic") is True:
                return above
            if self.key_of(above) == region.key:
                return None
            above = above.parent
        return None


def changes(before: Snapshot, after: Snapshot) -> list[Change]:
    """Return what changed between two moments, outermost elements only, in reading order."""
    found: list[Change] = []
    for key, fact in after.facts.items():
        old = before.facts.get(key)
        if old is None:
            if not _is_new(fact.element.parent, before, after):
                text = after.content(fact.element)
                if text:
                    found.append(Change(ChangeKind.ADDED, key, text, after.region_of(fact.element)))
        elif old.text != fact.text:
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
        if key is not None and key in own.facts:
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
    said: dict[tuple[int, str], Announcement] = {}
    silent: list[Change] = []
    for change in found:
        reason = _why_silent(change, before, after)
        if reason or change.region is None:
            silent.append(Change(change.kind, change.key, change.text, change.region, reason))
            continue
        text = _announced(change, after)
        said.setdefault((change.region.key, text), Announcement(change.region, text))
    return list(said.values()), silent


def _why_silent(change: Change, before: Snapshot, after: Snapshot) -> str:
    region = change.region
    if region is None:
        if after.is_referred_to(change.key):
            return "it is in no live region, and heard only where something that refers to it is reached"
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
    node = after.tree.node_of(whole)
    content = after.content(whole)
    return f"{node.name}, {content}" if node is not None and node.name and node.name != content else content
