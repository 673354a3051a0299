"""Lists of a page: all nodes of a kind, or the tab stops, each with what is heard, when, and where it is."""

from __future__ import annotations

from dataclasses import dataclass, replace

from murvel.dom.source_text import Position
from murvel.reader.readout.kinds import ACCESS_KEYS, BY_ID, STOPS, nodes_of
from murvel.reader.session import ReadingSession
from murvel.reader.speech.utterance import Part, PartKind, Utterance
from murvel.tree.node import Node


@dataclass(frozen=True, slots=True)
class Listed:
    """A node in a list.

    Attributes:
        node: the node.
        utterance: what is heard of it alone.
        time: at which second of listening it comes, None if nothing of it is read.
        position: line and column of its start tag, None if no start tag made it.
    """

    node: Node
    utterance: Utterance
    time: float | None
    position: Position | None


def entries(session: ReadingSession, name: str) -> list[Listed]:
    """Return a list of the page.

    Args:
        session: the reading.
        name: one of `murvel.reader.readout.kinds.LISTS`.
    """
    tree = session.tree
    if name == ACCESS_KEYS:
        nodes = [
            node for node in tree.nodes if not node.is_text and node.element.attributes.get("accesskey", "").split()
        ]
        return [_with_key(_entry(session, node)) for node in nodes]
    nodes = tree.stops if name == STOPS else nodes_of(tree, BY_ID[name])
    return [_entry(session, node) for node in nodes]


def _with_key(entry: Listed) -> Listed:
    key = entry.node.element.attributes["accesskey"].split()[0]
    return replace(entry, utterance=Utterance((*entry.utterance.parts, Part(PartKind.HINT, f"access key {key}"))))


def _entry(session: ReadingSession, node: Node) -> Listed:
    first = session.readout.first_object(node)
    time = session.spoken.start(first.item.index) if first is not None else None
    return Listed(node, session.speaker.say_alone(node), time, session.tree.position_of(node))
