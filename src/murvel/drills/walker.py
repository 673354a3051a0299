"""Somebody who works a page by keyboard: each key with what is heard, what appears, and where the focus is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from murvel.dom.document import Element
from murvel.drills.errors import NotReachedError
from murvel.reader.acting import hear_out
from murvel.reader.following import FOCUS_MOVED, Said, follow, perform
from murvel.reader.session import ReadingSession
from murvel.stage.inputs import Activate, Focus, Hover, Input, Keystroke, Press, Tab, Wait
from murvel.stage.stage import Stage
from murvel.tree.node import Node


@dataclass(frozen=True, slots=True)
class Walked:
    """A key, and what is heard of it."""

    move: str
    heard: str


@dataclass(slots=True)
class Walker:
    """Works a page, and keeps the walk.

    Attributes:
        session: the reading of the page.
        stage: what the page runs on.
        walk: what was done so far.
        tell: is called with each step; it may raise to stop the drill.
        opening: the keys of what can open, None for all that appears.
    """

    session: ReadingSession
    stage: Stage
    tell: Callable[[Walked], None]
    walk: list[Walked] = field(default_factory=list)
    opening: set[int] | None = None

    def element(self, key: int) -> Element | None:
        """Return the element with a key, as it is now."""
        return self.stage.element(key)

    def node(self, key: int) -> Node | None:
        """Return the node of an element, as it is now."""
        element = self.stage.element(key)
        return self.session.tree.node_of(element) if element is not None else None

    def exposed(self) -> set[int]:
        """Return the keys of all that is exposed now."""
        found = (self.stage.key_of(node.element) for node in self.session.tree.nodes)
        return {key for key in found if key is not None}

    def present(self) -> set[int]:
        """Return the keys of all that is on the page now, exposed or not."""
        root = self.session.tree.document.root
        found = (self.stage.key_of(each) for each in (root, *root.descendants()) if isinstance(each, Element))
        return {key for key in found if key is not None}

    @property
    def focus(self) -> int | None:
        """The key of what has the focus."""
        return self.stage.focus

    def stops_in(self, key: int) -> list[int]:
        """Return the keys of the Tab stops that an element is or has in it, also by slots and shadow trees."""
        node, element = self.node(key), self.element(key)
        if node is None:
            return []
        inside = {each.element for each in self.session.tree.nodes[node.id : node.end]}
        order = self.session.tree.tab_order
        stops = [each for each in order if each in inside or (element is not None and element.contains(each))]
        return [found for each in stops if (found := self.stage.key_of(each)) is not None]

    def is_at(self, key: int) -> bool:
        """Whether the focus is on an element or in it."""
        around = self.element(key)
        focused = self.element(self.focus) if self.focus is not None else None
        if focused is None or around is None:
            return False
        return focused is around or around.contains(focused) or self.focus in self.stops_in(key)

    def active_of(self, key: int | None) -> tuple[int | None, ...]:
        """What an element says is active in it (aria-activedescendant)."""
        node = self.node(key) if key is not None else None
        active = self.session.tree.relations_of(node).get("activedescendant", ()) if node is not None else ()
        return tuple(self.stage.key_of(each.element) for each in active)

    @property
    def place(self) -> tuple[int | None, ...]:
        """Where the keys stand: the focus, and what it says is active."""
        return self.focus, *self.active_of(self.focus)

    def reach(self, key: int) -> str:
        """Come to an element with Tab, from right before its first stop; return what is heard."""
        stop = next(iter(self.stops_in(key)), None)
        if not self.stage.is_live:
            return self._do("tab", Focus(stop if stop is not None else key), stop)
        heard = self._do("tab", Tab(False, self._first_on_the_way(stop) if stop is not None else key), None)
        if stop is None or self.is_at(key):
            return heard
        # It is a stop; Tab could not begin right before it, as in a closed details element.
        return self._do("tab", Focus(stop), stop)

    def come_to(self, key: int) -> str:
        """Come to an element with Tab for the first time; return what is heard.

        Raises:
            NotReachedError: it is a Tab stop, or may be one, and something else keeps the focus.
        """
        heard = self.reach(key)
        if self.is_at(key):
            return heard
        element, modal = self.element(key), self.session.tree.document.modal
        if modal is not None and element is not None and not modal.contains(element):
            raise NotReachedError("a modal dialog is open in front of it")
        if self.stops_in(key):
            node = self.node(self.focus) if self.focus is not None else None
            words = self.session.tree.words_of(node) if node is not None else "nothing"
            raise NotReachedError(f"the focus is on {words}")
        return heard

    def _first_on_the_way(self, stop: int) -> int:
        """A stop, or the first of those right before it that nothing is heard of: guards that pass the focus on."""
        order = self.session.tree.tab_order
        at = next((number for number, each in enumerate(order) if self.stage.key_of(each) == stop), 0)
        while at and _is_guard(self.session.tree.node_of(order[at - 1])):
            at -= 1
        key = self.stage.key_of(order[at]) if order else None
        return key if key is not None else stop

    def press(self, stroke: Keystroke) -> str:
        """Press a key at the focus; return what is heard."""
        return self._do(_WORDS.get(stroke, stroke.value.lower()), Press(stroke, self.focus), self.focus)

    def tab(self, *, is_back: bool = False) -> str:
        """Press Tab, or Shift+Tab; return what is heard."""
        words = "shift+tab" if is_back else "tab"
        if self.stage.is_live:
            return self._do(words, Tab(is_back, None), None)
        order = self.session.tree.tab_order
        at = next((number for number, each in enumerate(order) if self.stage.key_of(each) == self.focus), None)
        place = -1 if at is None else at + (-1 if is_back else 1)
        if not 0 <= place < len(order):
            return self._note(words, "(the focus left the page)")
        key = self.stage.key_of(order[place])
        return self._do(words, Focus(key), key) if key is not None else self._note(words, "(nothing is heard)")

    def click(self, key: int) -> str:
        """Press an element with the pointer; return what is heard."""
        return self._do("activate", Activate(key), key)

    def hover(self, key: int) -> str:
        """Put the pointer on an element; return what is heard."""
        return self._do("hover", Hover(key), None)

    def hover_away(self) -> str:
        """Take the pointer away from all elements."""
        return self._do("hover away", Hover(None), None)

    def wait(self, seconds: float) -> str:
        """Let time pass; return what is heard meanwhile."""
        end, heard = self.stage.now + seconds, ""
        while self.stage.now < end:
            heard = self._do(f"wait {seconds:g} s", Wait(end), None) or heard
        return heard

    def _do(self, words: str, given: Input, key: int | None) -> str:
        known = len(self.session.log)
        node = self.node(key) if key is not None and not isinstance(given, Focus) else None
        before = Said.of(self.session, node) if node is not None else None
        self.session.speech.interrupt(self.session.clock)
        outcome = perform(self.stage, self.session, given)
        focused = self.stage.element(self.stage.focus)
        if focused is not None and outcome.reaction.focus is None and isinstance(given, Focus | Tab):
            outcome.reaction.focus = self.stage.focus
        follow(self.stage, self.session, words, outcome, before=before, key=key)
        hear_out(self.session)
        lines = [each.line for each in self.session.log[known:] if each.move != FOCUS_MOVED or each.utterance.text]
        return self._note(words, " / ".join(lines))

    def _note(self, words: str, heard: str) -> str:
        step = Walked(words, heard)
        self.walk.append(step)
        self.tell(step)
        return heard


_WORDS = {
    Keystroke.SPACE: "space",
    Keystroke.DOWN: "arrow down",
    Keystroke.UP: "arrow up",
    Keystroke.LEFT: "arrow left",
    Keystroke.RIGHT: "arrow right",
}


def _is_guard(node: Node | None) -> bool:
    return node is None or (node.role == "generic" and not node.name)


def is_said(heard: str) -> bool:
    """Whether a listener hears something: what the tool tells stands in brackets."""
    return any(line.strip() and not line.strip().startswith("(") for line in heard.split(" / "))
