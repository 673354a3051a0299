"""Playing cues: when something happens, and as time passes."""

from __future__ import annotations

from collections.abc import Sequence
from heapq import heappop, heappush
from typing import TYPE_CHECKING, Protocol

from murvel.dom.document import Element
from murvel.loading.addresses import shown
from murvel.loading.problems import ProblemKind
from murvel.patterns import pattern
from murvel.stage.html.page import LivePage
from murvel.stage.html.showing import hide, set_property, show
from murvel.stage.reaction import Reaction
from murvel.stage.script import Deed, Event, Handler, ScriptedChange

if TYPE_CHECKING:
    from murvel.stage.html.cues import Cue, CueAction, SetClass

_OF_THE_MOMENT = pattern(r"\[[^\]]*\]|::?[\w-]+(?:\([^()]*\))?")
"""What of a selector may match at another time: attributes and states."""


class MovesThings(Protocol):
    """Who moves the focus, and closes what lies over the page, when a cue says so."""

    def give_focus(self, element: Element, reaction: Reaction) -> None:
        """Put the focus on an element if it can take it."""

    def close_overlay(self, element: Element, reaction: Reaction) -> None:
        """Close a dialog or a popover, as its own methods do."""


class CuePlayer:
    """Plays the cues of a page.

    Attributes:
        now: the seconds since the page was loaded.
    """

    def __init__(self, page: LivePage, cues: Sequence[Cue], mover: MovesThings) -> None:
        self._page = page
        self._all = cues
        self._mover = mover
        self.now = 0.0
        self._due: list[tuple[float, int, Cue]] = []
        self._scheduled = 0
        for cue in cues:
            if isinstance(cue.when, float):
                self._schedule(cue, cue.when)
        self._look_for_places()

    def _look_for_places(self) -> None:
        """Note the cues whose place is nowhere on the page; what other cues insert may have it.

        Raises:
            StageError: a selector is not understood.
        """
        inserts = any(change.insert is not None for cue in self._all for change in cue.do)
        for cue in self._all:
            selectors = [cue.where] if not isinstance(cue.when, float) and cue.when != "load" else []
            selectors += [_parts(change)[1] for change in cue.do]
            for selector in dict.fromkeys(each for each in selectors if each):
                at_rest = _OF_THE_MOMENT.sub("", selector).strip() or "*"
                if not self._page.select(selector) and not inserts and not self._page.matches_any(at_rest):
                    text = f"A cue speaks of {shown(selector)}, which is nowhere on the page."
                    self._page.document.problems.add(ProblemKind.CUES, text)

    @property
    def next_due(self) -> float | None:
        """The second at which the next cue is due; None if none is."""
        return self._due[0][0] if self._due else None

    def _schedule(self, cue: Cue, at: float) -> None:
        self._scheduled += 1
        heappush(self._due, (at, self._scheduled, cue))

    def advance(self, until: float, reaction: Reaction) -> None:
        """Let time pass up to a second, but only to the first cue that is due: what it does is one change."""
        if self._due and self._due[0][0] <= until:
            self.now = max(self.now, self._due[0][0])
            self._play(heappop(self._due)[2], reaction)
        else:
            self.now = max(self.now, until)

    def trigger(self, when: Event, element: Element | None, reaction: Reaction) -> bool:
        """Play or schedule the cues for an event on an element; whether there were any."""
        # All are matched before any is played, or one would set off the next.
        matching = [cue for cue in self._all if cue.when == when and self._is_meant(cue, element)]
        for cue in matching:
            if cue.after:
                self._schedule(cue, self.now + cue.after)
            else:
                self._play(cue, reaction)
        return bool(matching)

    def _is_meant(self, cue: Cue, element: Element | None) -> bool:
        return element is None or any(each.contains(element) for each in self._page.select(cue.where))

    def _play(self, cue: Cue, reaction: Reaction) -> None:
        reaction.handled = True
        for change in cue.do:
            self._change(change, reaction)

    def _change(self, change: CueAction, reaction: Reaction) -> None:
        live = self._page.live
        deed, selector, name, value = _parts(change)
        elements = self._page.select(selector)
        for element in elements[:1] if deed in (Deed.FOCUS, Deed.TITLE) else elements:
            match deed:
                case Deed.ATTRIBUTE:
                    live.set_attribute(element, name, value)
                case Deed.CLASS:
                    classes = [each for each in element.attributes.get("class", "").split() if each != name]
                    live.set_attribute(element, "class", " ".join([*classes, name] if value is not None else classes))
                case Deed.STYLE:
                    set_property(live, element, name, value)
                case Deed.TEXT | Deed.TITLE:
                    live.set_text(element, value or "")
                case Deed.INSERT:
                    live.insert(element, value or "", change.insert.at if change.insert is not None else "end")
                case Deed.REMOVE:
                    live.remove(element)
                case Deed.SHOW:
                    show(live, element)
                case Deed.HIDE if element.state.is_modal or element.state.is_showing:
                    self._mover.close_overlay(element, reaction)
                case Deed.HIDE:
                    hide(live, element)
                case Deed.FOCUS:
                    self._mover.give_focus(element, reaction)

    def handlers(self) -> list[Handler]:
        """Return what the cues do, as far as their elements are on the page now."""
        return [self._handler(cue) for cue in self._all]

    def _handler(self, cue: Cue) -> Handler:
        when = cue.when if isinstance(cue.when, float) else Event(cue.when)
        where = tuple(self._page.select(cue.where)) if cue.where else ()
        changes = []
        for change in cue.do:
            deed, selector, name, value = _parts(change)
            changes.append(ScriptedChange(deed, tuple(self._page.select(selector)), name, value))
        return Handler(when, where, tuple(changes))


def _class(change: SetClass) -> tuple[str, str | None]:
    return (change.add, "") if change.add is not None else (change.remove or "", None)


def _parts(change: CueAction) -> tuple[Deed, str, str, str | None]:
    """What a change does, the selector of what it does it to, the attribute's name, and the value."""
    if change.set is not None:
        return Deed.ATTRIBUTE, change.set.where, change.set.attribute, change.set.to
    if change.change_class is not None:
        return Deed.CLASS, change.change_class.where, *_class(change.change_class)
    if change.style is not None:
        return Deed.STYLE, change.style.where, change.style.property, change.style.to
    if change.text is not None:
        return Deed.TEXT, change.text.where, "", change.text.to
    if change.insert is not None:
        return Deed.INSERT, change.insert.where, "", change.insert.html
    if change.title is not None:
        return Deed.TITLE, "title", "", change.title
    for deed, selector in (
        (Deed.REMOVE, change.remove),
        (Deed.SHOW, change.show),
        (Deed.HIDE, change.hide),
        (Deed.FOCUS, change.focus),
    ):
        if selector is not None:
            return deed, selector, "", ""
    raise AssertionError("a change is one of these")
