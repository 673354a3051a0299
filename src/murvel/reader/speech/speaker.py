"""The speaker: turns facts of the tree into utterances, as a voice wants to hear them."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence, Set

from murvel.patterns import pattern
from murvel.reader.readout.items import WITH_TEXT, Container, Object
from murvel.reader.readout.readout import MARKS, RAIL_ROLES, Readout
from murvel.reader.speech.pieces import Pieces
from murvel.reader.speech.timing import seconds
from murvel.reader.speech.utterance import Part, PartKind, Utterance
from murvel.reader.speech.voice import Piece, Voice, surrounding
from murvel.reader.speech.wording.words import ENGLISH, LANGUAGES, Words, words_of
from murvel.text import collapse
from murvel.tree.fields import is_rich_text
from murvel.tree.lists import items_of
from murvel.tree.model import Tree
from murvel.tree.names.name_sources import NameFrom
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import CELLS, FIELDS, TABLES
from murvel.tree.states.states import State
from murvel.tree.tables.grid import Grid

_OF_TERMS = frozenset({"term", "definition"})
_RAISED = frozenset({"subscript", "superscript"})
_ORDINAL = pattern(r"st|nd|rd|th|er|[èe]?re|e|[èe]me|os?|as?|º|ª|ste|de", re.IGNORECASE)
"""What stands raised behind a number and is a part of its word: 4th, 1er, 2ème."""

_RUNNING = frozenset({PartKind.TEXT, PartKind.HEADING})
"""Parts that are running text, with the spaces between words."""


class Speaker:
    """Says things of one tree in one voice.

    Attributes:
        tree, voice: what is spoken of, and how.
        words: the words of the voice, in its language or the page's.
        pieces: what is said of single nodes.
    """

    def __init__(self, tree: Tree, voice: Voice, visited: Set[str] = frozenset()) -> None:
        """Take the tree, the voice, and the addresses of links that were followed before."""
        self.tree = tree
        self.voice = voice
        self.words: Words = voice.words or words_of(voice.language or tree.document.language)
        self.pieces = Pieces(tree, voice, self.words, visited)
        self._followed = len(visited)
        self._is_multilingual = tree.semantics.is_multilingual

    def says_like(self, other: Speaker) -> bool:
        """Whether what stayed on a page is said as another speaker of an earlier tree said it."""
        return self._followed == other._followed and self._is_multilingual is other._is_multilingual

    def lasts(self, text: str) -> float:
        """Return how many seconds it takes to say something, with the pause after it."""
        return seconds(text, self.voice.rate, self.tree.document.language)

    def say(self, objects: Sequence[Object], before: Container | None, came_from: Object | None = None) -> Utterance:
        """Return the announcement of objects that are reached from somewhere else.

        Args:
            objects: objects that follow each other in the readout.
            before: the innermost container of the place reading comes from; only what is new compared with it is
                announced as context.
            came_from: the object reading comes from, None if it comes from nowhere.
        """
        now = objects[0].container if objects else None
        parts: list[Part] = list(self._left(before, now, objects, came_from))
        trailing: list[tuple[Container, Part]] = []
        after: list[Part] = []
        hints: list[Part] = []
        container = before
        said_as_name = 0
        language = self._language(came_from.node if came_from is not None else self.tree.root)
        for position, each in enumerate(objects):
            if each.container is not container:
                every = entered_containers(container, each.container)
                for depth, entered in enumerate(every):
                    if entered.node.role in _OF_TERMS and any(inner.node.role in RAIL_ROLES for inner in every[depth:]):
                        continue  # what is in it begins with a list or the like, which says what it is
                    named = self._texts_of_name(entered, objects, position)
                    in_heading = named > 0 and each.container is not entered
                    entering = self._entering(entered, trailing, after, container, with_name=not in_heading)
                    parts.extend(self._without_next(entering, objects[position:]))
                    said_as_name = max(said_as_name, 0 if in_heading else position + named)
                container = each.container
            if self._is_multilingual and self.voice.languages and self._language(each.node) != language:
                language = self._language(each.node)
                if language:
                    parts.append(Part(PartKind.LANGUAGE, self._in_language(language)))
            if position >= said_as_name:
                parts.extend(self._of_object(each, container, parts))
            if position + 1 == len(objects):  # how to operate it is said last, behind all that it is
                while parts and parts[-1].kind is PartKind.HINT:
                    hints.insert(0, parts.pop())
            following = objects[position + 1].container if position + 1 < len(objects) else None
            while trailing and (position + 1 == len(objects) or not _within(following, trailing[-1][0])):
                parts.append(trailing.pop()[1])
        if self.voice.blank_lines and all(each.node.is_text and not each.text.strip() for each in objects):
            after.insert(0, Part(PartKind.BLANK, self.words.phrase("blank")))
        return Utterance((*_trimmed(parts), *after, *hints))

    def _without_next(self, parts: Iterable[Part], objects: Sequence[Object]) -> Iterator[Part]:
        """Yield parts without a description that is what is read next, as the text of an alert dialog."""
        following = collapse("".join(each.text for each in objects if each.node.is_text))
        for part in parts:
            is_next = part.kind is PartKind.DESCRIPTION and self.pieces.label(following) == part.text
            if not is_next:
                yield part

    def _of_object(self, each: Object, container: Container | None, parts: list[Part]) -> Iterator[Part]:
        if each.node.is_text:
            text = self.pieces.spoken(each.text)
            if parts and parts[-1].text.endswith(" "):
                text = text.lstrip(" ")
            if not text and each.text.strip():
                yield Part(PartKind.NAME, "")  # an icon of a font: something is there, and nothing is heard
                return
            in_heading = container is not None and container.node.role == "heading"
            yield Part(PartKind.HEADING if in_heading else PartKind.TEXT, text)
        elif each.node.role in CELLS:
            yield Part(PartKind.BLANK, self.words.phrase("empty"))
        else:
            yield from self.pieces.all_of(each.node)

    def _texts_of_name(self, container: Container, objects: Sequence[Object], first: int) -> int:
        """How many texts, from the first that is read in a container on, say its name and nothing else."""
        name = collapse(container.node.name) if container.node.name_from is not NameFrom.CONTENTS else ""
        if not name or not self._announces(container):
            return 0
        text = ""
        for at in range(first, len(objects)):
            if not objects[at].node.is_text or not _within(objects[at].container, container):
                return 0
            if objects[at].node.element in self.tree.stop_numbers:
                return 0  # what the keyboard comes to is something, also where it says the same
            text += objects[at].text
            said = collapse(text)
            if said == name:
                return at + 1 - first
            if not name.startswith(said):
                return 0
        return 0

    def _announces(self, container: Container) -> bool:
        role = container.node.role
        return role in RAIL_ROLES and surrounding(role) in self.voice.entering

    def _left(
        self, before: Container | None, now: Container | None, objects: Sequence[Object], came_from: Object | None
    ) -> Iterator[Part]:
        """The ends of containers that reading goes out of, the innermost first."""
        if before is None or before is now:
            return
        staying = {id(container) for container in now.chain()} if now is not None else set()
        left = [each.node for each in reversed(before.chain()) if id(each) not in staying]
        goes_on = came_from is not None and bool(objects) and objects[0].index == came_from.index + 1
        # Text right behind a list could be taken for a part of it.
        into_text = goes_on and objects[0].node.is_text and (now is None or id(now) in {id(c) for c in before.chain()})
        yield from self.ends((node for node in left if node.role in RAIL_ROLES), before_text=into_text)

    def ends(self, left: Iterable[Node], *, before_text: bool = False) -> Iterator[Part]:
        """Yield what is said of containers that reading goes out of, be it into text that follows."""
        told = self.voice.leaving | self.voice.leaving_before_text if before_text else self.voice.leaving
        for node in left:
            if surrounding(node.role) in told:
                yield Part(PartKind.CONTEXT, self.words.phrase("end", what=self.words.role(node)))

    def _entering(
        self,
        container: Container,
        trailing: list[tuple[Container, Part]],
        after: list[Part],
        before: Container | None,
        *,
        with_name: bool,
    ) -> Iterator[Part]:
        """What is said where reading comes into a container; what comes after its content is put into the lists."""
        node = container.node
        role = Part(PartKind.ROLE, self.words.role(node))
        if node.role in WITH_TEXT:
            if self.voice.role_first:
                yield role
            elif Piece.ROLE in self.voice.order:
                trailing.append((container, role))
        elif node.role in MARKS:
            yield from self._marked(container, role, trailing)
        elif node.role == "listitem":
            after.extend(self._when(Piece.POSITION, self.pieces.position(node)))
        elif node.role in _OF_TERMS:
            if Piece.ROLE in self.voice.order and node.role == "definition":
                yield role
            elif Piece.ROLE in self.voice.order:
                trailing.append((container, role))
            after.extend(self._when(Piece.POSITION, self.pieces.position(node)))
        elif node.role in CELLS:
            yield from self._new_headers(container, before)
            left = _cell_around(before)
            after.extend(self._cell(node, _table_around(container)))
            after.extend(self.pieces.row(node, left))
        elif self._announces(container):
            yield Part(PartKind.CONTEXT, self.context(node, container, with_name=with_name))
            yield from self._when(Piece.DESCRIPTION, self.pieces.description(node))
        elif is_rich_text(node):
            yield Part(PartKind.CONTEXT, f"{self.pieces.label(node.name)} {self.words.phrase('edit')}".strip())

    def _marked(self, container: Container, role: Part, trailing: list[tuple[Container, Part]]) -> Iterator[Part]:
        """What is said around text that is deleted, inserted or marked, and of an abbreviation."""
        node = container.node
        if not self.voice.marks:
            return
        if node.role == "abbr":
            if node.name and self.voice.abbreviations:
                trailing.append((container, Part(PartKind.DESCRIPTION, self.pieces.label(node.name))))
            return
        if node.role in _RAISED:
            if node.role == "subscript" or not _ORDINAL.fullmatch(collapse(node.element.text())):
                yield role
            return
        yield role
        trailing.append((container, Part(PartKind.ROLE, self.words.phrase("end", what=role.text))))

    def _new_headers(self, cell: Container, before: Container | None) -> Iterator[Part]:
        """The headers of a cell that the cell reading comes from does not have."""
        table = _table_around(cell)
        if table is not None:
            yield from self.new_headers(self.tree.grid_of(table), cell.node, _cell_around(before))

    def new_headers(self, grid: Grid, cell: Node, left: Node | None) -> Iterator[Part]:
        """Yield what is said of a cell's headers where reading comes from another cell, or from None."""
        if not self.voice.headers:
            return
        known = {header.id for header in grid.headers(left)} | {left.id} if left is not None else set()
        for header in grid.headers(cell):
            if header.id not in known and header.name != cell.name:
                yield Part(PartKind.HEADER, self.pieces.label(header.element.attributes.get("abbr", "") or header.name))

    def cell_content(self, cell: Node, readout: Readout) -> Iterator[Part]:
        """Yield what is in a cell."""
        first = readout.first_object(cell)
        if first is None:
            yield Part(PartKind.BLANK, self.words.phrase("empty"))
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
            yield Part(PartKind.ROLE, self.words.role(node))
        if table is not None and self.voice.coordinates:
            place = self.tree.grid_of(table).places.get(node.id)
            if place is not None:
                row = self._span(
                    "row", _stated(node, "row", place.row), _positive(node.stated.get("rowspan"), place.rows)
                )
                column = self._span(
                    "column", _stated(node, "col", place.column), _positive(node.stated.get("colspan"), place.columns)
                )
                yield Part(PartKind.POSITION, f"{row} {column}")
        yield from self._when(Piece.STATES, self.pieces.states(node))

    def say_alone(self, node: Node) -> Utterance:
        """Return the announcement of a node out of its context, as in a list."""
        if node.is_text:
            return Utterance((Part(PartKind.TEXT, self.pieces.spoken(node.name)),))
        if node.role in RAIL_ROLES and node.role not in FIELDS:
            described = self._when(Piece.DESCRIPTION, self.pieces.description(node))
            return Utterance((Part(PartKind.CONTEXT, self.context(node)), *described))
        return Utterance(tuple(self.pieces.all_of(node)))

    def context(self, node: Node, container: Container | None = None, *, with_name: bool = True) -> str:
        """Return the words in which entering a container is announced.

        Args:
            node: the container's node.
            container: itself, to tell how deep it nests.
            with_name: whether its name is said; it is not where it is the first thing that is read in it.
        """
        words = self.words.role(node)
        is_said = with_name and node.name_from is not NameFrom.CONTENTS  # the content is read next
        name = self.pieces.label(node.name) if is_said else ""
        if name:
            words = f"{words} {name}"
        count = self._size(node)
        if count:
            words = f"{words}, {count}" if name else self.words.phrase("holds", what=words, count=count)
        if node.role == "list" and container is not None and self.voice.nesting and _nesting(container) > 1:
            words += f", {self.words.phrase('level', n=_nesting(container))}"
        said = [*self.pieces.states(node), *(self.pieces.position(node) if node.role == "article" else ())]
        return ", ".join([words, *(part.text for part in said)])

    def _size(self, node: Node) -> str:
        """How many items a list has, or rows and columns a table; empty for others."""
        if node.role == "list":
            return self.words.counted("items", len(items_of(node)))
        if node.role in TABLES:
            grid = self.tree.grid_of(node)
            rows = self.words.counted("rows", _stated_size(node, "rowcount", grid.rows))
            columns = self.words.counted("columns", _stated_size(node, "colcount", grid.columns))
            return self.words.phrase("and", one=rows, other=columns)
        return ""

    def _span(self, what: str, first: int, count: int) -> str:
        if count > 1:
            return self.words.phrase(f"{what}s", n=first, last=first + count - 1)
        return self.words.phrase(what, n=first)

    @property
    def language_without_words(self) -> str:
        """The name of the page's language, where the voice is to use that and has no words in it; empty otherwise."""
        main = self.tree.document.language.partition("-")[0].lower()
        is_followed = not main or self.voice.language or self.voice.words is not None
        return "" if is_followed or main in LANGUAGES else ENGLISH.name_of_language(main)

    def _in_language(self, language: str) -> str:
        return self.words.phrase("language", language=self.words.name_of_language(language))

    def _when(self, piece: Piece, parts: Iterator[Part]) -> Iterator[Part]:
        return parts if piece in self.voice.order else iter(())

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


