"""The pieces that are said of one node: name, role, value, states, position, description, hint."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Set

from murvel.dom.html.facts import is_disabled
from murvel.dom.html.inputs import input_type
from murvel.reader.speech.pronunciation import spoken
from murvel.reader.speech.utterance import Part, PartKind
from murvel.reader.speech.value_words import date_words, math_words, percent
from murvel.reader.speech.voice import Piece, Voice
from murvel.reader.speech.wording.words import SWITCHED, Words
from murvel.text import collapse
from murvel.tree.fields import is_rich_text
from murvel.tree.model import Tree
from murvel.tree.names.name_sources import NameFrom
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import EDITS, LINKS, NEEDS_NAME
from murvel.tree.states.control_values import text_value

_UNDERSTOOD = frozenset({("combobox", "haspopup"), ("switch", "checked")})
"""States that a role's word says already, or that are said in other words."""

_SAID_OTHERWISE = {("switch", SWITCHED): "checked"}
"""The states of the tree that are said in words of their own for a role."""

_FIELDS_BY_TYPE = {"time": "timefield", "month": "monthfield", "week": "weekfield", "password": "passwordfield"}
"""Types of input that are called otherwise than their role."""

_CALLED_BY_TYPE = frozenset({"datefield", "textbox"})

_GAUGES = frozenset({"progressbar", "meter"})
_MOST_CHOSEN = 10
"""The most chosen options that are named; all are counted."""


