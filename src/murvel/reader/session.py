"""The reading session: it owns position, focus, voice and log, and answers every move with an utterance.

The application, the line commands, replays and tests drive it in the same way. It never prints. Moves are functions
that look at the session and return a `Step`; only the session changes where reading stands, by making one.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from operator import attrgetter

from murvel.dom.document import Element
from murvel.dom.memory import no_collection
from murvel.reader.live.queue import Source, SpeechQueue
from murvel.reader.live.regions import Change
from murvel.reader.moves.moves import CHANGE_VOICE, Heard, Mode, Note
from murvel.reader.readout.items import Item, Object
from murvel.reader.readout.kinds import BY_ID, COUNTED, Kind, nodes_of
from murvel.reader.readout.position import Position, Step
from murvel.reader.readout.readout import Readout
from murvel.reader.readout.spoken import Spoken
from murvel.reader.speech.speaker import Speaker
from murvel.reader.speech.utterance import SILENCE, Part, PartKind, Utterance
from murvel.reader.speech.voice import NAME_FIRST, Voice
from murvel.reader.stops.stops import Stops
from murvel.stage.seen import TabSeen
from murvel.stage.stage import Stage
from murvel.tree.following.change import TreeChange
from murvel.tree.model import Tree
from murvel.tree.node import Node


class ReadingSession:
    """One reading of one page.

    Attributes:
        tree, readout, spoken: what is read, as items, and as heard straight through.
        position: where reading stands.
        focus: the node that has the keyboard's focus, None before the first Tab.
        log: what was heard, the oldest first.
        asked: what was asked for in words, each with the length of the log before it.
        mode: who gets the keys.
        stage: what the page runs on, None if there is only a tree.
        speech: what is spoken, in time.
        notes: announcements that puzzled the listener, as they noted them.
        silent: changes that nothing was said of, each with its second.
        tabbed: the stops that real presses of Tab came to; None until Tab is pressed through the page.
        visited: the addresses of links that were followed.
        last_jump: the kind that was jumped to last, or the text that was looked for.
        failure: why the last command did not arrive; empty if it did.
    """

    def __init__(
        self, tree: Tree, voice: Voice | None = None, stage: Stage | None = None, spoken: Spoken | None = None
    ) -> None:
        """Begin at the top of a page.

        Args:
            tree: the page's tree.
            voice: the voice, the usual one by default.
            stage: what the page runs on, None if there is only a tree.
            spoken: how the page is said in that voice, where that is known.
        """
        self.tree = tree
        self.stage = stage
        self.silent: list[tuple[float, Change]] = []
        self.notes: list[Note] = []
        self.tabbed: TabSeen | None = None
        self.visited: set[str] = set()
        with no_collection():
            self.readout = spoken.readout if spoken is not None else Readout(tree)
            self.spoken = spoken or Spoken(self.readout, voice or NAME_FIRST, self.visited)
        self.speech = SpeechQueue(self.voice.rate, tree.document.language)
        self.position = Position(self.readout.objects[0] if self.readout.objects else None)
        self.focus: Node | None = None
        self._silent: tuple[Element, Object | None] | None = None
        """The silent Tab stop that has the focus, and where reading stood when it got it."""
        self.mode = Mode.BROWSE
        self.log: list[Heard] = []
        self.asked: list[tuple[str, int]] = []
        self.last_jump: Kind | str | None = None
        self.failure = ""
        self.has_changed = False
        self._passed = 0.0
        self._targets: dict[str, list[Node]] = {}
        self._counts: dict[str, int] = {}
        self._markers: dict[str, Callable[[Tree], Iterable[Node]]] = {}
        self._stops: Stops | None = None

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
    def cursor(self) -> Object | None:
        """The object at which reading stands, None on a page with nothing to read."""
        return self.position.cursor

    @property
    def item(self) -> Item | None:
        """The item in which the cursor stands."""
        return self.cursor.item if self.cursor is not None else None

    @property
    def node(self) -> Node | None:
        """The node the last announcement was about; where nothing was announced, the cursor's."""
        return self.position.node

    @property
    def time(self) -> float:
        """The second of listening at which the cursor's item begins."""
        return self.spoken.start(self.item.index) if self.item is not None else 0.0

    @property
    def clock(self) -> float:
        """The seconds since the page was loaded: the stage's clock where there is one; else only waiting moves it."""
        return self._passed if self.stage is None else self.stage.now

    def let_pass(self, seconds: float) -> None:
        """Let time pass on a page that has no stage."""
        self._passed += seconds

    def targets(self, kind: Kind) -> list[Node]:
        """Return the nodes of a kind that a jump can land on, in reading order."""
        if kind.id not in self._targets:
            marker = self._markers.get(kind.id)
            nodes = nodes_of(self.tree, kind) if marker is None else sorted(set(marker(self.tree)), key=_id)
            self._targets[kind.id] = [node for node in nodes if self.readout.first_object(node) is not None]
        return self._targets[kind.id]

    def mark(self, kind: Kind, marker: Callable[[Tree], Iterable[Node]]) -> None:
        """Say which nodes are of one of the kinds `MARKED`; called for each new tree when first needed."""
        self._markers[kind.id] = marker
        self._targets.pop(kind.id, None)

    @property
    def stops(self) -> Stops:
        """The Tab stops that are heard."""
        if self._stops is None:
            self._stops = Stops([stop for stop in self.tree.stops if self.readout.first_object(stop) is not None])
        return self._stops

    def order_stops(self, in_order: list[Element]) -> None:
        """Take over the order in which Tab was seen to come to elements."""
        self.tree.order_stops(in_order)
        self._stops = None

    # Moves

    def make(self, step: Step) -> Utterance:
        """Make a move: reading stands where it leads, and what is heard on it is logged and returned."""
        notice = step.notice
        if step.position is not None:
            self.position = step.position
            if self._has_left_focus():
                self.mode = Mode.BROWSE
                notice = ", ".join(filter(None, (notice, "browse mode")))
        if step.sought is not None:
            self.last_jump = step.sought
        return self.hear(step.move, step.said, step.about, step.source, notice)

    def _has_left_focus(self) -> bool:
        """Whether reading went away from what gets the keys in focus mode."""
        if self.mode is not Mode.FOCUS or self.focus is None or self.node is None:
            return False
        return self.focus not in (self.node, *self.node.ancestors())

    def beside(self) -> ReadingSession:
        """Return a second reading of the page as it is now, at its top: it shares what is read and said, and has no
        stage, so that nothing changes under it."""
        other = ReadingSession(self.tree, self.voice, spoken=self.spoken)
        other._targets, other._markers, other._counts = self._targets, self._markers, self._counts
        return other

    def stand(self, position: Position) -> None:
        """Stand somewhere else without a word: the page moved the reading, and what is heard of that follows."""
        self.position = position

    def _count(self, kind: str) -> int:
        if kind not in self._counts:
            self._counts[kind] = len(nodes_of(self.tree, BY_ID[kind]))
        return self._counts[kind]

    def arrive(self) -> Utterance:
        """Announce the page, and read its first item."""
        title = self.tree.document.title
        words = self.speaker.words
        counts = [words.counted(each, self._count(each)) for each in COUNTED]
        parts = (
            Part(PartKind.NAME, title),
            Part(PartKind.CONTEXT, words.phrase("page" if title else "untitled")),
            *(Part(PartKind.CONTEXT, count) for count in counts),
        )
        arrival = self.hear("open page", Utterance(parts), self.tree.root)
        missing = self.speaker.language_without_words
        if missing:
            self.tell_more(f"this voice has no words in {missing}, and says roles and states in English")
        if self.cursor is None:
            self.tell("read", "nothing to read")
        else:
            item = self.cursor.item
            said = self.speaker.say(item.objects, None)
            self.make(Step("read", said, item.subject, Position.at(item.objects[0], item.subject), Source.POLITE))
        return arrival

    def in_voice(self, voice: Voice) -> Spoken:
        """Return how the page is said in another voice; it is worked out when it is asked for."""
        return self.spoken.in_voice(voice, self.visited)

    def change_voice(self, voice: Voice, spoken: Spoken | None = None) -> Utterance:
        """Go on in another voice; the place stays, and what is there is said again.

        Args:
            voice: the voice.
            spoken: what `in_voice` returned for it, where it was worked out already.
        """
        self.spoken = spoken or self.in_voice(voice)
        self.speech.rate = voice.rate
        self.tell(CHANGE_VOICE, f"voice {voice.title}")
        if self.cursor is None:
            return SILENCE
        again = self.speaker.say(self.cursor.item.objects, None)
        return self.hear("read again", again, self.node, Source.POLITE)

    def said_as(self, voices: Sequence[Voice]) -> list[tuple[Voice, Utterance, float]]:
        """Return what is at the cursor as each voice says it, coming from nowhere, and how many seconds that takes."""
        objects = self.cursor.item.objects if self.cursor is not None else []
        said: list[tuple[Voice, Utterance, float]] = []
        for voice in voices:
            speaker = Speaker(self.tree, voice, self.visited)
            utterance = speaker.say(objects, None)
            said.append((voice, utterance, speaker.lasts(utterance.text)))
        return said

    # What is heard

    def hear(
        self, move: str, utterance: Utterance, node: Node | None, source: Source = Source.KEY, told: str = ""
    ) -> Utterance:
        """Log what is heard on a move about a node, and return it.

        Args:
            move: the move in words.
            utterance: what is heard, SILENCE where nothing is.
            node: the node that is about.
            source: who asks; a key's answer interrupts what is spoken, also where nothing is heard.
            told: the notice of the move.
        """
        self.log.append(Heard(len(self.log) + 1, move, utterance, node, told))
        if utterance.text:
            self.speech.ask(self.clock, utterance.text, source, move)
        elif source is Source.KEY:
            self.speech.interrupt(self.clock)
        return utterance

    def tell(self, move: str, words: str) -> Utterance:
        """Log a move without speech, with its notice; return the silence."""
        return self.hear(move, SILENCE, self.node, told=words)

    def tell_more(self, words: str) -> None:
        """Add to the notice of the last move."""
        last = self.log[-1]
        self.log[-1] = replace(last, notice=", ".join(filter(None, (last.notice, words))))

    def hear_region(self, about: str, utterance: Utterance, node: Node | None, source: Source) -> None:
        """Log what a live region announces; when it is spoken is up to the queue."""
        self.log.append(Heard(len(self.log) + 1, f"live: {about}", utterance, node))
        self.speech.ask(self.clock, utterance.text, source, about)

    def note(self, words: str = "") -> int:
        """Note what was heard last as puzzling, with words of the listener's; return how many notes there are."""
        if self.log:
            self.notes.append(Note(self.log[-1], words))
        return len(self.notes)

    @property
    def silent_stop(self) -> Element | None:
        """The Tab stop that has the focus though nothing is heard of it; None once reading went on."""
        return self._silent[0] if self._silent is not None and self._silent[1] is self.cursor else None

    def stop_silently(self, element: Element | None) -> None:
        """Note that the focus is on a silent stop, or no longer."""
        self._silent = (element, self.cursor) if element is not None else None

    # The page as it changes

    def begin_again(self) -> None:
        """Stand at the start: another page has come."""
        self.position = Position(self.readout.objects[0] if self.readout.objects else None)
        self.focus, self._silent, self.mode, self.last_jump = None, None, Mode.BROWSE, None
        self.tabbed = None

    def follow(self, change: TreeChange) -> None:
        """Go on with a new tree of the same page, at the same place as far as it is still there."""
        self.has_changed = True
        place = self.cursor
        nth = -1
        if place is not None:
            nth = next((at for at, each in enumerate(self.readout.objects_of(place.node.element)) if each is place), 0)
        focus = self.focus
        with no_collection():
            reread = self.readout.follow(change)
            self.tree = change.new
            self.spoken = self.spoken.follow(reread, self.visited)
        self._targets.clear()
        self._counts.clear()
        self._stops = None
        if focus is not None:
            element = self._now(focus)
            self.focus = self.tree.node_of(element) if element is not None else None
        if place is not None:
            self.position = self._position_after(place, nth)
        elif self.readout.objects:
            self.position = replace(self.position, cursor=self.readout.objects[0])

    def _position_after(self, place: Object, nth: int) -> Position:
        """Return where reading stands now that what it stood at may be gone; `nth` object of its element it was."""
        before = self.position
        if self.readout.has(place):
            return Position(place, None, before.span, has_arrived=before.has_arrived, is_lost=before.is_lost,
                            is_before=before.is_before)  # fmt: skip
        element = self._now(place.node)
        same = self.readout.objects_of(element) if element is not None else []
        objects = self.readout.objects
        if same:
            return Position(same[min(nth, len(same) - 1)], has_arrived=before.has_arrived)
        if not objects:
            return Position(None, has_arrived=before.has_arrived, is_lost=True)
        at = min(place.index - 1, len(objects) - 1)  # what follows is read next
        return Position(objects[max(at, 0)], has_arrived=before.has_arrived, is_lost=True, is_before=at < 0)

    def _now(self, node: Node) -> Element | None:
        """Return the element that a node of an earlier tree stood for, None if it is gone."""
        if self.stage is None:
            return node.element
        key = self.stage.key_of(node.element)
        return self.stage.element(key) if key is not None else node.element


_id = attrgetter("id")
