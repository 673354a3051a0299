"""Moves that read: from item to item, to a place, by Tab; and asking where one is. Each returns the step to be made."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import replace
from operator import attrgetter

from murvel.reader.moves.moves import TO_END, TO_START, WHERE_AM_I, Direction
from murvel.reader.readout.items import WITH_TEXT, Item, Object
from murvel.reader.readout.kinds import KINDS, Kind
from murvel.reader.readout.position import Position, Step
from murvel.reader.session import ReadingSession
from murvel.reader.speech.timing import clock
from murvel.reader.speech.utterance import SILENCE, PartKind, Utterance
from murvel.reader.speech.voice import Unit
from murvel.reader.speech.wording.words import role_words
from murvel.reader.stops.silent import silent_next, words_of
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import GENERIC
from murvel.tree.trail import heading_over

_NOTHING = "nothing to read on this page"


# What steps are made of


def stay(session: ReadingSession, move: str, words: str) -> Step:
    """Stay, with a notice of why the move leads nowhere."""
    return Step(move, SILENCE, session.node, notice=words, failure=words)


def read_objects(session: ReadingSession, move: str, objects: Sequence[Object], subject: Node) -> Step:
    """Go to objects that follow each other and read them, coming from where the cursor stands."""
    came_from = session.position.came_from if session.log and session.position.has_arrived else None
    said = session.speaker.say(objects, came_from.container if came_from is not None else None, came_from)
    return Step(move, said, subject, Position.at(objects[0], subject))


def read_item(session: ReadingSession, move: str, item: Item) -> Step:
    """Go to an item and read it, coming from where the cursor stands."""
    return read_objects(session, move, item.objects, item.subject)


def land(session: ReadingSession, move: str, node: Node) -> Step:
    """Go to a node and announce it, also where reading stood inside it already; something of it has to be read."""
    first = session.readout.first_object(node)
    assert first is not None, "only nodes that are read are landed on"
    came_from = session.position.came_from
    before = came_from.container if came_from is not None else None
    for container in before.chain() if before is not None else []:
        if container.node is node:
            before = container.outer
            break
    position = Position.at(first, node)
    if first.node is not node and first.node.contains(node):
        within = [] if node.is_part else session.speaker.pieces.around(first.node)
        return Step(move, Utterance((*session.speaker.say_alone(node).parts, *within)), node, position)
    said = session.speaker.say(heard_of(session, node, first), before, came_from)
    return Step(move, by_name(session, node, said), node, position)


def heard_of(session: ReadingSession, node: Node, first: Object) -> Sequence[Object]:
    """Return what is read where one lands on a node: itself, what is in it, or all of the line that it begins.

    Args:
        session: the reading.
        node: the node.
        first: the object at which it is heard first.
    """
    if first.node is node:
        return [first]
    if node.role in WITH_TEXT or node.element in session.tree.stop_numbers:
        return _objects_within(session, node, first)
    return first.item.objects


def by_name(session: ReadingSession, node: Node, said: Utterance) -> Utterance:
    """Return what is said of a Tab stop without a role of its own; where its author named it, the name for its text."""
    if node.role != GENERIC or not node.name or node.element not in session.tree.stop_numbers:
        return said
    around = tuple(part for part in said.parts if part.kind is PartKind.CONTEXT)
    return Utterance((*around, *session.speaker.pieces.all_of(node)))


def _objects_within(session: ReadingSession, node: Node, first: Object) -> Sequence[Object]:
    objects = session.readout.objects
    end = first.index
    while end < len(objects) and objects[end].node.id < node.end:
        end += 1
    return objects[first.index : end]


# The moves


def next_item(session: ReadingSession) -> Step:
    """Read the next item; at the end, say so and stay."""
    return _neighbour(session, "next item", 1, Direction.FORWARD.edge)


def previous_item(session: ReadingSession) -> Step:
    """Read the previous item; at the start, say so and stay."""
    return _neighbour(session, "previous item", -1, Direction.BACK.edge)


def _neighbour(session: ReadingSession, move: str, by: int, edge: str) -> Step:
    came_from, readout = session.position.came_from, session.readout
    if not readout.objects:
        return stay(session, move, _NOTHING)
    if session.voice.unit is Unit.OBJECT:
        at = (came_from.index if came_from is not None else -1) + by
        if not 0 <= at < len(readout.objects):
            return stay(session, move, edge)
        following = readout.objects[at]
        return read_objects(session, move, [following], following.node)
    at = (came_from.item.index if came_from is not None else -1) + by
    return read_item(session, move, readout.items[at]) if 0 <= at < len(readout.items) else stay(session, move, edge)


def first_item(session: ReadingSession) -> Step:
    """Read the first item."""
    return _item_at(session, TO_START, 0)


def last_item(session: ReadingSession) -> Step:
    """Read the last item."""
    return _item_at(session, TO_END, len(session.readout.items) - 1)


def item_at(session: ReadingSession, index: int) -> Step:
    """Go to an item by its number in the readout; one outside it is brought to the nearest."""
    return _item_at(session, "go to item", max(0, min(index, len(session.readout.items) - 1)))


def _item_at(session: ReadingSession, move: str, index: int) -> Step:
    items = session.readout.items
    if not items:
        return stay(session, move, _NOTHING)
    item = items[index]
    if item is session.item:  # it is said as a whole again
        said = session.speaker.say(item.objects, None)
        return Step(move, said, item.subject, Position.at(item.objects[0], item.subject))
    return read_item(session, move, item)


def go_to(session: ReadingSession, node: Node, move: str = "go to") -> Step:
    """Go to a node, or to what is read next after it where nothing of it is."""
    if session.readout.first_object(node) is not None:
        return land(session, move, node)
    nearest = session.readout.nearest(node)
    if nearest is None:
        return Step(move, SILENCE, node, notice=_NOTHING)
    return read_item(session, move, nearest.item)


def jump(session: ReadingSession, kind: Kind, direction: Direction) -> Step:
    """Go to the next or previous node of a kind; if there is none, say so and stay."""
    move = f"{direction.neighbour} {kind.singular}"
    target = _jump_target(session, kind, direction)
    if target is None:
        return replace(stay(session, move, f"no {kind.singular} {direction.further}"), sought=kind)
    step = land(session, move, target)
    assert step.position is not None
    return replace(step, position=replace(step.position, anchor=(kind, target)), sought=kind)


def _jump_target(session: ReadingSession, kind: Kind, direction: Direction) -> Node | None:
    """The next target from the one jumped to last; after other moves, from the cursor.

    A node that begins at the cursor counts as reached when reading came upon it by itself, or by a jump to something
    else, and is not jumped to again.
    """
    came_from, known = session.position.came_from, session.position.anchor
    targets = session.targets(kind)
    anchor = known[1].id if known is not None and known[0] is kind else None
    if direction is Direction.FORWARD:
        if anchor is None:
            anchor = came_from.node.id if came_from is not None else -1
        at = bisect_right(targets, anchor, key=_id)
        return targets[at] if at < len(targets) else None
    if anchor is None:
        at = came_from.index if came_from is not None else 0
        anchor = session.readout.objects[at - 1].node.id + 1 if at else 0
    at = bisect_right(targets, anchor - 1, key=_id) - 1
    return targets[at] if at >= 0 else None


def tab(session: ReadingSession, direction: Direction) -> tuple[Step, Node | None]:
    """Go to the next or previous tab stop from the cursor; return the stop as well, None if focus would leave."""
    forward = direction is Direction.FORWARD
    move = "Tab" if forward else "Shift+Tab"
    stop = session.stops.from_cursor(session.cursor, session.focus, session.readout, forward)
    silent = silent_next(session.tree.tab_order, session.stops.elements, session.silent_stop, stop, forward=forward)
    session.stop_silently(silent)
    if silent is not None:
        return Step(move, SILENCE, session.node, notice=words_of(session.tree, silent)), None
    if stop is not None:
        return land(session, move, stop), stop
    if not session.tree.stops:
        return stay(session, move, "no tab stops on this page"), None
    leaves = f"that was the {'last' if forward else 'first'} tab stop, focus would leave the page"
    return Step(move, SILENCE, session.node, notice=leaves), None


def where_am_i(session: ReadingSession) -> Step:
    """Tell what encloses the cursor, how far into the page it is, and under which heading."""
    cursor = session.cursor
    if cursor is None:
        return Step(WHERE_AM_I, SILENCE, session.tree.root, notice=_NOTHING)
    told = [f"item {cursor.item.index + 1} of {len(session.readout.items)}"]
    told.append(f"{clock(session.time)} of {clock(session.spoken.total)}")
    chain = cursor.container.chain() if cursor.container is not None else []
    for container in reversed(chain):
        words = role_words(container.node)
        if container.node.role == "listitem":
            words = "list item"
        if words:
            told.append(f"in {words} {container.node.name}".rstrip())
    heading = heading_over(session.targets(KINDS[0]), cursor.node)
    if heading is not None and all(container.node is not heading for container in chain):
        told.append(f"under heading level {heading.states['level']} {heading.name or 'without a name'}")
    return Step(WHERE_AM_I, SILENCE, session.node, notice=", ".join(told))


_id = attrgetter("id")