def _trimmed(parts: list[Part]) -> list[Part]:
    """Return parts without the space that text begins or ends with where nothing stands beside it."""
    if parts and parts[0].kind in _RUNNING:
        parts[0] = Part(parts[0].kind, parts[0].text.lstrip())
    if parts and parts[-1].kind in _RUNNING:
        parts[-1] = Part(parts[-1].kind, parts[-1].text.rstrip())
    return parts


def _within(container: Container | None, outer: Container) -> bool:
    while container is not None:
        if container is outer:
            return True
        container = container.outer
    return False


def _cell_around(container: Container | None) -> Node | None:
    chain = container.chain()[::-1] if container is not None else []
    return next((each.node for each in chain if each.node.role in CELLS), None)


def _stated(cell: Node, what: str, counted: int) -> int:
    """The row or column of a cell as its author states it, on the cell or on its row, else as it was counted."""
    row = next((above for above in cell.ancestors() if above.role == "row"), None)
    of_row = row.stated.get(f"{what}index") if row is not None else None
    if what == "col" and isinstance(of_row, int):
        of_row += counted - 1  # it says where the first cell of the row stands
    return _positive(cell.stated.get(f"{what}index", of_row), counted)


def _positive(stated: State | None, counted: int) -> int:
    return stated if isinstance(stated, int) and stated > 0 else counted


def _stated_size(table: Node, name: str, counted: int) -> int:
    """How many rows or columns a table has in all, which may be more than are on the page (aria-rowcount)."""
    return max(_positive(table.stated.get(name), counted), counted)


def _table_around(container: Container) -> Node | None:
    return next((above.node for above in container.chain()[::-1] if above.node.role in TABLES), None)


def _nesting(container: Container) -> int:
    return sum(above.node.role == "list" for above in container.chain())
