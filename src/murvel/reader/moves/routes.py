"""Routes: the moves that lead from the top of a page to a place, with the fewest key presses, and straight on.

A route is a list of commands (`murvel.reader.moves.commands`). Each jump, Tab and step to the next item is one press; a
search takes its key, its letters and Enter.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from operator import attrgetter
from typing import NamedTuple

from murvel.patterns import pattern
from murvel.reader.moves.commands import repeated
from murvel.reader.moves.finding import heard_alone
from murvel.reader.readout.heard_text import searchable
from murvel.reader.readout.items import Object
from murvel.reader.readout.kinds import KINDS
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import Unit
from murvel.tree.node import Node

_id = attrgetter("id")

_KEY_AND_ENTER = 2
_WORTH_A_SEARCH = 5
"""Where a route takes more presses, a search is tried as well."""
_MOST_WORDS = 6
_WORD = pattern(r"[^\W\d_]{3,}")


@dataclass(frozen=True, slots=True)
class Route:
    """A route.

    Attributes:
        moves: its moves, as commands.
        presses: how many keys it takes after the first, which goes to the top.
        is_exact: whether it ends at the place itself, not only at the item that the place is read in.
    """

    moves: tuple[str, ...]
    presses: int
    is_exact: bool = True

    @property
    def rank(self) -> tuple[int, bool, int]:
        """What the better of two routes has less of."""
        return self.presses + (not self.is_exact), not self.is_exact, len(self.moves)


class _Targets(NamedTuple):
    """What one move goes to, again and again.

    Attributes:
        move: the move.
        ids: the ids of the nodes, in reading order.
        starts: the objects that each begins at.
        reached: how many of them count as reached at the top.
    """

    move: str
    ids: list[int]
    starts: list[Object]
    reached: int

    def beyond(self, id: int) -> int:
        """How many of them stand up to a node."""
        return bisect_right(self.ids, id)


def presses_between(session: ReadingSession, start: Object, at: Object) -> int:
    """Return how many presses it takes to read on from one object to another, by the unit of the session's voice."""
    return at.index - start.index if session.voice.unit is Unit.OBJECT else at.item.index - start.item.index


def reached_at_top(session: ReadingSession, targets: Sequence[Node]) -> int:
    """Return how many targets of a jump, in reading order, one stands at when the page begins: jumps go beyond them."""
    objects = session.readout.objects
    return bisect_right(targets, objects[0].node.id, key=_id) if objects else 0


class Routes:
    """The routes from the top of a page to its nodes; what leads to many nodes is gathered once.

    Args:
        session: a reading of the page; it is not moved.
    """

    def __init__(self, session: ReadingSession) -> None:
        self._session = session
        self._readout = session.readout

    def fewest(self, node: Node) -> Route | None:
        """Return the route to a node, or to what is read in its place, with the fewest presses.

        None if nothing is read on the page.
        """
        at = self._readout.first_object(node) or self._readout.nearest(node)
        if at is None:
            return None
        best = min(self._jumping(node, at), key=attrgetter("rank"))
        if best.presses < _WORTH_A_SEARCH:
            return best
        return min([best, *self._searching(node, at, best.presses)], key=attrgetter("rank"))

    def straight(self, node: Node) -> Route | None:
        """Return the route to a node by reading item by item; None if nothing is read on the page."""
        at = self._readout.first_object(node) or self._readout.nearest(node)
        if at is None:
            return None
        return self._reading_on((), 0, self._readout.objects[0], at)

    def _reading_on(self, before: tuple[str, ...], presses: int, start: Object, at: Object) -> Route:
        """A route that reads on from one object to another."""
        on = presses_between(self._session, start, at)
        moves = (*before, repeated("next", on)) if on else before
        is_exact = self._session.voice.unit is Unit.OBJECT or at.item.objects[0] is at
        return Route(("first", *moves), presses + on, is_exact)

    def _jumping(self, node: Node, at: Object) -> Iterator[Route]:
        """By jumps, by Tab, by two jumps, by reading on from one; of two that are equal, the first is taken."""
        leading = [each for each in self._targets if (count := each.beyond(node.id)) and each.ids[count - 1] == node.id]
        for each in leading:
            presses = each.beyond(node.id) - each.reached
            if presses > 0:
                yield Route(("first", repeated(each.move, presses)), presses)
        number = None if node.is_text else self._session.tree.stop_numbers.get(node.element)
        if number is not None:
            yield Route(("first", repeated("tab", number)), number)
        for first in self._targets:
            count = self._up_to(first, at)
            presses = count - first.reached
            if presses <= 0:
                continue
            start = first.starts[count - 1]
            move = repeated(first.move, presses)
            yield self._reading_on((move,), presses, start, at)
            for then in leading:
                more = then.beyond(node.id) - then.beyond(start.node.id)
                if then is not first and more > 0:
                    yield Route(("first", move, repeated(then.move, more)), presses + more)
        yield self._reading_on((), 0, self._readout.objects[0], at)

    def _up_to(self, targets: _Targets, at: Object) -> int:
        """How many targets begin at or before an object."""
        return bisect_right(targets.starts, at.index, key=attrgetter("index"))

    def _searching(self, node: Node, at: Object, limit: int) -> Iterator[Route]:
        """By a word that is heard there first."""
        text = self._session.spoken.text
        words = dict.fromkeys(_WORD.findall(searchable(heard_alone(self._session, at))))
        for word in sorted(words, key=len)[:_MOST_WORDS]:
            presses = _KEY_AND_ENTER + len(word)
            if presses >= limit:
                break
            first = next(text.items_with(word), None)
            if first == at.item.index and self._is_first_in_item(word, at):
                yield Route(("first", f"find {word}"), presses, at.node is node)

    def _is_first_in_item(self, word: str, at: Object) -> bool:
        for each in at.item.objects:
            if word in searchable(heard_alone(self._session, each)):
                return each is at
        return False

    @cached_property
    def _targets(self) -> list[_Targets]:
        found = []
        for kind in KINDS:
            nodes = self._session.targets(kind)
            starts = [first for each in nodes if (first := self._readout.first_object(each)) is not None]
            if nodes and len(starts) == len(nodes):
                reached = reached_at_top(self._session, nodes)
                found.append(_Targets(f"jump {kind.id}", [*map(_id, nodes)], starts, reached))
        return found