class Pieces:
    """Says one node, piece by piece, in the words of a voice.

    Attributes:
        tree, voice, words: what is spoken of, and how.
        visited: the addresses of links that were followed before.
    """

    def __init__(self, tree: Tree, voice: Voice, words: Words, visited: Set[str]) -> None:
        self.tree = tree
        self.voice = voice
        self.words = words
        self.visited = visited
        self._of: dict[Piece, Callable[[Node], Iterator[Part]]] = {
            Piece.NAME: self.name,
            Piece.ROLE: self.role,
            Piece.VALUE: self.value,
            Piece.STATES: self.states,
            Piece.POSITION: self.position,
            Piece.DESCRIPTION: self.description,
            Piece.HINT: self.hint,
        }

    def spoken(self, text: str) -> str:
        """Return the words that text of the page is heard as."""
        return spoken(text, self.voice.punctuation, self.words)

    def label(self, text: str) -> str:
        """Return the words that a name or the like is heard as, by itself."""
        return self.spoken(text).strip()

    def all_of(self, node: Node) -> Iterator[Part]:
        """Yield what is said of one node but text, in the voice's order."""
        for piece in self.voice.order:
            yield from self._of[piece](node)

    def around(self, node: Node) -> list[Part]:
        """Return what is said of a link or control behind something that stands in it: its role and states."""
        pieces = (piece for piece in self.voice.order if piece in (Piece.ROLE, Piece.STATES))
        role = [Part(PartKind.ROLE, self.words.role(node))]
        return [part for piece in pieces for part in (role if piece is Piece.ROLE else self._of[piece](node))]

    def name(self, node: Node) -> Iterator[Part]:
        """Yield the name; an empty part where one is missing."""
        if node.role == "math" and node.name_from is None:
            yield Part(PartKind.TEXT, self.label(math_words(node.element, self.words)))
        elif node.name or node.role in NEEDS_NAME:
            yield Part(PartKind.NAME, self.label(node.name))

    def role(self, node: Node) -> Iterator[Part]:
        """Yield the role, with the level of a heading inside a control that is heard as one."""
        words = self.words.role(node)
        if node.role in _CALLED_BY_TYPE and node.element.tag == "input" and "roledescription" not in node.states:
            words = self.words.roles[_FIELDS_BY_TYPE.get(input_type(node.element), node.role)]
        if node.role == "disclosure":
            headings = (each for each in self.tree.nodes[node.id + 1 : node.end] if each.role == "heading")
            heading = next(headings, None)
            if heading is not None:
                yield Part(PartKind.ROLE, self.words.role(heading))
        if words or is_rich_text(node):
            yield Part(PartKind.ROLE, words or self.words.phrase("edit"))

    def value(self, node: Node) -> Iterator[Part]:
        """Yield the value: what was chosen in a list, percent of a gauge, a date in words."""
        if node.role == "listbox":
            yield from self._chosen(node)
        elif is_rich_text(node) and not text_value(node.element):
            yield Part(PartKind.BLANK, self.words.phrase("empty"))
        elif node.value and not _is_secret(node):
            yield Part(PartKind.VALUE, self.label(self._value_words(node)))

    def _value_words(self, node: Node) -> str:
        if node.role in _GAUGES:
            return percent(node.element, node.role, self.words) or node.value
        if node.role == "datefield":
            return date_words(input_type(node.element), node.value, self.words)
        return collapse(node.value)

    def _chosen(self, listbox: Node) -> Iterator[Part]:
        """What is chosen in a list box; how many, or which of how many."""
        options = [each for each in self.tree.nodes[listbox.id + 1 : listbox.end] if each.role == "option"]
        chosen = [each for each in options if each.states.get("selected") is True]
        for option in chosen[:_MOST_CHOSEN]:
            yield Part(PartKind.VALUE, self.label(option.name))
        if listbox.states.get("multiselectable") is True or not chosen:
            yield Part(PartKind.STATE, self.words.counted("selected", len(chosen)))
        else:
            yield from self.position(chosen[0])

    def states(self, node: Node) -> Iterator[Part]:
        """Yield the states."""
        if node.states:
            for name in self.words.states:
                value = node.states.get(_SAID_OTHERWISE.get((node.role, name), name))
                if value is not None and (node.role, name) not in _UNDERSTOOD:
                    text = self.words.state(name, value)
                    if text:
                        yield Part(PartKind.STATE, text)
        if _has_suggestions(node):
            yield Part(PartKind.STATE, self.words.phrase("suggestions"))
        if "aria-details" in node.element.attributes and self.tree.relations_of(node).get("details"):
            yield Part(PartKind.STATE, self.words.phrase("details"))
        if node.element.tag == "fieldset" and is_disabled(node.element) and "disabled" not in node.states:
            yield Part(PartKind.STATE, self.words.state("disabled", True))
        if self.visited and self.voice.visited and node.role in LINKS:
            address = node.element.attributes.get("href")
            if address is not None and self.tree.document.resolve(address) in self.visited:
                yield Part(PartKind.STATE, self.words.phrase("visited"))

    def position(self, node: Node) -> Iterator[Part]:
        """Yield the place among its like, and the level in a tree."""
        if node.role in ("treeitem", "row") and "level" in node.states:
            yield Part(PartKind.POSITION, self.words.phrase("level", n=node.states["level"]))
        position, size = node.states.get("posinset"), node.states.get("setsize")
        if position is not None and size is not None:
            words = self.words.phrase("place", n=position, size=size) if size != -1 else str(position)
            yield Part(PartKind.POSITION, words)

    def description(self, node: Node) -> Iterator[Part]:
        """Yield the descriptions, each by itself, the message of an invalid field, and an empty field's example."""
        known = collapse(node.name).casefold()
        for text in self._descriptions(node):
            if text and collapse(text).casefold() != known:
                yield Part(PartKind.DESCRIPTION, self.label(text))
        element = node.element
        if node.states.get("invalid", False) is not False and "aria-errormessage" in element.attributes:
            for text in self.tree.naming.referenced_texts(element, "aria-errormessage"):
                yield Part(PartKind.DESCRIPTION, self.label(text))
        if node.role in EDITS and not node.value and node.name_from is not NameFrom.PLACEHOLDER:
            example = element.attributes.get("placeholder") or element.attributes.get("aria-placeholder", "")
            if collapse(example).casefold() not in ("", known):
                yield Part(PartKind.DESCRIPTION, self.label(collapse(example)))

    def _descriptions(self, node: Node) -> list[str]:
        if node.description_from is NameFrom.DESCRIBEDBY and self.tree.has_source:
            return self.tree.naming.referenced_texts(node.element, "aria-describedby")
        return [node.description]

    def hint(self, node: Node) -> Iterator[Part]:
        """Yield what to press, and the keys that lead there."""
        hint = self.words.hints.get(node.role)
        is_fixed = "disabled" in node.states or (node.states.get("readonly") is True and node.role in EDITS)
        if hint and not is_fixed:
            yield Part(PartKind.HINT, hint)
        if node.is_text:
            return
        for name, attribute in (("keys", "aria-keyshortcuts"), ("access_key", "accesskey")):
            keys = collapse(node.element.attributes.get(attribute, ""))
            if keys:
                yield Part(PartKind.HINT, self.words.phrase(name, keys=self.label(keys)))

    def row(self, node: Node, left: Node | None) -> Iterator[Part]:
        """Yield what is said of the row of a cell, where reading comes from another row: its level and states."""
        row = next((above for above in node.ancestors() if above.role == "row"), None)
        if row is None or (left is not None and row.contains(left)):
            return
        if Piece.POSITION in self.voice.order:
            yield from self.position(row)
        if Piece.STATES in self.voice.order:
            yield from self.states(row)


def _is_secret(node: Node) -> bool:
    """Whether a value is a password: neither it nor its length is said."""
    return node.element.tag == "input" and input_type(node.element) == "password"


def _has_suggestions(node: Node) -> bool:
    """Whether a field offers what stands in a datalist (HTML §4.10.5.3.9)."""
    return node.role == "combobox" and node.element.tag == "input" and "list" in node.element.attributes
