"""The speaker: turns facts of the tree into utterances, as a voice wants to hear them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence, Set

from murvel.page.text import collapse
from murvel.reader.hints import HINTS
from murvel.reader.pronunciation import spoken
from murvel.reader.readout import RAIL_ROLES, WITH_TEXT, Container, Object, Readout
from murvel.reader.utterance import Part, PartKind, Utterance
from murvel.reader.voice import Piece, Voice, surrounding
from murvel.reader.words import ROLE_WORDS, STATE_WORDS, counted, language_words
from murvel.tree.grid import Grid
from murvel.tree.model import Tree
from murvel.tree.name_sources import NameFrom
from murvel.tree.node import Node
from murvel.tree.roles import CELLS, LINKS, NEEDS_NAME, TABLES

_UNDERSTOOD = frozenset({("combobox", "haspopup")})
"""States that a role's word says already."""


class Speaker:
    """Says things of one tree in one voice.

    Attributes:
        tree, voice: what is spoken of, and how.
        visited: the addresses of links that were followed before.
    """

    def __init__(self, tree: Tree, voice: Voice, visited: Set[str] = frozenset()) -> None:
        self.tree = tree
        self.visited = visited
        self.voice = voice
        self._pieces: dict[Piece, Callable[[Node], Iterator[Part]]] = {
            Piece.NAME: self._name,
            Piece.ROLE: self._role,
            Piece.VALUE: self._value,
            Piece.STATES: self.states,
            Piece.POSITION: self._position,
            Piece.DESCRIPTION: self._description,
            Piece.HINT: self._hint,
        }
        self._followed = len(visited)
        self._is_multilingual = tree.semantics.is_multilingual

    def says_like(self, other: Speaker) -> bool:
        """Whether what stayed on a page is said as another speaker of an earlier tree said it."""
        return self._followed == other._followed and self._is_multilingual is other._is_multilingual

    def spoken(self, text: str) -> str:
        """Return the words that text of the page is heard as."""
        return spoken(text, self.voice.punctuation)

    def say(self, objects: Sequence[Object], before: Container | None, came_from: Object | None = None) -> Utterance:
        """Return the announcement of objects that are reached from somewhere else.

        Args:
            objects: objects that follow each other in the readout.
            before: the innermost container of the place reading comes from; only what is new compared with it is
                announced as context.
            came_from: the object reading comes from, None where it comes from nowhere.
        """
        parts: list[Part] = list(self._left(before, objects[0].container if objects else None))
        trailing: list[tuple[Container, Part]] = []
        after: list[Part] = []
        container = before
        language = self._language(came_from.node if came_from is not None else self.tree.root)
        for position, each in enumerate(objects):
            if each.container is not container:
                for entered in entered_containers(container, each.container):
                    self._enter(entered, parts, trailing, after, container)
                container = each.container
            if self._is_multilingual and self.voice.languages and self._language(each.node) != language:
                language = self._language(each.node)
                if language:
                    parts.append(Part(PartKind.LANGUAGE, language_words(language)))
            if each.node.is_text:
                in_heading = container is not None and container.node.role == "heading"
                text = self.spoken(each.text)
                if parts and parts[-1].text.endswith(" "):
                    text = text.lstrip(" ")
                parts.append(Part(PartKind.HEADING if in_heading else PartKind.TEXT, text))
            else:
                parts.extend(self.node_parts(each.node))
            following = objects[position + 1].container if position + 1 < len(objects) else None
            while trailing and (position + 1 == len(objects) or not _within(following, trailing[-1][0])):
                parts.append(trailing.pop()[1])
        if self.voice.blank_lines and all(each.node.is_text and not each.text.strip() for each in objects):
            after.insert(0, Part(PartKind.BLANK, "blank"))
        return Utterance((*_trimmed(parts), *after))

    def _left(self, before: Container | None, now: Container | None) -> Iterator[Part]:
        """The ends of containers that reading goes out of, the innermost first."""
        if before is None or not self.voice.leaving or before is now:
            return
        staying = {id(container) for container in now.chain()} if now is not None else set()
        left = [each.node for each in reversed(before.chain()) if id(each) not in staying]
        yield from self.ends(node for node in left if node.role in RAIL_ROLES)

    def ends(self, left: Iterable[Node]) -> Iterator[Part]:
        """Yield what is said of containers that reading goes out of."""
        for node in left:
            if surrounding(node.role) in self.voice.leaving:
                yield Part(PartKind.CONTEXT, f"end of {role_words(node)}")

    def _enter(
        self,
        container: Container,
        parts: list[Part],
        trailing: list[tuple[Container, Part]],
        after: list[Part],
        before: Container | None,
    ) -> None:
        node = container.node
        if node.role in WITH_TEXT:
            role = Part(PartKind.ROLE, role_words(node))
            if self.voice.role_first:
                parts.append(role)
            elif Piece.ROLE in self.voice.order:
                trailing.append((container, role))
        elif node.role == "listitem":
            after.extend(self._when(Piece.POSITION, self._position(node)))
        elif node.role in CELLS:
            parts.extend(self._new_headers(container, before))
            after.extend(self._cell(node, _table_around(container)))
        elif surrounding(node.role) in self.voice.entering:
            parts.append(Part(PartKind.CONTEXT, self.context(node, container)))

    def _new_headers(self, cell: Container, before: Container | None) -> Iterator[Part]:
        """The headers of a cell that the cell reading comes from does not have."""
        table = _table_around(cell)
        if table is not None:
            left = next(
                (each.node for each in (before.chain() if before else [])[::-1] if each.node.role in CELLS), None
            )
            yield from self.new_headers(self.tree.grid_of(table), cell.node, left)

    def new_headers(self, grid: Grid, cell: Node, left: Node | None) -> Iterator[Part]:
        """Yield what is said of a cell's headers where reading comes from another cell, or from None."""
        if not self.voice.headers:
            return
        known = {header.id for header in grid.headers(left)} | {left.id} if left is not None else set()
        for header in grid.headers(cell):
            if header.id not in known and header.name != cell.name:
                yield Part(PartKind.HEADER, self.spoken(header.name))

    def cell_content(self, cell: Node, readout: Readout) -> Iterator[Part]:
        """Yield what is in a cell."""
        first = readout.first_object(cell)
        if first is None:
            yield Part(PartKind.BLANK, "empty")
            return
        end = first.index
        while end < len(readout.objects) and cell.contains(readout.objects[end].node):
            end += 1
        yield from self.say(readout.objects[first.index : end], first.container, first).parts

    def cell_place(self, cell: Node) -> Iterator[Part]:
        """Yield what is said of a cell itself: that it is a header, where it stands, its states."""
        table = next((above for above in cell.ancestors() if above.role in TABLES), None)
        return self._cell(cell, table)

    def _cell(self, node: Node, table: Node | None) -> Iterator[Part]:
        if node.role in ("columnheader", "rowheader") and Piece.ROLE in self.voice.order:
            yield Part(PartKind.ROLE, role_words(node))
        if table is not None and self.voice.coordinates:
            place = self.tree.grid_of(table).places.get(node.id)
            if place is not None:
                row = f"rows {place.row} to {place.row + place.rows - 1}" if place.rows > 1 else f"row {place.row}"
                last = place.column + place.columns - 1
                column = f"columns {place.column} to {last}" if place.columns > 1 else f"column {place.column}"
                yield Part(PartKind.POSITION, f"{row} {column}")
        yield from self._when(Piece.STATES, self.states(node))

    def say_alone(self, node: Node) -> Utterance:
        """Return the announcement of a node out of its context, as in a list."""
        if node.is_text:
            return Utterance((Part(PartKind.TEXT, self.spoken(node.name)),))
        if node.role in RAIL_ROLES:
            return Utterance((Part(PartKind.CONTEXT, self.context(node)),))
        return Utterance(tuple(self.node_parts(node)))

    def context(self, node: Node, container: Container | None = None) -> str:
        """Return the words in which entering a container is announced; with its container also how deep it nests."""
        words = role_words(node)
        name = node.name if node.name_from is not NameFrom.CONTENTS else ""  # the content is read next
        if name:
            words = f"{words} {self.spoken(name)}"
        joint = ", " if name else " with "
        if node.role == "list":
            words += joint + counted(_count(node), "item", "items")
            depth = _nesting(container) if container is not None and self.voice.nesting else 1
            if depth > 1:
                words += f", level {depth}"
        elif node.role in TABLES:
            grid = self.tree.grid_of(node)
            words += f"{joint}{counted(grid.rows, 'row', 'rows')} and {counted(grid.columns, 'column', 'columns')}"
        said = [*self.states(node), *(self._position(node) if node.role == "article" else ())]
        return ", ".join([words, *(part.text for part in said)])

    def node_parts(self, node: Node) -> Iterable[Part]:
        """Yield what is said of one node but text, in the voice's order."""
        for piece in self.voice.order:
            yield from self._pieces[piece](node)

    def _when(self, piece: Piece, parts: Iterator[Part]) -> Iterator[Part]:
        return parts if piece in self.voice.order else iter(())

    def _name(self, node: Node) -> Iterator[Part]:
        if node.name or node.role in NEEDS_NAME:
            yield Part(PartKind.NAME, self.spoken(node.name))

    def _role(self, node: Node) -> Iterator[Part]:
        words = role_words(node)
        if words:
            yield Part(PartKind.ROLE, words)

    def _value(self, node: Node) -> Iterator[Part]:
        if node.value:
            yield Part(PartKind.VALUE, self.spoken(collapse(node.value)).strip())

    def states(self, node: Node) -> Iterator[Part]:
        """Yield what is said of a node's states."""
        if node.states:
            for name, words in STATE_WORDS.items():
                if name in node.states and (node.role, name) not in _UNDERSTOOD:
                    text = words(node.states[name])
                    if text:
                        yield Part(PartKind.STATE, text)

        if self.visited and self.voice.visited and node.role in LINKS:
            address = node.element.attributes.get("href")
            if address is not None and self.tree.document.resolve(address) in self.visited:
                yield Part(PartKind.STATE, "visited")

    def _position(self, node: Node) -> Iterator[Part]:
        position, size = node.states.get("posinset"), node.states.get("setsize")
        if position is not None and size is not None:
            yield Part(PartKind.POSITION, f"{position} of {size}" if size != -1 else str(position))

    def _description(self, node: Node) -> Iterator[Part]:
        if node.description:
            yield Part(PartKind.DESCRIPTION, self.spoken(node.description))

    def _hint(self, node: Node) -> Iterator[Part]:
        hint = HINTS.get(node.role)
        if hint and "disabled" not in node.states:
            yield Part(PartKind.HINT, hint)

    def _language(self, node: Node) -> str:
        """The language of a node without its region; the page's own where there is only one."""
        return self.tree.language_of(node).partition("-")[0].lower() if self._is_multilingual else ""


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


def _table_around(container: Container) -> Node | None:
    return next((above.node for above in container.chain()[::-1] if above.node.role in TABLES), None)


def _nesting(container: Container) -> int:
    return sum(above.node.role == "list" for above in container.chain())


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
