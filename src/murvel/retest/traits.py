"""Traits of elements: what an element can be known by, beside the place it stands at.

A trait is a kind with a value, as `("id", "search")`. Some are the element's own, the others tell of what is around it.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass

from murvel.dom.document import Element, Text
from murvel.dom.html.forms import SUBMITTABLE
from murvel.dom.places import Paths
from murvel.text import collapse
from murvel.tree.model import Tree
from murvel.tree.roles.aria_roles import PLAIN_ROLES

Trait = tuple[str, ...]
"""A kind, and the values that make up the trait."""

LONGEST = 300
"""So much of a text tells it from others."""

WEIGHTS = {
    "id": 5.0,
    "text": 2.0,
    "words": 3.0,
    "said": 1.0,
    "once": 2.0,
    "name": 3.0,
    "called": 2.0,
    "field": 3.0,
    "attribute": 2.0,
    "behaviour": 0.5,
    "class": 0.5,
    "tag": 1.5,
    "role": 1.0,
    "before": 2.5,
    "after": 2.5,
    "between": 1.0,
    "heading": 1.5,
    "parent": 1.0,
    "path": 2.0,
    "tags": 1.0,
    "children": 1.0,
}
"""How much it counts that two elements share a trait of each kind."""

OWN = frozenset({"id", "text", "said", "name", "field", "attribute", "behaviour", "once"})
"""Kinds by which an element is known wherever it stands."""

PLACE = "between"
"""The kind by which an element is known where it stands: no other of its tag is between the same two texts."""

_NO_TEXT = frozenset({"script", "style", "noscript", "template"})
_HEADINGS = frozenset({"h1", "h2", "h3", "h4", "h5", "h6"})
_ONCE = frozenset({"html", "head", "body", "title", "main"})
"""Elements that a page has once; their tag is a name."""
NAMES_OTHERS = frozenset({"label", "legend"})
"""Elements that say what others are named; none of those is found again in one of them."""
_KEPT_APART = frozenset({"id", "class", "style"})
_REPAIRED = ("on", "aria-", "role", "tabindex", "alt", "title", "placeholder")
"""Attributes that a repair changes begin so: they tell elements apart, and their loss says little."""


@dataclass(frozen=True, slots=True)
class _Around:
    """Texts of a page in order, with where each stands."""

    orders: list[int]
    texts: list[str]

    def before(self, order: int) -> str:
        """The last text before a place; empty if there is none."""
        at = bisect_left(self.orders, order)
        return self.texts[at - 1] if at else ""

    def after(self, end: int) -> str:
        """The first text from a place on; empty if there is none."""
        at = bisect_left(self.orders, end)
        return self.texts[at] if at < len(self.texts) else ""


class Traits:
    """The traits of the elements of a tree's document.

    Args:
        tree: the tree.

    Attributes:
        elements: the elements, in document order; scripts and styles are left out.
        texts: the text in each, up to `LONGEST` characters.
    """

    def __init__(self, tree: Tree) -> None:
        self._tree = tree
        root = tree.document.root
        nodes = [root, *root.descendants()]
        self.elements = [each for each in nodes if isinstance(each, Element) and each.tag not in _NO_TEXT]
        self.texts = _texts_in(self.elements)
        loose = [each for each in nodes if isinstance(each, Text) and each.parent.tag not in _NO_TEXT]
        said = [(each.order, words) for each in loose if (words := collapse(each.data)[:LONGEST])]
        self._texts = _Around([order for order, _ in said], [words for _, words in said])
        headings = [each for each in self.elements if each.tag in _HEADINGS or each.get("role") == "heading"]
        self._headings = _Around([each.order for each in headings], [self.texts[each] for each in headings])
        self._paths = Paths()
        self._tags: dict[Element, str] = {}
        for each in self.elements:
            above = self._tags.get(each.parent, "") if each.parent is not None else ""
            self._tags[each] = f"{above}/{each.tag}"[-LONGEST:]

    def of(self, element: Element) -> Iterator[Trait]:
        """Yield the traits of an element."""
        tag, attributes = element.tag, element.attributes
        yield ("tag", tag)
        if attributes.get("id"):
            yield ("id", attributes["id"])
        text = self.texts[element]
        if text:
            yield ("text", tag, text)
            yield ("words", text)
            if self._says(element, text):
                yield ("said", text)
        if tag in _ONCE:
            yield ("once", tag)
        for name, value in attributes.items():
            if name in _KEPT_APART:
                continue
            kind = "behaviour" if name.startswith(_REPAIRED) else "attribute"
            yield (kind, tag, name, value[:LONGEST])
            if name == "name" and tag in SUBMITTABLE:
                yield ("field", value[:LONGEST])
        for token in set(attributes.get("class", "").split()):
            yield ("class", token)
        node = self._tree.node_of(element)
        if node is not None:
            yield ("role", node.role)
            if node.name:
                yield ("name", node.role, node.name[:LONGEST])
                yield ("called", node.name[:LONGEST])
        before, after = self._texts.before(element.order), self._texts.after(element.end)
        yield ("before", before)
        yield ("after", after)
        yield ("between", tag, before, after)
        yield ("heading", self._headings.before(element.order))
        if element.parent is not None:
            above = element.parent.attributes
            yield ("parent", element.parent.tag, above.get("id", ""), above.get("class", ""))
        yield ("path", self._paths.of(element))
        yield ("tags", self._tags[element])
        inside = [each.tag for each in element.children if isinstance(each, Element)]
        if inside:
            yield ("children", *inside[:20])

    def _says(self, element: Element, text: str) -> bool:
        """Whether a text is what an element says, whatever tag it has.

        Of elements within each other that hold the same text, it is the outermost one that is more than a group of its
        content; where none is, the outermost one. A label says what its field is named.
        """
        if element.tag in NAMES_OTHERS:
            return False
        above = element.parent
        is_outermost = above is None or self.texts.get(above) != text
        if self._is_something(element):
            return is_outermost or not any(
                self._is_something(each) for each in element.ancestors() if self.texts.get(each) == text
            )
        return is_outermost and not any(
            self._is_something(each)
            for each in element.descendants()
            if isinstance(each, Element) and self.texts.get(each) == text
        )

    def _is_something(self, element: Element) -> bool:
        node = self._tree.node_of(element)
        return node is not None and node.role not in PLAIN_ROLES


def _texts_in(among: list[Element]) -> dict[Element, str]:
    """The text in each element, put together from the inside out, so that none is read twice."""
    found: dict[Element, str] = {}
    for element in reversed(among):
        pieces: list[str] = []
        length = 0
        for each in element.children:
            piece = found.get(each, "") if isinstance(each, Element) else each.data
            pieces.append(piece if isinstance(each, Text) else f" {piece} ")
            length += len(piece)
            if length > 2 * LONGEST:
                break
        found[element] = collapse("".join(pieces))[:LONGEST]
    return found
