"""One way to ask the parser's engine which elements a selector matches.

Lexbor matches selectors on its own nodes and knows attributes only. States (`:checked`, `:popover-open` ...) are told
to it as words of one private attribute: a selector that speaks of a state is rewritten to ask for the word.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

from selectolax.lexbor import LexborHTMLParser, LexborNode, SelectolaxError

from murvel.page.controls import field_value, is_checked, is_marked_selected, is_open
from murvel.page.document import Element, Namespace
from murvel.page.errors import PageError
from murvel.page.inputs import CHECKED, TYPED, control_type

_STATE_ATTRIBUTE = "data-murvel-state"
"""The private attribute; the elements of a Document never have it."""


def _shows_placeholder(element: Element) -> bool:
    if element.tag != "textarea" and control_type(element) not in TYPED:
        return False
    return bool(element.attributes.get("placeholder")) and not field_value(element)


def _checked(element: Element) -> bool:
    if element.tag == "option":
        return is_marked_selected(element)
    return control_type(element) in CHECKED and is_checked(element)


STATE_PSEUDO_CLASSES: dict[str, Callable[[Element], bool]] = {
    "checked": _checked,
    "modal": lambda element: element.state.is_modal,
    "open": lambda element: element.tag in ("details", "dialog") and is_open(element),
    "placeholder-shown": _shows_placeholder,
    "popover-open": lambda element: element.state.is_showing,
}
"""The pseudo-classes that ask for state (Selectors 4 §11 to §13; HTML §4.17.3), each with its rule."""

_WITH_STATE = re.compile(rf":({'|'.join(STATE_PSEUDO_CLASSES)})(?![\w(-])", re.IGNORECASE)


def states_in(selector: str) -> set[str]:
    """Return the pseudo-classes of state that a selector speaks of."""
    return {name.lower() for name in _WITH_STATE.findall(selector)} if ":" in selector else set()


def without_states(selector: str) -> str:
    """Return a selector with its pseudo-classes of state as attribute selectors, which are as specific."""
    return _WITH_STATE.sub(lambda found: f'[{_STATE_ATTRIBUTE}~="{found.group(1).lower()}"]', selector)


class SelectorError(PageError):
    """A selector that the engine does not understand."""


@dataclass(slots=True)
class Subtree:
    """What one parse made, with the engine that matches selectors on it: the page, or a declared shadow tree.

    Attributes:
        root: the html element, or the template.
        ids: the first element with each id; ids are unique within a part (DOM §4.2.6).
        parser: Lexbor's tree.
        by_memory: our element for each of its nodes, by `mem_id`, in document order.
        declared: the templates in it that declare a shadow tree, with their content as markup.
        around: the part that a shadow tree's host stands in; None for the page.
    """

    root: Element
    ids: dict[str, Element]
    parser: LexborHTMLParser
    by_memory: dict[int, Element]
    declared: list[tuple[Element, str]]
    around: Subtree | None = None
    _nodes: dict[Element, LexborNode] = field(default_factory=dict)
    _told: set[str] = field(default_factory=set)
    """The state pseudo-classes that the engine was told of."""

    def elements(self) -> Iterable[Element]:
        """Return the elements of the part in document order."""
        return self.by_memory.values()

    def matching(self, selector: str) -> list[Element]:
        """Return the elements that a selector matches now, in document order.

        Raises:
            SelectorError: it is not understood.
        """
        found = self._engine_finds(self._without_states(selector))
        by_memory = self.by_memory
        elements = [by_memory[node.mem_id] for node in found if node.mem_id in by_memory]
        # The engine gives what a list of selectors matches one selector after the other.
        return sorted(set(elements), key=_order) if "," in selector else elements

    def node(self, element: Element) -> LexborNode:
        """Return the parser's node of an element of the part."""
        return self._known_nodes()[element]

    def has(self, element: Element) -> bool:
        """Whether an element belongs to the part."""
        return element in self._known_nodes()

    def _known_nodes(self) -> dict[Element, LexborNode]:
        """The parser's nodes by element; they are collected when one is first asked for."""
        if not self._nodes:
            by_memory = self.by_memory
            for node in self._engine_finds("*"):
                known = by_memory.get(node.mem_id)
                if known is not None:
                    self._nodes[known] = node
        return self._nodes

    def add(self, node: LexborNode, element: Element) -> None:
        """Note an element that was added after the parse."""
        self.by_memory[node.mem_id] = element
        self._nodes[element] = node

    def forget(self, element: Element) -> None:
        """Forget an element that is about to be removed: the parser may use its memory again for something else."""
        node = self._nodes.pop(element, None)
        if node is not None:
            self.by_memory.pop(node.mem_id, None)

    def in_document_order(self) -> None:
        """Sort the elements again after some were added."""
        self.by_memory = dict(sorted(self.by_memory.items(), key=lambda entry: entry[1].order))

    def tell_state(self, element: Element) -> None:
        """Tell the engine what state an element is in, as far as selectors asked for states yet."""
        if self._told and self.has(element):
            self._write_state(element)

    def _write_state(self, element: Element) -> None:
        words = [name for name in sorted(self._told) if STATE_PSEUDO_CLASSES[name](element)]
        node = self.node(element)
        if words:
            node.attrs[_STATE_ATTRIBUTE] = " ".join(words)
        elif _STATE_ATTRIBUTE in node.attributes:
            del node.attrs[_STATE_ATTRIBUTE]

    def _without_states(self, selector: str) -> str:
        asked = states_in(selector)
        if not asked:
            return selector
        if not asked <= self._told:
            self._told |= asked
            for element in self.by_memory.values():
                if element.namespace is Namespace.HTML and any(STATE_PSEUDO_CLASSES[name](element) for name in asked):
                    self._write_state(element)
        return without_states(selector)

    def _engine_finds(self, selector: str) -> list[LexborNode]:
        try:
            return self.parser.css(selector)
        except SelectolaxError as error:
            raise SelectorError(f"The selector {selector!r} is not understood", "check its spelling.") from error


def _order(element: Element) -> int:
    return element.order
