"""Finding text in what is heard: all places, which of them reading stands at, and the move to the next."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import replace

from murvel.reader.moves.linear import jump, land, read_item, read_objects, stay
from murvel.reader.moves.moves import Direction
from murvel.reader.readout.heard_text import searchable
from murvel.reader.readout.items import WITH_TEXT, Object
from murvel.reader.readout.position import Step
from murvel.reader.session import ReadingSession
from murvel.tree.node import Node


def places_of(session: ReadingSession, text: str) -> list[Object]:
    """Return the objects in which a text is heard, capitals or not, in reading order.

    A heading or a link counts once, at its first object. Where the text goes over several objects of an item, the
    first of them stands for all.
    """
    words = searchable(text)
    if not words:
        return []
    places: dict[int, Object] = {}
    for index in session.spoken.text.items_with(words):
        item = session.readout.items[index]
        found = [each for each in item.objects if words in searchable(heard_alone(session, each))]
        for each in found or item.objects[:1]:
            first = _first_of(session, each)
            places[first.index] = first
    return [places[index] for index in sorted(places)]


def find(session: ReadingSession, text: str, direction: Direction = Direction.FORWARD) -> Step:
    """Go to the next place at which `text` is heard, from the end on to the start; if there is none, stay."""
    words = " ".join(text.split())
    if not words:
        return stay(session, "find", "no text to find was given")
    places = places_of(session, words)
    move = f"find “{words}”" + (" back" if direction is Direction.BACK else "")
    if not places:
        return replace(stay(session, move, f"“{words}” is not heard on this page"), sought=words)
    at, wraps = _next(session, places, direction)
    place = places[at]
    whole = _whole(place)
    if whole is not None:
        step = land(session, move, whole)
    elif searchable(words) in searchable(heard_alone(session, place)):
        step = read_objects(session, move, [place], place.node)
    else:
        step = read_item(session, move, place.item)
    way = "from the top again" if direction is Direction.FORWARD else "from the end again"
    return replace(step, sought=words, notice=f"{at + 1} of {len(places)}" + (f", {way}" if wraps else ""))


def repeat(session: ReadingSession, direction: Direction) -> Step:
    """Make the last jump or search again, in a direction of its own."""
    if session.last_jump is None:
        return stay(session, "repeat the last jump", "no jump to repeat yet")
    if isinstance(session.last_jump, str):
        return find(session, session.last_jump, direction)
    return jump(session, session.last_jump, direction)


def _next(session: ReadingSession, places: Sequence[Object], direction: Direction) -> tuple[int, bool]:
    """Return which place comes next, and whether the page was gone round for it."""
    came_from = session.position.came_from
    here = came_from.index if came_from is not None else -1
    indexes = [each.index for each in places]
    if direction is Direction.FORWARD:
        at = bisect_right(indexes, here)
        return (at, False) if at < len(places) else (0, True)
    at = bisect_left(indexes, here) - 1
    return (at, False) if at >= 0 else (len(places) - 1, True)


def heard_alone(session: ReadingSession, each: Object) -> str:
    """Return what is heard of an object alone."""
    return session.speaker.say([each], each.container, each).text


def _whole(each: Object) -> Node | None:
    """The heading or link around text, which is what a person means who finds the text; None if there is none."""
    container = each.container
    while container is not None:
        if container.node.role in WITH_TEXT:
            return container.node
        container = container.outer
    return None


def _first_of(session: ReadingSession, each: Object) -> Object:
    whole = _whole(each)
    first = session.readout.first_object(whole) if whole is not None else None
    return first or each
