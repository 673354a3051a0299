"""A lead: something a check noticed in one place, with all that a tester and a developer need to know of it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from murvel.checks.engine.check import Certainty, Check, Finding
from murvel.checks.engine.facts import Facts
from murvel.dom.document import Element
from murvel.dom.source_text import Position
from murvel.patterns import pattern
from murvel.reader.speech.wording.words import role_words
from murvel.text import collapse
from murvel.tree.node import Node

NOTHING = "nothing"
"""What is heard of what is hidden."""


@dataclass(frozen=True)
class Lead:
    """A lead.

    Attributes:
        check: what found it.
        finding: what it found.
        node: where that is in the tree: the element's node, or the nearest around it.
        page: the page it was found on.
    """

    check: Check
    finding: Finding
    node: Node
    page: Facts

    @property
    def element(self) -> Element:
        """The element it is about."""
        return self.finding.element

    @property
    def certainty(self) -> Certainty:
        """How sure it is."""
        return self.finding.certainty or self.check.certainty

    @property
    def detail(self) -> str:
        """What in particular."""
        return self.finding.detail

    @property
    def says(self) -> str:
        """What is wrong, with the particulars."""
        return f"{self.check.title}: {self.detail}" if self.detail else self.check.title

    @cached_property
    def heard(self) -> str:
        """What is heard there."""
        if self.finding.heard is not None:
            return self.finding.heard or NOTHING
        if self.element is self.page.root:
            return self._arrival()
        if self.node.element is not self.element:
            return collapse(self.page.words(self.element)) or NOTHING
        if self.node.role in ("generic", "paragraph", "form", "list"):
            return collapse(self.page.text_within(self.node)) or NOTHING
        return self.page.heard(self.node) or self.page.text_within(self.node) or NOTHING

    def _arrival(self) -> str:
        title = self.page.document.title
        return f"{title}, page" if title else "page without a title"

    @cached_property
    def expected(self) -> str:
        """What should be announced once it is repaired."""
        role = role_words(self.node) or self.node.role
        return self.check.expect.replace("{role}", role).replace("{name}", self.node.name.strip() or "its name")

    @cached_property
    def moves(self) -> list[str]:
        """The moves that lead there from the top, as commands of murvel listen."""
        return way_to_element(self.page, self.element)

    @cached_property
    def position(self) -> Position | None:
        """Line and column of the element's start tag, None if no start tag made it."""
        if self.node.element is self.element:
            return self.page.tree.position_of(self.node)
        return self.page.document.position(self.element)

    @cached_property
    def xpath(self) -> str:
        """The absolute XPath of the element."""
        return self.page.xpath(self.element)

    @property
    def fingerprint(self) -> str:
        """What tells the lead from others of the page, from one run to the next: its check, and the element's words.

        The place is left out of it, and so are numbers, what is quoted and the text of large parts, so that a lead
        stays known when something else on the page changes.
        """
        detail = _QUOTED.sub("“”", _NUMBERS.sub("#", self.detail))
        return f"{self.check.id} {self.element.tag} {_anchor(self.element)} {detail}".strip()


_OF_PAGE = frozenset({"html", "head", "meta", "title"})
"""Elements that speak for the page as a whole: they are heard as it opens."""


def way_to_element(page: Facts, element: Element) -> list[str]:
    """Return the moves that lead to an element, or to what stands for it, from the top of its page."""
    if element is page.root or element.tag in _OF_PAGE:
        return ["open page"]
    return way_to(page, page.node_around(element))


def way_to(page: Facts, node: Node) -> list[str]:
    """Return the moves that lead to a node from the top of its page, as commands of `murvel listen`."""
    route = page.routes.fewest(node)
    return list(route.moves) if route is not None else ["open page"]


_QUOTED = pattern("“[^”]*”")
_NUMBERS = pattern(r"\d+(?:[.,:]\d+)*")
_PAGE_WIDE = frozenset({"html", "head", "title", "body", "main"})
_LARGE = 200
"""An element with more characters is a part of the page rather than a thing on it."""


def _anchor(element: Element) -> str:
    if element.tag in _PAGE_WIDE:
        return ""
    attributes = element.attributes
    for name in ("id", "name", "href", "src", "for", "class"):
        if attributes.get(name):
            return f"{name}={attributes[name]}"
    text = collapse(element.text())
    return text[:80] if len(text) < _LARGE else ""
