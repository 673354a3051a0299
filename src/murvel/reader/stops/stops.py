"""The tab stops that are heard, found quickly by where they stand in the page."""

from __future__ import annotations

from bisect import bisect_left, bisect_right

from murvel.reader.readout.items import Object
from murvel.reader.readout.readout import Readout
from murvel.tree.node import Node


class Stops:
    """Tab stops in Tab's order.

    Attributes:
        nodes: the stops.
        elements: their elements.
        places: the place of each among them, by node id.
    """

    def __init__(self, nodes: list[Node]) -> None:
        self.nodes = nodes
        self.elements = {node.element for node in nodes}
        self.places = {node.id: place for place, node in enumerate(nodes)}
        self._ids = sorted(self.places)

    def beside(self, id: int, forward: bool) -> int:
        """Return the place of the stop that stands next after a node in the page, or before it.

        Where there is none, the place is beyond the last or before the first.
        """
        if forward:
            at = bisect_right(self._ids, id)
            return self.places[self._ids[at]] if at < len(self._ids) else len(self.nodes)
        at = bisect_left(self._ids, id) - 1
        return self.places[self._ids[at]] if at >= 0 else -1

    def from_cursor(self, cursor: Object | None, focus: Node | None, readout: Readout, forward: bool) -> Node | None:
        """Return the stop that Tab goes to from the cursor, or Shift+Tab; None if focus would leave the page.

        Args:
            cursor: where reading stands, None on a page with nothing to read.
            focus: what has the focus, None before the first Tab.
            readout: what is read.
            forward: whether it is Tab.
        """
        at = self._at_cursor(cursor, focus, readout)
        if at is not None:
            at += 1 if forward else -1
        else:
            at = self.beside(cursor.node.id if cursor is not None else 0, forward)
        return self.nodes[at] if 0 <= at < len(self.nodes) else None

    def _at_cursor(self, cursor: Object | None, focus: Node | None, readout: Readout) -> int | None:
        if cursor is None:
            return None
        if focus is not None and focus.id in self.places and readout.first_object(focus) is cursor:
            return self.places[focus.id]
        if focus is None and cursor.index == 0:
            return -1  # nothing was done yet: Tab starts at the top, with the first object itself
        around = (cursor.node, *cursor.node.ancestors())
        return next((self.places[node.id] for node in around if node.id in self.places), None)
