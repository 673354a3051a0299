"""Cost to reach: how many key presses and how many seconds of listening it takes to come to a node, by each strategy.

Every strategy begins at the top of the page; presses are counted as for `murvel.reader.moves.routes`. After each press
each announcement is heard out, except the last one, where the listener hears the node itself; straight reading hears
everything before it. docs/architecture.md, Listening time, says how seconds are estimated.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import accumulate, pairwise, takewhile
from operator import attrgetter

from murvel.reader.moves.routes import presses_between, reached_at_top
from murvel.reader.moves.skip import skip_link
from murvel.reader.readout.items import Object
from murvel.reader.readout.kinds import BY_ID
from murvel.reader.session import ReadingSession
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import BUTTONS, FIELDS, LINKS


class Strategy(StrEnum):
    """A way to come to a place."""

    READING = "reading"
    TAB = "Tab"
    HEADINGS = "headings"
    LANDMARKS = "landmarks"
    SKIP_LINK = "skip link"


_REACHED = FIELDS | LINKS | BUTTONS


@dataclass(frozen=True, slots=True)
class Cost:
    """What a way takes: key presses, and seconds of listening."""

    presses: int
    seconds: float


@dataclass(frozen=True, slots=True)
class Reach:
    """What it takes to come to a node; strategies that do not lead there are left out."""

    node: Node
    costs: dict[Strategy, Cost]

    @property
    def best(self) -> tuple[Strategy, Cost] | None:
        """The quickest way, None if there is none."""
        return min(self.costs.items(), key=lambda pair: pair[1].seconds) if self.costs else None


class Ways:
    """The ways from the top of a page to its nodes, with what they take; what leads to many nodes is added up once."""

    def __init__(self, session: ReadingSession) -> None:
        self._session = session
        stops = list(map(session.tree.node_of, session.tree.tab_order))
        self._stops = sorted((stop.id, number) for number, stop in enumerate(stops) if stop is not None)
        self._stops_heard = self._heard(stops)
        self._jumps = {
            Strategy.HEADINGS: self._beyond_top(session.targets(BY_ID["headings"])),
            Strategy.LANDMARKS: self._beyond_top(session.targets(BY_ID["landmarks"])),
        }
        self._skip = _skip_target(session)

    def to(self, node: Node) -> Reach:
        """Return what it takes to come to a node by each strategy."""
        costs: dict[Strategy, Cost] = {}
        first = self._session.readout.first_object(node)
        if first is None:
            return Reach(node, costs)
        top, index = self._session.readout.objects[0], first.item.index
        costs[Strategy.READING] = Cost(presses_between(self._session, top, first), self._session.spoken.start(index))
        inside = self._stops[bisect_left(self._stops, (node.id, 0)) : bisect_left(self._stops, (node.end, 0))]
        if inside:
            at = min(number for _, number in inside)
            costs[Strategy.TAB] = Cost(at + 1, self._stops_heard[at])
        for strategy, (starts, heard) in self._jumps.items():
            count = bisect_right(starts, first.index, key=attrgetter("index"))
            if count:
                # Jump to the last target at or before the object, and read on from there.
                costs[strategy] = self._on_from(starts[count - 1], first, count, heard[count - 1])
        if self._skip is not None and self._skip[1].item.index <= index:
            number, start = self._skip
            costs[Strategy.SKIP_LINK] = self._on_from(start, first, number + 1, self._stops_heard[number - 1])
        return Reach(node, costs)

    def _on_from(self, start: Object, end: Object, presses: int, heard: float) -> Cost:
        """What it takes to read on from an object to another, with what it took to come to the first."""
        return Cost(
            presses + presses_between(self._session, start, end),
            heard + self._between(start.item.index, end.item.index),
        )

    def _beyond_top(self, targets: Sequence[Node]) -> tuple[list[Object], list[float]]:
        """The objects that targets below the top begin at, up to the first that is not read, and what is heard
        before each."""
        below = targets[reached_at_top(self._session, targets) :]
        objects = map(self._session.readout.first_object, below)
        starts = [each for each in takewhile(lambda each: each is not None, objects) if each is not None]
        return starts, self._heard(below[: len(starts)])

    def _heard(self, nodes: Sequence[Node | None]) -> list[float]:
        """Return how many seconds of some nodes are heard before each, and in the end of all; None is silent."""
        speaker = self._session.speaker
        times = (speaker.lasts(speaker.say_alone(node).text) if node is not None else 0.0 for node in nodes)
        return list(accumulate(times, initial=0.0))

    def _between(self, start: int, end: int) -> float:
        spoken = self._session.spoken
        return spoken.start(end) - spoken.start(start)


def important(session: ReadingSession) -> list[Node]:
    """Return the nodes whose cost matters: the main content, headings, fields, links and buttons, in reading order."""
    nodes = [
        node
        for node in session.tree.nodes
        if not node.is_part and (node.role in ("main", "heading") or node.role in _REACHED)
    ]
    return [node for node in nodes if session.readout.first_object(node) is not None]


@dataclass(frozen=True, slots=True)
class Stretches:
    """Stretches of a page that are long to sit through.

    Attributes:
        links_before_main: the longest run of links before the main content.
        without_heading: the longest time between two headings, or from the start to the first, in seconds.
    """

    links_before_main: int
    without_heading: float


def stretches(session: ReadingSession) -> Stretches:
    """Measure the stretches of a page."""
    main = next((node for node in session.tree.nodes if node.role == "main"), None)
    first = session.readout.first_object(main) if main is not None else None
    before = session.readout.objects[: first.index] if first is not None else session.readout.objects
    longest = run = 0
    for each in before:
        if each.node.is_text and not each.text.strip():
            continue  # a space between two links is no pause
        is_link = each.node.role in LINKS or is_in_link(each.node)
        run = run + 1 if is_link else 0
        longest = max(longest, run)
    times = [0.0]
    for heading in session.targets(BY_ID["headings"]):
        at = session.readout.first_object(heading)
        if at is not None:
            times.append(session.spoken.start(at.item.index))
    times.append(session.spoken.total)
    gaps = [later - earlier for earlier, later in pairwise(times)]
    return Stretches(longest, max(gaps))


def _skip_target(session: ReadingSession) -> tuple[int, Object] | None:
    """The stop number of the skip link, and the object it leads to; None without a skip link."""
    link = skip_link(session.tree)
    node = session.tree.node_of(link.target) if link is not None and link.target is not None else None
    first = session.readout.first_object(node) if node is not None else None
    return (link.number, first) if link is not None and first is not None else None


def is_in_link(node: Node) -> bool:
    """Whether a node stands inside a link."""
    return any(above.role in LINKS for above in node.ancestors())
