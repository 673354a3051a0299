"""Pressing Tab through the whole of a page that runs by itself: where it really goes, on and back."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from murvel.dom.document import Element
from murvel.reader.following import perform
from murvel.reader.session import ReadingSession
from murvel.stage.inputs import Keystroke, Press, Tab, Wait
from murvel.stage.seen import TAB_STAYS, TabSeen, is_kept
from murvel.stage.stage import Stage
from murvel.text import counted
from murvel.tree.roles.aria_roles import DIALOGS

MOST = 500
"""How often Tab is pressed in one direction, at most."""

_MOMENT = 0.2
"""Seconds that a page gets at once where it is busy."""


@dataclass(slots=True)
class Ring:
    """Where Tab went.

    Attributes:
        forward, backward: the stops in the order of Tab, and in that of Shift+Tab.
        listed: the stops that were expected, in their order.
        goes_on: whether Tab had not left the page when it was given up.
        kept: the stop at which it stayed then, None where it may: in a dialog, or in a frame.
    """

    forward: list[Element] = field(default_factory=list)
    backward: list[Element] = field(default_factory=list)
    listed: list[Element] = field(default_factory=list)
    goes_on: bool = False
    kept: Element | None = None

    def lines(self) -> list[str]:
        """Return what is to be said of it, a sentence each."""
        told = [f"Tab went to {counted(len(self.forward), 'stop', 'stops')} by real keys."]
        if self.goes_on:
            where = f" at {_words(self.kept)}" if self.kept is not None else " in a part of it"
            told.append(f"It does not leave the page: it stays{where}.")
            return told
        if self.backward != self.forward[::-1]:
            told.append(f"Shift+Tab went another way, to {counted(len(self.backward), 'stop', 'stops')}.")
        real, listed = set(self.forward), set(self.listed)
        for words, found in (
            ("Tab did not come to", [each for each in self.listed if each not in real]),
            ("Tab came, unexpectedly, to", [each for each in self.forward if each not in listed]),
        ):
            if found:
                told.append(
                    f"{words} {counted(len(found), 'element', 'elements')}, the first of them {_words(found[0])}."
                )
        return told


def press_through(session: ReadingSession, ring: Ring) -> Iterator[int]:
    """Press Tab from the top of the page until it leaves it, then Shift+Tab from the end; yield the presses so far.

    The page gets each press, and may change. Afterwards the tree has the stops in the order in which Tab came to
    them. Where it is given up in between, the tree stays as it is.

    Args:
        session: the reading of a page whose stage is live.
        ring: is filled.
    """
    stage = session.stage
    assert stage is not None
    assert stage.is_live, "Tab is worked out on the built-in stage"
    ring.listed = list(session.tree.tab_order)
    first = stage.element(stage.focus)
    for is_back, found in ((False, ring.forward), (True, ring.backward)):
        key = _end(session, stage, is_last=is_back)
        last: list[Element] = []
        for press in range(MOST):
            yield len(ring.forward) + len(ring.backward)
            perform(stage, session, Tab(is_back, key if not press else None)).hear_regions(session)
            while stage.is_busy:
                yield len(ring.forward) + len(ring.backward)
                perform(stage, session, Wait(stage.now + _MOMENT)).hear_regions(session)
            element = stage.element(stage.focus)
            if element is None:
                break
            if len(found) > 1 and element is found[0]:
                break  # without a window around the page, its end is followed by its start
            last = [*last, element] if element in found else []
            if len(last) >= TAB_STAYS:
                ring.goes_on = is_kept(set(last), found, len(ring.forward) if is_back else 0)
                ring.kept = element if ring.goes_on and not _may_keep(session, element) else None
                break
            if not last:
                found.append(element)
        else:
            ring.goes_on = True
    came = {*ring.forward, *ring.backward, first}
    missed = () if ring.goes_on else tuple(each for each in ring.listed if each not in came)
    is_freed = False
    if ring.kept is not None:
        perform(stage, session, Press(Keystroke.ESCAPE)).hear_regions(session)
        perform(stage, session, Tab(bool(ring.backward), None)).hear_regions(session)
        yield len(ring.forward) + len(ring.backward)
        is_freed = stage.element(stage.focus) is not ring.kept
    session.tabbed = TabSeen(missed, ring.kept, is_freed)
    session.order_stops([each for each in ring.forward if stage.key_of(each) is not None])


def _may_keep(session: ReadingSession, element: Element) -> bool:
    """Whether an element may keep Tab: a frame has stops of its own, and a dialog may be closed by Escape."""
    node = session.tree.node_of(element)
    around = (node, *node.ancestors()) if node is not None else ()
    return element.tag in _WITH_OWN_STOPS or any(each.role in DIALOGS for each in around)


_WITH_OWN_STOPS = frozenset({"iframe", "embed", "object", "video", "audio"})


def _end(session: ReadingSession, stage: Stage, *, is_last: bool) -> int | None:
    """The key of the first or last element of the page's body, at which Tab begins."""
    body = session.tree.document.body
    inside = list(body.elements()) if body is not None else []
    return stage.key_of(inside[-1 if is_last else 0]) if inside else None


def _words(element: Element) -> str:
    text = " ".join(element.text().split())[:40]
    return f"{element.tag} “{text}”" if text else element.tag
