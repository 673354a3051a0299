"""The reading session: it owns cursor, focus, voice and log, and answers every move with an utterance.

The application, the line commands, replays and tests drive it in the same way. It never prints.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from operator import attrgetter

from murvel.page.document import Element
from murvel.page.memory import no_collection
from murvel.reader.kinds import BY_ID, COUNTED, KINDS, Kind, nodes_of
from murvel.reader.live import Change, KeyOf
from murvel.reader.moves import CHANGE_VOICE, TO_END, TO_START, WHERE_AM_I, Direction, Heard, Mode
from murvel.reader.readout import WITH_TEXT, Container, Item, Object, Readout
from murvel.reader.speaker import Speaker, role_words
from murvel.reader.speech import Source, SpeechQueue
from murvel.reader.spoken import Spoken
from murvel.reader.stops import Stops
from murvel.reader.timing import clock
from murvel.reader.utterance import Part, PartKind, Utterance, notice
from murvel.reader.voice import NAME_FIRST, Unit, Voice
from murvel.reader.words import counted
from murvel.stage.stage import Stage
from murvel.tree.model import Node, Tree


@dataclass(frozen=True, slots=True)
class _Search:
    """A jump to where a text is heard."""

    text: str


class ReadingSession:
    """One reading of one tree.

    Attributes:
        tree, readout, spoken: what is read, as items, and as heard straight through.
        cursor: the object at which reading stands, None on a page with nothing to read.
        focus: the node that has the keyboard's focus, None before the first Tab.
        log: what was heard, the oldest first.
        mode: who gets the keys.
        stage: what the page runs on, None where there is only a tree.
        clock: the seconds since the page was loaded; only waiting moves it.
        speech: what is spoken, in time.
        notes: announcements that puzzled the listener, as they noted them.
        silent: changes that nothing was said of, each with its second.
        visited: the addresses of links that were followed.
    """

    def __init__(self, tree: Tree, voice: Voice | None = None, stage: Stage | None = None) -> None:
        self.tree = tree
        self.stage = stage
        self.clock = 0.0
        self.silent: list[tuple[float, Change]] = []
        self.notes: list[Heard] = []
        self.visited: set[str] = set()
        with no_collection():
            self.readout = Readout(tree)
            self.spoken = Spoken(self.readout, voice or NAME_FIRST, self.visited)
        self.speech = SpeechQueue(self.voice.rate)
        self.cursor: Object | None = self.readout.objects[0] if self.readout.objects else None
        self.focus: Node | None = None
        self.mode = Mode.BROWSE
        self.log: list[Heard] = []
        self._last: Kind | _Search | None = None
        self._targets: dict[str, list[Node]] = {}
        self._markers: dict[str, Callable[[Tree], Iterable[Node]]] = {}
        self._stops: Stops | None = None
        self._anchor: tuple[Kind, int] | None = None
        """The kind that was jumped to last and the node's id, until another move."""
        self._subject: Node | None = None
        self._arrived = False
        """Whether anything of the page was read yet: before that, reading comes from nowhere."""
        self._is_lost = False
        """Whether what the cursor stood at is gone since the page changed."""
        self.span: tuple[int, int] | None = None
        """Where the word or character read last begins and ends in the text of the cursor's object."""
        self.cell: Node | None = None
        """The cell that was moved to last; it may be empty, and then the cursor cannot stand in it."""
        self.place: Container | Object | None = None
        """The container or object that was moved to last by containers."""

    # Where things are

    @property
    def voice(self) -> Voice:
        """The voice in which the session speaks."""
        return self.spoken.speaker.voice

    @property
    def speaker(self) -> Speaker:
        """Who says things of this tree."""
        return self.spoken.speaker

    @property
    def item(self) -> Item | None:
        """The item in which the cursor stands."""
        return self.cursor.item if self.cursor is not None else None

    @property
    def node(self) -> Node | None:
        """The node the last announcement was about; where nothing was announced, the cursor's."""
        if self._subject is not None:
            return self._subject
        return self.cursor.node if self.cursor is not None else None

    @property
    def time(self) -> float:
        """The second of listening at which the cursor's item begins."""
        return self.spoken.starts[self.item.index] if self.item is not None else 0.0

    def change_voice(self, voice: Voice) -> Utterance:
        """Go on in another voice; the place stays, and what is there is said again."""
        with no_collection():
            self.spoken = Spoken(self.readout, voice, self.visited)
        self.speech.rate = voice.rate
        said = self.hear(CHANGE_VOICE, notice(f"voice {voice.name}"), self.node)
        if self.cursor is None:
            return said
        again = self.speaker.say(self.cursor.item.objects, None)
        return self.hear("read again", again, self.node, Source.POLITE)

    def said_as(self, voices: Sequence[Voice]) -> list[tuple[Voice, Utterance]]:
        """Return what is at the cursor as each voice says it, coming from nowhere."""
        objects = self.cursor.item.objects if self.cursor is not None else []
        return [(voice, Speaker(self.tree, voice, self.visited).say(objects, None)) for voice in voices]

    def targets(self, kind: Kind) -> list[Node]:
        """Return the nodes of a kind that a jump can land on, in reading order."""
        if kind.id not in self._targets:
            marker = self._markers.get(kind.id)
            nodes = nodes_of(self.tree, kind) if marker is None else sorted(set(marker(self.tree)), key=_id)
            self._targets[kind.id] = [node for node in nodes if self.readout.first_object(node) is not None]
        return self._targets[kind.id]

    def mark(self, kind: Kind, marker: Callable[[Tree], Iterable[Node]]) -> None:
        """Say which nodes are of a kind of `murvel.reader.kinds.MARKED`; asked when first needed, for each new tree."""
        self._markers[kind.id] = marker
        self._targets.pop(kind.id, None)

    # Moves. Each returns what is heard and adds it to the log.

    def arrive(self) -> Utterance:
        """Announce the page, and read its first item."""
        title = self.tree.document.title
        counts = [
            counted(len(nodes_of(self.tree, BY_ID[each])), BY_ID[each].singular, BY_ID[each].plural) for each in COUNTED
        ]
        parts = (
            Part(PartKind.NAME, title),
            Part(PartKind.NOTICE, "page" if title else "page without a title"),
            *(Part(PartKind.NOTICE, count) for count in counts),
        )
        arrival = self.hear("open page", Utterance(parts), self.tree.root)
        if self.cursor is None:
            self.hear("read", notice("nothing to read"), self.tree.root)
        else:
            self.read_item("read", self.cursor.item, Source.POLITE)
        return arrival

    def next_item(self) -> Utterance:
        """Read the next item; at the end, say so and stay."""
        return self._step("next item", 1, "end of page")

    def previous_item(self) -> Utterance:
        """Read the previous item; at the start, say so and stay."""
        return self._step("previous item", -1, "start of page")

    def first_item(self) -> Utterance:
        """Read the first item."""
        return self._go_to_index(TO_START, 0)

    def last_item(self) -> Utterance:
        """Read the last item."""
        return self._go_to_index(TO_END, len(self.readout.items) - 1)

    def jump(self, kind: Kind, direction: Direction) -> Utterance:
        """Go to the next or previous node of a kind; where there is none, say so and stay."""
        self._last = kind
        move = f"{direction.neighbour} {kind.singular}"
        target = self._jump_target(kind, direction)
        if target is None:
            return self.hear(move, notice(f"no {kind.singular} {direction.further}"), self.node)
        heard = self._land(move, target)
        self._anchor = (kind, target.id)
        return heard

    def repeat_jump(self, direction: Direction) -> Utterance:
        """Do the last jump or search again, in a direction of its own."""
        if self._last is None:
            return self.hear("repeat the last jump", notice("no jump to repeat yet"), self.node)
        if isinstance(self._last, _Search):
            return self.find(self._last.text, direction)
        return self.jump(self._last, direction)

    def find(self, text: str, direction: Direction = Direction.FORWARD) -> Utterance:
        """Go to the next item in which `text` is heard, capitals or not; where there is none, say so and stay."""
        wanted = " ".join(text.split()).casefold()
        if not wanted:
            return self.hear("find", notice("no text to find was given"), self.node)
        self._last = _Search(text)
        move = f"find “{' '.join(text.split())}”"
        if direction is Direction.BACK:
            move += " back"
        items = self.readout.items
        at = self.item.index if self.item is not None else 0
        order = range(at + 1, len(items)) if direction is Direction.FORWARD else range(at - 1, -1, -1)
        for index in order:
            if wanted in " ".join(self.spoken.utterances[index].text.split()).casefold():
                return self.read_item(move, items[index])
        return self.hear(move, notice(f"“{' '.join(text.split())}” is not heard {direction.further}"), self.node)

    def tab(self, direction: Direction = Direction.FORWARD) -> Utterance:
        """Move the focus to the next or previous tab stop from the cursor; reading follows it there."""
        forward = direction is Direction.FORWARD
        move = "Tab" if forward else "Shift+Tab"
        stop = self._tab_stops().from_cursor(self.cursor, self.focus, self.readout, forward)
        if stop is None:
            if not self.tree.stops:
                return self.hear(move, notice("no tab stops on this page"), self.node)
            edge = "last" if forward else "first"
            return self.hear(move, notice(f"that was the {edge} tab stop, focus would leave the page"), self.node)
        self.focus = stop
        return self._land(move, stop)

    def where_am_i(self) -> Utterance:
        """Say what encloses the cursor, how far into the page it is, and under which heading."""
        if self.cursor is None:
            return self.hear(WHERE_AM_I, notice("nothing to read on this page"), self.tree.root)
        items = self.readout.items
        parts = [Part(PartKind.NOTICE, f"item {self.cursor.item.index + 1} of {len(items)}")]
        parts.append(Part(PartKind.NOTICE, f"{clock(self.time)} of {clock(self.spoken.total)}"))
        chain = self.cursor.container.chain() if self.cursor.container is not None else []
        for container in reversed(chain):
            words = role_words(container.node)
            if container.node.role == "listitem":
                words = "list item"
            if words:
                name = container.node.name
                parts.append(Part(PartKind.CONTEXT, f"in {words} {name}" if name else f"in {words}"))
        heading = self._heading_above()
        if heading is not None and all(container.node is not heading for container in chain):
            name = heading.name or "without a name"
            parts.append(Part(PartKind.NOTICE, f"under heading level {heading.states['level']} {name}"))
        return self.hear(WHERE_AM_I, Utterance(tuple(parts)), self.node)

    def go_to(self, node: Node, move: str = "go to") -> Utterance:
        """Go to a node, or to what is read next after it where nothing of it is."""
        if self.readout.first_object(node) is not None:
            return self._land(move, node)
        nearest = self.readout.nearest(node)
        if nearest is None:
            return self.hear(move, notice("nothing to read on this page"), node)
        return self.read_item(move, nearest.item)

    def go_to_item(self, index: int) -> Utterance:
        """Go to an item by its number in the readout; one outside it is brought to the nearest."""
        return self._go_to_index("go to item", max(0, min(index, len(self.readout.items) - 1)))

    # How the moves are made

    def hear(self, move: str, utterance: Utterance, node: Node | None, source: Source = Source.KEY) -> Utterance:
        """Log what is heard on a move about a node, and return it; a key's answer interrupts what is spoken."""
        self.log.append(Heard(len(self.log) + 1, move, utterance, node))
        self.speech.ask(self.clock, utterance.text, source, move)
        return utterance

    def add_to_last(self, parts: Sequence[Part]) -> Utterance:
        """Add to what was heard last something that belongs to it, and return the whole."""
        last = self.log[-1]
        if parts:
            utterance = Utterance((*last.utterance.parts, *parts))
            self.log[-1] = replace(last, utterance=utterance)
            self.speech.say_more(utterance.text)
        return self.log[-1].utterance

    def note(self) -> int:
        """Note what was heard last as puzzling; return how many notes there are."""
        if self.log:
            self.notes.append(self.log[-1])
        return len(self.notes)

    def hear_region(self, about: str, utterance: Utterance, node: Node | None, source: Source) -> None:
        """Log what a live region announces; when it is spoken is up to the queue."""
        self.log.append(Heard(len(self.log) + 1, f"live: {about}", utterance, node))
        self.speech.ask(self.clock, utterance.text, source, about)

    # The page as it changes

    def take(self, tree: Tree, key_before: KeyOf, key_now: KeyOf) -> None:
        """Go on with a new tree of the same page, at the same place as far as it is still there.

        Args:
            tree: the new tree.
            key_before, key_now: tell the elements of the old and the new tree by numbers that stay.
        """
        place = self.cursor
        key = key_before(place.node.element) if place is not None else None
        nth = 0
        if place is not None:
            nth = sum(each.node.element is place.node.element for each in self.readout.objects[: place.index])
        focus_key = key_before(self.focus.element) if self.focus is not None else None
        voice = self.voice
        self.tree = tree
        with no_collection():
            self.readout = Readout(tree)
            self.spoken = Spoken(self.readout, voice, self.visited)
        self._targets.clear()
        self._stops = None
        self._anchor = self._subject = self.span = self.cell = self.place = None
        focused = (node for node in tree.nodes if not node.is_text and key_now(node.element) == focus_key)
        self.focus = next(focused, None) if focus_key is not None else None
        objects = self.readout.objects
        same = [each for each in objects if key is not None and key_now(each.node.element) == key]
        self._is_lost = not same
        if same:
            self.cursor = same[min(nth, len(same) - 1)]
        else:
            at = place.index - 1 if place is not None else 0  # what follows is read next
            self.cursor = objects[max(0, min(at, len(objects) - 1))] if objects else None

    def go_to_element(self, element: Element) -> list[Part]:
        """Put the cursor where an element is heard and return what is said there; empty where nothing is."""
        node: Node | None = None
        above: Element | None = element
        while above is not None and node is None:
            node = self.tree.node_of(above)
            above = above.parent
        first = self.readout.first_object(node) if node is not None else None
        if node is not None and first is None:
            first = self.readout.nearest(node)
        if first is None or node is None:
            return []
        came_from = None if self._is_lost else self.cursor
        before = came_from.container if came_from is not None else None
        objects = [first] if first.node is node else first.item.objects
        self.stand(first, node if first.node is node else _subject_of(first.item))
        return list(self.speaker.say(objects, before, came_from).parts)

    def stand(self, at: Object, subject: Node) -> None:
        """Put the cursor on an object; `subject` is what is announced there."""
        self.cursor = at
        self._subject = subject
        self._anchor = None
        self._is_lost = False
        self.span = self.cell = self.place = None

    def _step(self, move: str, by: int, edge: str) -> Utterance:
        item = self.item
        if item is None or self.cursor is None:
            return self.hear(move, notice("nothing to read on this page"), self.node)
        if self.voice.unit is Unit.OBJECT:
            at = self.cursor.index + by
            if not 0 <= at < len(self.readout.objects):
                return self.hear(move, notice(edge), self.node)
            following = self.readout.objects[at]
            return self.read_objects(move, [following], following.node)
        if not 0 <= item.index + by < len(self.readout.items):
            return self.hear(move, notice(edge), self.node)
        return self.read_item(move, self.readout.items[item.index + by])

    def _go_to_index(self, move: str, index: int) -> Utterance:
        if not self.readout.items:
            return self.hear(move, notice("nothing to read on this page"), self.node)
        return self.read_item(move, self.readout.items[index])

    def read_item(self, move: str, item: Item, source: Source = Source.KEY) -> Utterance:
        """Go to an item and read it, coming from where the cursor stands."""
        return self.read_objects(move, item.objects, _subject_of(item), source)

    def read_objects(
        self, move: str, objects: Sequence[Object], subject: Node, source: Source = Source.KEY
    ) -> Utterance:
        """Go to objects that follow each other and read them, coming from where the cursor stands."""
        came_from = self.cursor if self.log and self._arrived else None
        said = self.speaker.say(objects, came_from.container if came_from is not None else None, came_from)
        self._arrived = True
        self.stand(objects[0], subject)
        return self.hear(move, said, subject, source)

    def _land(self, move: str, node: Node) -> Utterance:
        """Announce a node that was jumped to: it is said even where reading stood inside it already."""
        first = self.readout.first_object(node)
        assert first is not None, "only nodes that are read are landed on"
        before = self.cursor.container if self.cursor is not None else None
        for container in before.chain() if before is not None else []:
            if container.node is node:
                before = container.outer
                break
        came_from = self.cursor
        self._arrived = True
        self.stand(first, node)
        if node.is_part:
            return self.hear(move, self.speaker.say_alone(node), node)
        objects: Sequence[Object] = first.item.objects
        if first.node is node:
            objects = [first]
        elif node.role in WITH_TEXT:
            objects = self._objects_within(node, first)
        return self.hear(move, self.speaker.say(objects, before, came_from), node)

    def _objects_within(self, node: Node, first: Object) -> Sequence[Object]:
        end = first.index
        while end < len(self.readout.objects) and self.readout.objects[end].node.id < node.end:
            end += 1
        return self.readout.objects[first.index : end]

    def _jump_target(self, kind: Kind, direction: Direction) -> Node | None:
        """The next target from the one jumped to last; after other moves, from the cursor.

        A node that begins at the cursor counts as reached when reading came upon it by itself, or by a jump to
        something else, and is not jumped to again.
        """
        if self.cursor is None:
            return None
        targets = self.targets(kind)
        anchor = self._anchor[1] if self._anchor is not None and self._anchor[0] is kind else None
        if direction is Direction.FORWARD:
            at = bisect_right(targets, self.cursor.node.id if anchor is None else anchor, key=_id)
            return targets[at] if at < len(targets) else None
        if anchor is None:
            index = self.cursor.index
            anchor = self.readout.objects[index - 1].node.id + 1 if index else 0
        at = bisect_right(targets, anchor - 1, key=_id) - 1
        return targets[at] if at >= 0 else None

    def _tab_stops(self) -> Stops:
        if self._stops is None:
            self._stops = Stops([stop for stop in self.tree.stops if self.readout.first_object(stop) is not None])
        return self._stops

    def _heading_above(self) -> Node | None:
        assert self.cursor is not None
        headings = self.targets(KINDS[0])
        at = bisect_right(headings, self.cursor.node.id, key=_id) - 1
        return headings[at] if at >= 0 else None


_id = attrgetter("id")


def _subject_of(item: Item) -> Node:
    """The node an item is about: a heading around its first object, else that object's node."""
    container = item.container
    while container is not None:
        if container.node.role in WITH_TEXT and container.first == item.index:
            return container.node
        container = container.outer
    return item.objects[0].node
