"""Moving by container, as touch and grouped navigation do: into one, out of it, beside it, past its end.

A place is a container or an object. What stands in the same container is beside each other; going beside a container
skips what is in it, and says how much that was.
"""

from __future__ import annotations

from murvel.reader.moves import Direction
from murvel.reader.readout import RAIL_ROLES, Container, Object
from murvel.reader.session import ReadingSession
from murvel.reader.utterance import Part, PartKind, Utterance, notice
from murvel.reader.words import counted

Place = Container | Object


def beside(session: ReadingSession, direction: Direction) -> Utterance:
    """Go to what stands beside the current place in the same container."""
    move = "beside" if direction is Direction.FORWARD else "beside, back"
    here = _here(session)
    if here is None:
        return session.hear(move, notice("nothing to read on this page"), session.node)
    around = _around(here)
    places = _places(session, around)
    at = places.index(here) + (1 if direction is Direction.FORWARD else -1)
    if not 0 <= at < len(places):
        edge = f"nothing {direction.further}"
        within = f" in {session.speaker.context(around.node)}" if around is not None else " on the page"
        return session.hear(move, notice(edge + within), session.node)
    skipped = _size(session, here) if isinstance(here, Container) and direction is Direction.FORWARD else 0
    return _stand(session, move, places[at], skipped)


def into(session: ReadingSession) -> Utterance:
    """Go into the container that is the current place, to the first thing in it."""
    here = _here(session)
    if not isinstance(here, Container):
        return session.hear("into", notice("nothing to go into here"), session.node)
    return _stand(session, "into", _places(session, here)[0], 0)


def out(session: ReadingSession) -> Utterance:
    """Go out to the container around the current place."""
    here = _here(session)
    around = _around(here) if here is not None else None
    if around is None:
        return session.hear("out", notice("nothing around this but the page"), session.node)
    return _stand(session, "out", around, 0)


def past_the_end(session: ReadingSession) -> Utterance:
    """Go on behind the innermost list, table, landmark or group that reading stands in."""
    move = "past the end"
    container = session.cursor.container if session.cursor is not None else None
    while container is not None and container.node.role not in RAIL_ROLES:
        container = container.outer
    if container is None:
        return session.hear(move, notice("not in a list, table, landmark or group"), session.node)
    items = session.readout.items
    if container.last + 1 >= len(items):
        return session.hear(move, notice("end of page"), session.node)
    return session.read_item(move, items[container.last + 1])


def _here(session: ReadingSession) -> Place | None:
    return session.place if session.place is not None else session.cursor


def _around(place: Place) -> Container | None:
    """The nearest container around a place that counts as one to be gone into."""
    around = place.outer if isinstance(place, Container) else place.container
    while around is not None and not _counts(around):
        around = around.outer
    return around


def _counts(container: Container) -> bool:
    return container.node.role in RAIL_ROLES or container.node.role == "listitem"


def _places(session: ReadingSession, around: Container | None) -> list[Place]:
    """What stands directly in a container, or on the page, in order."""
    items = session.readout.items
    first, last = (around.first, around.last) if around is not None else (0, len(items) - 1)
    found: dict[int, Place] = {}
    for item in items[first : last + 1]:
        for each in item.objects:
            place = _directly_in(each, around)
            if place is not None:
                found.setdefault(id(place), place)
    return list(found.values())


def _directly_in(each: Object, around: Container | None) -> Place | None:
    """The place directly in a container in which an object stands, None where it does not stand in that."""
    place: Place = each
    above = _around(place)
    while above is not around:
        if above is None:
            return None
        place = above
        above = _around(place)
    return place


def _size(session: ReadingSession, container: Container) -> int:
    return container.last - container.first + 1


def _stand(session: ReadingSession, move: str, place: Place, skipped: int) -> Utterance:
    parts = [Part(PartKind.NOTICE, f"past {counted(skipped, 'item', 'items')}")] if skipped else []
    if isinstance(place, Object):
        said = session.speaker.say([place], place.container)
        node = place.node
        session.stand(place, node)
    else:
        first = session.readout.items[place.first].objects[0]
        node = place.node
        words = session.speaker.context(node) if node.role != "listitem" else "list item"
        holds = Part(PartKind.NOTICE, f"holds {counted(_size(session, place), 'item', 'items')}")
        said = Utterance((Part(PartKind.CONTEXT, words), holds))
        session.stand(first, node)
    session.place = place
    return session.hear(move, Utterance((*parts, *said.parts)), node)
