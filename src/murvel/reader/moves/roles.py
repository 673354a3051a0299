"""Moving on to the next object with the role of the one at the cursor, or with another role."""

from __future__ import annotations

from murvel.reader.moves.linear import read_objects, stay
from murvel.reader.moves.moves import Direction
from murvel.reader.readout.items import WITH_TEXT, Object
from murvel.reader.readout.position import Step
from murvel.reader.session import ReadingSession
from murvel.tree.node import Node


def move_by_role(session: ReadingSession, direction: Direction, *, same: bool) -> Step:
    """Go to the next or previous object whose role is the cursor's, or is not."""
    move = f"{direction.neighbour} with {'this' if same else 'another'} role"
    here = session.cursor
    if here is None:
        return stay(session, move, "nothing to read on this page")
    role = _role(here)
    objects = session.readout.objects
    order = range(here.index + 1, len(objects)) if direction is Direction.FORWARD else range(here.index - 1, -1, -1)
    for each in map(objects.__getitem__, order):
        if (_role(each) == role) is same and not (same and _whole(each) is _whole(here)):
            return read_objects(session, move, [each], each.node)
    what = f"other {role}" if same else f"role but {role}"
    return stay(session, move, f"no {what} {direction.further}")


def _role(each: Object) -> str:
    return _whole(each).role


def _whole(each: Object) -> Node:
    """What an object is a piece of, to those who listen: the heading or link around text, else itself."""
    container = each.container
    while container is not None and container.node.role in WITH_TEXT:
        return container.node
    return each.node
