"""The built-in stage: what a page does when keys come to it, by HTML's own behaviour and by its cues.

Every answer is a `Reaction`; the reader says what follows from it. Nothing here knows of speech. What one input does
is one change of the page: styles and tree follow when it is over.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from murvel.dom.document import Element
from murvel.dom.html.facts import is_disabled
from murvel.dom.html.inputs import ACTIVATED, input_type
from murvel.loading.fetch import PageSource
from murvel.loading.setup import DEFAULT_WIDTH
from murvel.page.captured.capture import Capture
from murvel.stage.html.activation import Activation
from murvel.stage.html.fields import Fields
from murvel.stage.html.overlays import Overlays
from murvel.stage.html.page import LivePage, ShownPage
from murvel.stage.html.player import CuePlayer
from murvel.stage.html.submission import Submission
from murvel.stage.inputs import Activate, Focus, Input, Keystroke, Load, Press, Type, Wait
from murvel.stage.reaction import Reaction
from murvel.stage.revealing import reveal
from murvel.stage.script import Event, Handler
from murvel.stage.stage import Revealed
from murvel.tree.focus import is_focusable
from murvel.tree.model import Tree

if TYPE_CHECKING:
    from murvel.stage.html.cues import Cue
    from murvel.stage.seen import Seen

_MOST_MOVES = 10
"""The most moves of the focus that may follow from one; a page that goes on is in a ring."""


class HtmlStage:
    """A page at work (`murvel.stage.stage.Stage`); its clock is simulated.

    Attributes:
        page: its document and tree as they are now.
    """

    is_live = False
    about = "the built-in stage"

    def __init__(self, source: PageSource, width: int = DEFAULT_WIDTH, cues: Sequence[Cue] = ()) -> None:
        self.page = LivePage(source, width)
        self._source, self._width = source, width
        self._cues = CuePlayer(self.page, cues, self)
        self._overlays = Overlays(self)
        self._fields = Fields(self)
        self._submission = Submission(self, self._overlays)
        self._moved_by_focus = 0
        """How many moves of the focus are being made, each by what the one before set off."""
        self._activation = Activation(self, self._fields, self._overlays, self._submission)

    @property
    def tree(self) -> Tree:
        """The tree as it is now."""
        return self.page.tree

    @property
    def focused(self) -> Element | None:
        """The element that has the focus, None if nothing has, or where it went away with its element."""
        focused = self.page.document.focused
        return focused if focused is not None and self.page.live.can_change(focused) else None

    @focused.setter
    def focused(self, element: Element | None) -> None:
        self.page.document.focused = element

    @property
    def focus(self) -> int | None:
        """The key of the element that has the focus, None if nothing has."""
        focused = self.focused
        return self.page.key_of(focused) if focused is not None else None

    @property
    def now(self) -> float:
        """The seconds since the page was loaded, as far as time was let pass."""
        return self._cues.now

    @property
    def next_due(self) -> float | None:
        """The second at which the next cue is due; None if none is."""
        return self._cues.next_due

    @property
    def is_busy(self) -> bool:
        """Nothing goes on by itself: an input is done when it returns."""
        return False

    def key_of(self, element: Element) -> int | None:
        """Return an element's key; None for one in a frame or shadow tree, which the stage does not change."""
        return self.page.key_of(element)

    def element(self, key: int | None) -> Element | None:
        """Return the element with a key, None if it is no longer on the page."""
        return self.page.element(key)

    def revealed(self) -> Revealed:
        """Return a copy of the page as it arrived, with everything shown that was hidden there."""
        return reveal(ShownPage(self._source, self._width))

    def measure(self) -> None:
        """Nothing is laid out."""

    seen = None
    """Nothing is laid out."""

    def look(self) -> Seen | None:
        """Nothing is laid out."""
        return None

    def picture(self, element: Element) -> bytes | None:
        """Return nothing: nobody has laid it out."""
        return None

    def take(self) -> Capture | None:
        """The page's own markup says it all."""
        return None

    def close(self) -> None:
        """Nothing is held."""

    def handlers(self) -> Sequence[Handler]:
        """Return what cues do, as far as their elements are on the page now."""
        return self._cues.handlers()

    def perform(self, given: Input) -> Reaction:
        """Let something happen, and return what came of it."""
        reaction = Reaction()
        match given:
            case Load():
                self._load(reaction)
            case Wait(until):
                self._cues.advance(until, reaction)
            case Press(Keystroke.ESCAPE):
                self._overlays.escape(reaction)
            case Focus(key) | Activate(key) | Press(_, key) | Type(key):
                element = self.page.element(key)
                if element is not None:
                    self._act(given, element, reaction)
        reaction.change = self.page.follow()
        return reaction

    def _act(self, given: Input, element: Element, reaction: Reaction) -> None:
        match given:
            case Focus():
                reaction.handled = True
                if element is not self.focused:
                    self.give_focus(element, reaction)
            case Activate():
                self.activate(element, reaction)
            case Type(_, character):
                self._fields.type(element, character, reaction)
            case Press(Keystroke.ENTER):
                if element.tag == "input" and input_type(element) not in ACTIVATED:
                    self._submission.submit_implicitly(element, reaction)
                else:
                    self.activate(element, reaction)
            case Press(Keystroke.SPACE):
                self.activate(element, reaction)
            case Press(stroke):
                self._arrow(element, stroke, reaction)

    def _arrow(self, element: Element, stroke: Keystroke, reaction: Reaction) -> None:
        """Press an arrow: left and right go through radio buttons, choices and sliders, and within all other fields."""
        is_range = element.tag == "input" and input_type(element) == "range"
        by = 1 if stroke in (Keystroke.DOWN, Keystroke.RIGHT) else -1
        if stroke in (Keystroke.LEFT, Keystroke.RIGHT):
            if is_range or element.tag == "select" or (element.tag == "input" and input_type(element) == "radio"):
                self._fields.arrow(element, by, reaction)
        else:
            self._fields.arrow(element, -by if is_range else by, reaction)

    def _load(self, reaction: Reaction) -> None:
        """Autofocus (HTML §6.6.7), and the cues for the page's arrival."""
        for element in self.page.document.root.descendants():
            if isinstance(element, Element) and "autofocus" in element.attributes and is_focusable(element):
                self.give_focus(element, reaction)
                break
        self._cues.trigger(Event.LOAD, None, reaction)

    # What the parts of the stage ask for

    def give_focus(self, element: Element, reaction: Reaction) -> None:
        """Put the focus on an element if it can take it."""
        if not is_focusable(element) or is_disabled(element):
            return
        before = self.focused
        if before is not None and before is not element:
            self.focused = None
            self.trigger(Event.LEAVE, before, reaction)
            if self.focused is not None:
                return  # what was left took the focus back
        self.focused = element
        reaction.focus = self.focus
        if self._moved_by_focus == _MOST_MOVES:
            note = "the page moves the focus round and round"
            reaction.notes += [note] if note not in reaction.notes else []
            return
        self._moved_by_focus += 1
        self.trigger(Event.FOCUS, element, reaction)
        self._moved_by_focus -= 1

    def close_overlay(self, element: Element, reaction: Reaction) -> None:
        """Close a dialog or a popover, as its own methods do."""
        self._overlays.close_any(element, reaction)

    def trigger(self, when: Event, element: Element, reaction: Reaction) -> bool:
        """Let an event happen on an element; whether any cue was set off."""
        return self._cues.trigger(when, element, reaction)

    def activate(self, element: Element, reaction: Reaction) -> None:
        """Do what a click does (HTML §6.4.2): the cues first, then the element's own behaviour."""
        if is_disabled(element):
            reaction.notes.append("disabled")
            return
        if is_focusable(element):
            self.focused = element
        by_cue = self.trigger(Event.ACTIVATE, element, reaction)
        if self.page.live.can_change(element):  # a cue may have taken it off the page
            self._activation.activate(element, reaction, by_cue)

    def value_changed(self, element: Element, reaction: Reaction) -> None:
        """Note that a person changed a value, and let the event happen."""
        reaction.handled = True
        if self.page.live.can_change(element):
            self.trigger(Event.INPUT, element, reaction)
