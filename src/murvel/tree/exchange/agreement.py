"""How far our tree and a browser's agree on a page, element by element: exposure, roles, names, descriptions, states,
the texts in them, and the order of Tab.

What is compared are the elements that either side exposes with a role that says something; what only groups or lays
out is left out. Text is compared by the element that it stands in, whatever that is.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from difflib import SequenceMatcher
from enum import StrEnum
from itertools import zip_longest
from typing import Any, Protocol

from murvel.dom.places import Paths
from murvel.loading.errors import PageError
from murvel.text import collapse
from murvel.tree.exchange.devtools import role_of
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import GENERIC, RANGES

STATIC_TEXT = "StaticText"
"""The browser's role for text; generated content is text too."""

MOST_STOPS = 200
"""How many stops Tab is pressed for, at most."""

NOT_EXPOSED = ""
"""The role of what is not exposed, or says nothing."""

SAYS_NOTHING = frozenset(
    {
        GENERIC,
        "none",
        "InlineTextBox",
        "LineBreak",
        "ListMarker",
        "LayoutTable",
        "LayoutTableRow",
        "LayoutTableCell",
        "MenuListPopup",
        "RootWebArea",
        "sectionheader",
        "sectionfooter",
        "document",
    }
)
"""Roles of either side that are not compared: what groups, text, and the browser's own layout objects."""


@dataclass(frozen=True, slots=True)
class BrowserNode:
    """What the browser exposes for one element or text.

    Attributes:
        xpath: the absolute XPath of the element; of a text, that of the element around it.
        role: the browser's own role name.
        name, description, value: as text.
        states: its properties by name.
    """

    xpath: str
    role: str
    name: str
    description: str
    value: str
    states: dict[str, Any] = field(default_factory=dict)


class Fact(StrEnum):
    """What is compared."""

    ROLE = "exposure and role"
    NAME = "names"
    DESCRIPTION = "descriptions"
    STATES = "states"
    VALUE = "values"
    TEXT = "texts"
    ORDER = "order of Tab"


@dataclass(frozen=True, slots=True)
class Difference:
    """A disagreement about one element: what the browser says, and what we say."""

    fact: Fact
    xpath: str
    theirs: str
    ours: str

    @property
    def words(self) -> str:
        """What the browser says, in words."""
        return self._words(self.theirs)

    @property
    def own_words(self) -> str:
        """What we say, in words."""
        return self._words(self.ours)

    def _words(self, said: str) -> str:
        if self.fact is Fact.ROLE:
            return f"role {said}" if said else "nothing of it"
        what = {Fact.STATES: "states", Fact.TEXT: "text"}.get(self.fact, self.fact.value.removesuffix("s"))
        return f"{what} “{said}”" if said else f"no {what}"


@dataclass(slots=True)
class Agreement:
    """Counts over one or many pages, and the differences found."""

    compared: dict[Fact, int] = field(default_factory=lambda: dict.fromkeys(Fact, 0))
    differences: list[Difference] = field(default_factory=list)

    def add(self, other: Agreement) -> None:
        """Add the counts and differences of another page."""
        for fact, count in other.compared.items():
            self.compared[fact] += count
        self.differences.extend(other.differences)

    def rate(self, fact: Fact) -> float:
        """Return the share of compared elements that agree, 1.0 if there were none."""
        compared = self.compared[fact]
        differing = sum(difference.fact is fact for difference in self.differences)
        return 1 - differing / compared if compared else 1.0


def compare(tree: Tree, nodes: Iterable[BrowserNode]) -> Agreement:
    """Compare a tree with what a browser exposed for the same page."""
    paths = Paths()
    ours: dict[str, Node] = {}
    for node in tree.nodes:
        if not node.is_text:
            ours.setdefault(paths.of(node.element), node)
    theirs: dict[str, BrowserNode] = {}
    their_texts: dict[str, list[str]] = defaultdict(list)
    for each in nodes:
        if each.role == STATIC_TEXT:
            their_texts[each.xpath].append(each.name)
        else:
            theirs.setdefault(each.xpath, each)
    agreement = Agreement()
    for path in sorted(ours.keys() | theirs.keys()):
        _compare_element(agreement, path, ours.get(path), theirs.get(path))
    our_texts: dict[str, list[str]] = defaultdict(list)
    for node in tree.nodes:
        if node.is_text:
            our_texts[paths.of(node.element)].append(node.name)
    for path in sorted(our_texts.keys() | their_texts.keys()):
        _count(agreement, Fact.TEXT, path, _run(their_texts[path]), _run(our_texts[path]))
    return agreement


class SecondOpinion(Protocol):
    """What a browser itself makes of a page, for whoever wants to know where it differs from our tree."""

    def about(self, tree: Tree, node: Node) -> list[Difference]:
        """Return where it differs about one node; empty if it agrees, or cannot be asked."""

    def on(self, tree: Tree) -> Agreement:
        """Return how far it agrees on a whole tree."""


