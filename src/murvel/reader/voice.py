"""A voice: what turns facts of the tree into an utterance, settling which parts are said and in which order."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from murvel.page.text import collapse
from murvel.reader.readout import RAIL_ROLES, Container, Object
from murvel.reader.timing import DEFAULT_RATE
from murvel.reader.utterance import Part, PartKind, Utterance
from murvel.reader.words import ROLE_WORDS, STATE_WORDS, counted
from murvel.tree.grid import Grid
from murvel.tree.model import Node
from murvel.tree.roles import CELLS, NEEDS_NAME, TABLES

_UNDERSTOOD = frozenset({("combobox", "haspopup")})
"""States that a role's word says already."""


class Voice:
    """The built-in voice: names first, then roles, states and positions, in moderate words.

    Attributes:
        name: what the voice is called.
        rate: words a minute.
    """

    def __init__(self, rate: int = DEFAULT_RATE) -> None:
        self.name = "name first"
        self.rate = rate
        self._grids: dict[int, Grid] = {}

    def say(self, objects: Sequence[Object], before: Container | None) -> Utterance:
        """Return the announcement of objects that are reached from somewhere else.

        Args:
            objects: objects that follow each other in the readout.
            before: the innermost container of the place reading comes from; only what is new compared with it is
                announced as context.
        """
        parts: list[Part] = []
        trailing: list[tuple[Container, Part]] = []
        positions: list[Part] = []
        container = before
        for position, each in enumerate(objects):
            if each.container is not container:
                for entered in entered_containers(container, each.container):
                    self._enter(entered, parts, trailing, positions)
                container = each.container
            if each.node.is_text:
                in_heading = container is not None and container.node.role == "heading"
                parts.append(Part(PartKind.HEADING if in_heading else PartKind.TEXT, each.text))
            else:
                parts.extend(self.node_parts(each.node))
            following = objects[position + 1].container if position + 1 < len(objects) else None
            while trailing and (position + 1 == len(objects) or not _within(following, trailing[-1][0])):
                parts.append(trailing.pop()[1])
        return Utterance((*_trimmed(parts), *positions))

    def _enter(
        self,
        container: Container,
        parts: list[Part],
        trailing: list[tuple[Container, Part]],
        positions: list[Part],
    ) -> None:
        node = container.node
        if node.role in ("heading", "link"):
            trailing.append((container, Part(PartKind.ROLE, role_words(node))))
        elif node.role == "listitem":
            positions.extend(_position(node))
        elif node.role in CELLS:
            positions.extend(self._cell(container))
        else:
            parts.append(Part(PartKind.CONTEXT, self.context(node)))

    def _cell(self, container: Container) -> list[Part]:
        node = container.node
        parts = []
        if node.role in ("columnheader", "rowheader"):
            parts.append(Part(PartKind.ROLE, role_words(node)))
        table = next((above for above in container.chain()[::-1] if above.node.role in TABLES), None)
        place = self._grid(table.node).places.get(node.id) if table is not None else None
        if place is not None:
            parts.append(Part(PartKind.POSITION, f"row {place.row} column {place.column}"))
        return parts

    def _grid(self, table: Node) -> Grid:
        if table.id not in self._grids:
            self._grids[table.id] = Grid(table)
        return self._grids[table.id]

    def say_alone(self, node: Node) -> Utterance:
        """Return the announcement of a node out of its context, as in a list."""
        if node.role in RAIL_ROLES:
            return Utterance((Part(PartKind.CONTEXT, self.context(node)),))
        return Utterance(tuple(self.node_parts(node)))

    def context(self, node: Node) -> str:
        """Return the words in which entering a container is announced."""
        words = role_words(node)
        if node.name:
            words = f"{words} {node.name}"
        joint = ", " if node.name else " with "
        if node.role == "list":
            words += joint + counted(_count(node), "item", "items")
        elif node.role in TABLES:
            grid = self._grid(node)
            words += f"{joint}{counted(grid.rows, 'row', 'rows')} and {counted(grid.columns, 'column', 'columns')}"
        states = [text for text in _states(node) if text]
        return ", ".join([words, *states])

    def node_parts(self, node: Node) -> Iterable[Part]:
        """Yield what is said of one node but text: name, role, value, states, position, description."""
        if node.name or node.role in NEEDS_NAME:
            yield Part(PartKind.NAME, node.name)
        words = role_words(node)
        if words:
            yield Part(PartKind.ROLE, words)
        if node.value:
            yield Part(PartKind.VALUE, collapse(node.value))
        for text in _states(node):
            if text:
                yield Part(PartKind.STATE, text)
        if node.role != "listitem":
            yield from _position(node)
        if node.description:
            yield Part(PartKind.DESCRIPTION, node.description)


def entered_containers(before: Container | None, now: Container | None) -> list[Container]:
    """Return the containers around `now` that are not around `before`, the outermost first."""
    known = set() if before is None else {id(container) for container in before.chain()}
    entered: list[Container] = []
    while now is not None and id(now) not in known:
        entered.append(now)
        now = now.outer
    return entered[::-1]


def role_words(node: Node) -> str:
    """Return the words for a node's role: its author's description where there is one, else ours."""
    described = node.states.get("roledescription")
    if described:
        return str(described)
    words = ROLE_WORDS.get(node.role, "")
    level = node.states.get("level")
    return f"{words} level {level}" if node.role == "heading" else words


def _trimmed(parts: list[Part]) -> list[Part]:
    """Return parts without the space that text begins or ends with where nothing stands beside it."""
    if parts and parts[0].kind is PartKind.TEXT:
        parts[0] = Part(PartKind.TEXT, parts[0].text.lstrip())
    if parts and parts[-1].kind is PartKind.TEXT:
        parts[-1] = Part(PartKind.TEXT, parts[-1].text.rstrip())
    return parts


def _within(container: Container | None, outer: Container) -> bool:
    while container is not None:
        if container is outer:
            return True
        container = container.outer
    return False


def _states(node: Node) -> Iterable[str]:
    states = node.states
    if states:
        for name, words in STATE_WORDS.items():
            if name in states and (node.role, name) not in _UNDERSTOOD:
                yield words(states[name])


def _position(node: Node) -> Iterable[Part]:
    position, size = node.states.get("posinset"), node.states.get("setsize")
    if position is not None and size is not None:
        yield Part(PartKind.POSITION, f"{position} of {size}" if size != -1 else str(position))


def _count(node: Node) -> int:
    """Return the number of a list's items; the terms of a description list are its items."""
    count = 0
    stack = list(node.children)
    while stack:
        child = stack.pop()
        if child.role in ("listitem", "term"):
            count += 1
        elif child.role not in ("list", "definition"):
            stack.extend(child.children)
    return count
