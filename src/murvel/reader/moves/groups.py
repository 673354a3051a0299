"""Moving by container, as touch and grouped navigation do: into one, out of it, beside it, past its end.

A spot is a container or an object. What stands in the same container is beside each other; going beside a container
skips what is in it, and says how much that was.
"""

from __future__ import annotations

from dataclasses import replace

from murvel.reader.moves.linear import read_item, stay
from murvel.reader.moves.moves import Direction
from murvel.reader.readout.items import Container, Object
from murvel.reader.readout.position import Position, Spot, Step
from murvel.reader.readout.readout import RAIL_ROLES
from murvel.reader.session import ReadingSession
from murvel.reader.speech.utterance import Part, PartKind, Utterance
from murvel.text import counted


def beside(session: ReadingSession, direction: Direction) -> Step:
    """Go to what stands beside the current spot in the same container."""
    move = "beside" if direction is Direction.FORWARD else "beside, back"
    here = _here(session)
    if here is None:
        return stay(session, move, "nothing to read on this page")
    around = _around(session, here)
    spots = _spots(session, around)
    at = spots.index(here) + (1 if direction is Direction.FORWARD else -1)
    if not 0 <= at < len(spots):
        edge = f"nothing {direction.further}"
        within = f" in {session.speaker.context(around.node)}" if around is not None else ""
        return stay(session, move, edge + within)
    skipped = _size(session, here) if isinstance(here, Container) and direction is Direction.FORWARD else 0
    return _stand(session, move, spots[at], skipped)


def into(session: ReadingSession) -> Step:
    """Go into the container that is the current spot, to the first thing in it."""
    here = _here(session)
    if not isinstance(here, Container):
        return stay(session, "into", "nothing to go into here")
    return _stand(session, "into", _spots(session, here)[0], 0)


def out(session: ReadingSession) -> Step:
    """Go out to the container around the current spot."""
    here = _here(session)
    around = _around(session, here) if here is not None else None
    if around is None:
        return stay(session, "out", "nothing around this but the page")
    return _stand(session, "out", around, 0)


def past_the_end(session: ReadingSession) -> Step:
    """Go on behind the innermost list, table, landmark or group that reading stands in."""
    move = "past the end"
    container = session.cursor.container if session.cursor is not None else None
    while container is not None and container.node.role not in RAIL_ROLES:
        container = container.outer
    if container is None:
        return stay(session, move, "not in a list, table, landmark or group")
    items = session.readout.items
    if container.last + 1 >= len(items):
        return stay(session, move, "end of page")
    return read_item(session, move, items[container.last + 1])


def _here(session: ReadingSession) -> Spot | None:
    return session.position.spot if session.position.spot is not None else session.cursor


def _around(session: ReadingSession, spot: Spot) -> Container | None:
    """The nearest container around a spot that counts as one to be gone into."""
    around = spot.outer if isinstance(spot, Container) else spot.container
    while around is not None and not _counts(session, around):
        around = around.outer
    return around


def _counts(session: ReadingSession, container: Container) -> bool:
    """Whether a container is one to be gone into; a list item that holds one thing is that thing."""
    if container.node.role != "listitem":
        return container.node.role in RAIL_ROLES
    if container.first != container.last:
        return True
    objects = session.readout.items[container.first].objects
    return sum(container.node.contains(each.node) for each in objects) > 1


def _spots(session: ReadingSession, around: Container | None) -> list[Spot]:
    """What stands directly in a container, or on the page, in order."""
    items = session.readout.items
    first, last = (around.first, around.last) if around is not None else (0, len(items) - 1)
    found: dict[int, Spot] = {}
    for item in items[first : last + 1]:
        for each in item.objects:
            spot = _directly_in(session, each, around)
            if spot is not None:
                found.setdefault(id(spot), spot)
    return list(found.values())


def _directly_in(session: ReadingSession, each: Object, around: Container | None) -> Spot | None:
    """The spot directly in a container in which an object stands, None if it does not stand in that."""
    spot: Spot = each
    above = _around(session, spot)
    while above is not around:
        if above is None:
            return None
        spot = above
        above = _around(session, spot)
    return spot


def _size(session: ReadingSession, container: Container) -> int:
    return container.last - container.first + 1


def _stand(session: ReadingSession, move: str, spot: Spot, skipped: int) -> Step:
    told = [f"past {counted(skipped, 'item', 'items')}"] if skipped else []
    node = spot.node
    if isinstance(spot, Object):
        cursor = spot
        said = session.speaker.say([spot], spot.container)
    else:
        cursor = session.readout.items[spot.first].objects[0]
        words = session.speaker.context(node) if node.role != "listitem" else "list item"
        told.append(f"holds {counted(_size(session, spot), 'item', 'items')}")
        said = Utterance((Part(PartKind.CONTEXT, words),))
    position = replace(Position.at(cursor, node), spot=spot)
    return Step(move, said, node, position, notice=", ".join(told))