class TakenOpinion:
    """The opinion that was taken with a capture."""

    def __init__(self, told: Iterable[Mapping[str, Any]]) -> None:
        """Take over what a capture holds.

        Raises:
            PageError: it is damaged.
        """
        try:
            self._nodes = [BrowserNode(**each) for each in told]
        except TypeError as error:
            raise PageError("The browser's own tree in the capture is damaged", "capture the page again.") from error
        self._by_path = {each.xpath: each for each in reversed(self._nodes) if each.role != STATIC_TEXT}

    def about(self, tree: Tree, node: Node) -> list[Difference]:
        """Return where it differs about one node."""
        path = tree.xpath_of(node)
        return differences(path, node, self._by_path.get(path)) if self._nodes else []

    def on(self, tree: Tree) -> Agreement:
        """Return how far it agrees on a whole tree."""
        return compare(tree, self._nodes)


def differences(path: str, node: Node, other: BrowserNode | None) -> list[Difference]:
    """Return where a browser differs about one node; None stands for what it does not expose."""
    agreement = Agreement()
    if not node.is_text:
        _compare_element(agreement, path, node, other)
    return agreement.differences


def compare_order(tree: Tree, stops: Sequence[str]) -> Agreement:
    """Compare the order of Tab with what a browser's focus went to, given as absolute XPaths."""
    paths = Paths()
    agreement = Agreement()
    own = [paths.of(element) for element in tree.tab_order]
    own = own[:MOST_STOPS] if len(stops) == MOST_STOPS else own
    for kind, first, last, our_first, our_last in SequenceMatcher(None, stops, own, autojunk=False).get_opcodes():
        for theirs, ours in zip_longest(stops[first:last], own[our_first:our_last], fillvalue=NOT_EXPOSED):
            agreement.compared[Fact.ORDER] += 1
            if kind != "equal":
                agreement.differences.append(Difference(Fact.ORDER, theirs or ours, theirs, ours))
    return agreement


def _run(texts: list[str]) -> str:
    return collapse("".join(texts))


def _compare_element(agreement: Agreement, path: str, node: Node | None, other: BrowserNode | None) -> None:
    our_role = NOT_EXPOSED if node is None or node.role in SAYS_NOTHING else _OUR_ROLE.get(node.role, node.role)
    their_role = NOT_EXPOSED if other is None or other.role in SAYS_NOTHING else role_of(other.role)
    if their_role in SAYS_NOTHING:
        their_role = NOT_EXPOSED
    if not our_role and not their_role:
        return
    _count(agreement, Fact.ROLE, path, their_role, our_role)
    if node is None or other is None or our_role != their_role:
        return
    _count(agreement, Fact.NAME, path, collapse(other.name), collapse(node.name))
    _count(agreement, Fact.DESCRIPTION, path, collapse(other.description), collapse(node.description))
    if our_role in RANGES | {"spinbutton", "combobox", "textbox", "searchbox"}:
        # The browser tells the number also where the author gives words for it.
        own = node.value if "aria-valuetext" not in node.element.attributes else other.value
        _count(agreement, Fact.VALUE, path, collapse(other.value), collapse(own))
    _count(agreement, Fact.STATES, path, _written(_their_states(other)), _written(_our_states(node, other)))


def _count(agreement: Agreement, fact: Fact, path: str, theirs: str, ours: str) -> None:
    agreement.compared[fact] += 1
    if theirs != ours:
        agreement.differences.append(Difference(fact, path, theirs, ours))


_OUR_ROLE = {"filebutton": "button"}
"""Roles of ours that the browser has no other name for than a wider one."""

_STATES = {
    "checked": "checked",
    "pressed": "pressed",
    "expanded": "expanded",
    "selected": "selected",
    "disabled": "disabled",
    "required": "required",
    "invalid": "invalid",
    "readonly": "readonly",
    "multiselectable": "multiselectable",
    "multiline": "multiline",
    "level": "level",
    "hasPopup": "haspopup",
    "modal": "modal",
    "busy": "busy",
    "live": "live",
    "atomic": "atomic",
}
"""The browser's property for each state that it gives; the others rest on the standard alone."""


_WIDER = {"1": "true", "spelling": "true", "grammar": "true"}
"""Values of aria-invalid that the browser's protocol does not tell apart."""


def _their_states(node: BrowserNode) -> dict[str, Any]:
    return {ours: node.states[theirs] for theirs, ours in _STATES.items() if theirs in node.states}


def _our_states(node: Node, other: BrowserNode) -> dict[str, Any]:
    """Our states, without those the browser's protocol does not tell for a role: of these two it says yes or no where
    it speaks of them at all."""
    told = {name for name in _STATES.values() if name not in ("required", "readonly") or name in other.states}
    return {name: node.states[name] for name in told if name in node.states}


def _written(states: dict[str, Any]) -> str:
    """States as text, without those at their default, which either side may leave out."""
    words = {name: str(value).lower() for name, value in states.items()}
    for name in words.keys() & {"busy", "invalid"}:
        words[name] = _WIDER.get(words[name], words[name])
    return " ".join(
        f"{name}={value}" for name, value in sorted(words.items()) if value not in ("false", "none", "off", "")
    )
