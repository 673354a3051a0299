"""Moving to the next thing of the same role as the one at the cursor, or of a different one."""

from __future__ import annotations

from murvel.reader.moves import Direction
from murvel.reader.readout import WITH_TEXT, Object
from murvel.reader.session import ReadingSession
from murvel.reader.utterance import Utterance, notice
from murvel.tree.model import Node


def move_by_role(session: ReadingSession, direction: Direction, *, same: bool) -> Utterance:
    """Go to the next or previous object whose role is the cursor's, or is not."""
    move = f"{direction.neighbour} of {'the same' if same else 'another'} role"
    here = session.cursor
    if here is None:
        return session.hear(move, notice("nothing to read on this page"), session.node)
    role = _role(here)
    objects = session.readout.objects
    order = objects[here.index + 1 :] if direction is Direction.FORWARD else objects[: here.index][::-1]
    for each in order:
        if (_role(each) == role) is same and not (same and _whole(each) is _whole(here)):
            return session.read_objects(move, [each], each.node)
    what = f"other {role}" if same else f"role but {role}"
    return session.hear(move, notice(f"no {what} {direction.further}"), session.node)


def _role(each: Object) -> str:
    return _whole(each).role


def _whole(each: Object) -> Node:
    """What an object is a piece of, to those who listen: the heading or link around text, else itself."""
    container = each.container
    while container is not None and container.node.role in WITH_TEXT:
        return container.node
    return each.node
