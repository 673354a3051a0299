"""Lists of a page: all nodes of a kind, or the tab stops, each with what is heard, when, and where it is."""

from __future__ import annotations

from dataclasses import dataclass

from murvel.page.places import Position
from murvel.reader.kinds import BY_ID, nodes_of
from murvel.reader.session import ReadingSession
from murvel.reader.utterance import Utterance
from murvel.tree.model import Node

STOPS = "stops"
"""The list of tab stops, in Tab's order."""

LISTS: tuple[str, ...] = (*BY_ID, STOPS)
"""Everything that can be listed."""


@dataclass(frozen=True, slots=True)
class Entry:
    """A node in a list.

    Attributes:
        node: the node.
        utterance: what is heard of it alone.
        time: at which second of listening it comes, None where nothing of it is read.
        position: line and column of its start tag, None where no start tag made it.
    """

    node: Node
    utterance: Utterance
    time: float | None
    position: Position | None


def entries(session: ReadingSession, name: str) -> list[Entry]:
    """Return a list of the page.

    Args:
        session: the reading.
        name: one of `LISTS`.
    """
    tree = session.tree
    nodes = tree.stops if name == STOPS else nodes_of(tree, BY_ID[name])
    return [_entry(session, node) for node in nodes]


def _entry(session: ReadingSession, node: Node) -> Entry:
    first = session.readout.first_object(node)
    time = session.spoken.starts[first.item.index] if first is not None else None
    return Entry(node, session.speaker.say_alone(node), time, session.tree.position_of(node))
