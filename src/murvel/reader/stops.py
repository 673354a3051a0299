"""The tab stops that are heard, found quickly by where they stand in the page."""

from __future__ import annotations

from bisect import bisect_left, bisect_right

from murvel.tree.model import Node


class Stops:
    """Tab stops in Tab's order.

    Attributes:
        nodes: the stops.
        places: the place of each among them, by node id.
    """

    def __init__(self, nodes: list[Node]) -> None:
        self.nodes = nodes
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
