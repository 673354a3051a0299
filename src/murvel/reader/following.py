"""What is heard of what the page did: at the focus, where reading goes, and from live regions."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from murvel.dom.document import Element
from murvel.dom.html.facts import is_editing_host
from murvel.dom.html.inputs import input_type
from murvel.loading.addresses import shown
from murvel.reader.live.queue import Source
from murvel.reader.live.regions import Announcement, Change, ChangeKind, Key, Politeness, Snapshot, announce, changes
from murvel.reader.moves.linear import by_name, heard_of
from murvel.reader.moves.moves import Mode
from murvel.reader.readout.items import Object
from murvel.reader.readout.position import Position
from murvel.reader.session import ReadingSession
from murvel.reader.speech.pronunciation import spelled
from murvel.reader.speech.utterance import Part, PartKind, Utterance
from murvel.reader.stops.silent import words_of
from murvel.stage.inputs import Activate, Input, Press
from murvel.stage.reaction import Reaction
from murvel.stage.stage import Stage
from murvel.text import collapse
from murvel.tree.following.change import TreeChange
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import DIALOGS, EDITS
from murvel.tree.states.states import State

_NEAR = 4
"""How many elements may end together with one, for what comes next to count as directly behind it."""

FOCUS_MOVED = "the page moved the focus"
"""The move for what the listener did not do."""

FOCUS_MODE_ROLES = EDITS | frozenset(
    "application combobox grid listbox menu menubar menuitem menuitemcheckbox menuitemradio option radio slider "
    "tablist tree treegrid treeitem".split()
)
"""Roles on whose focus the keys go to the page: they need them themselves (WAI-ARIA 1.2 §5.3.2, widgets)."""


@dataclass(slots=True)
class Outcome:
    """What came of an input, before anything of it is heard.

    Attributes:
        reaction: what the page did.
        announced: what live regions announce of it, each with the region's node.
        lost: where the focus went away with its element, that it did, in words; empty otherwise.
        left: the dialogs that reading stood in and that are gone, the innermost first.
    """

    reaction: Reaction
    announced: list[tuple[Announcement, Node | None]] = field(default_factory=list)
    lost: str = ""
    left: list[Node] = field(default_factory=list)

    @property
    def is_noticed(self) -> bool:
        """Whether anything came of it: a change, a word about it, or a focus that went elsewhere."""
        reaction = self.reaction
        return bool(
            (reaction.change is not None and reaction.change.is_heard)
            or self.lost
            or reaction.notes
            or reaction.has_arrived
            or reaction.focus is not None
        )

    def hear_regions(self, session: ReadingSession) -> list[Utterance]:
        """Log what live regions announce, and return it."""
        heard = []
        for said, node in self.announced:
            source = Source.ASSERTIVE if said.region.politeness is Politeness.ASSERTIVE else Source.POLITE
            utterance = Utterance((Part(PartKind.LIVE, session.speaker.pieces.spoken(said.text)),))
            session.hear_region(said.region.name, utterance, node, source)
            heard.append(utterance)
        return heard


def perform(stage: Stage, session: ReadingSession, given: Input) -> Outcome:
    """Let the stage act, and follow what became of the tree; nothing is heard of it yet."""
    here, modal = session.node, session.tree.document.modal
    dialogs = [each for each in (here, *here.ancestors()) if each.role in DIALOGS] if here is not None else []
    had_focus = session.focus if stage.focus is not None else None
    pressed = _pressed(stage, session, given) if had_focus is None else None
    title, focused = session.tree.document.title, stage.element(stage.focus)
    inside = _modal_around(session.tree.node_of(focused) if focused is not None else None)
    acted = stage.element(getattr(given, "key", None))
    was_expanded = _expanded(session, acted)
    outcome = Outcome(stage.perform(given))
    change = outcome.reaction.change
    if change is not None:
        session.follow(change)
    focused = stage.element(stage.focus)
    if focused is not None:
        session.focus = session.tree.node_of(focused)
    elif had_focus is not None and outcome.reaction.focus is None and (change is not None or stage.is_live):
        session.focus = None
        element = stage.element(stage.key_of(had_focus.element))
        is_there = element is not None and session.tree.node_of(element) is not None
        why = "has it no longer, and nothing else has" if is_there else "went away"
        outcome.lost = f"the focus is lost: {session.tree.words_of(had_focus)} {why}"
    elif pressed is not None and not _is_answered(outcome.reaction) and not _takes_focus(stage, session, pressed):
        outcome.lost = f"the focus is lost: {session.tree.words_of(pressed)} went away, or can have it no longer"
    if change is not None:
        outcome.left = [dialog for dialog in dialogs if session.tree.node_of(dialog.element) is None]
        is_opened = was_expanded is False and _expanded(session, acted) is True
        _find_announced(stage, session, outcome, change, modal, acted if is_opened else None)
    if outcome.reaction.address:
        outcome.reaction.notes.append(_route(session, outcome, title))
    if inside is not None and focused is not None and not outcome.reaction.has_arrived:
        dialog = session.tree.node_of(inside.element)
        if dialog is not None and not inside.element.contains(focused):
            words = session.tree.words_of(dialog)
            outcome.reaction.notes.append(f"the focus is out of {words}, which is modal and still open")
    return outcome


def _modal_around(node: Node | None) -> Node | None:
    """Return the modal dialog around a node, None if there is none."""
    around = (node, *node.ancestors()) if node is not None else ()
    return next((each for each in around if each.role in DIALOGS and each.states.get("modal") is True), None)


def _route(session: ReadingSession, outcome: Outcome, title: str) -> str:
    """Return the notice about a new address on the same page.

    Args:
        session: the reading.
        outcome: what came of the key.
        title: the page's title before the key.
    """
    told = [f"the address is now {shown(outcome.reaction.address)}"]
    if session.tree.document.title == title:
        told.append(f"the title is still “{collapse(title)}”" if title else "the page has no title")
    if not outcome.announced and outcome.reaction.focus is None:
        told.append("nothing is heard of that")
    return ", ".join(told)


def _pressed(stage: Stage, session: ReadingSession, given: Input) -> Node | None:
    """The Tab stop that gets the focus by being pressed, where nothing had it; None if it is no stop."""
    element = stage.element(given.key) if isinstance(given, Activate | Press) else None
    return session.tree.node_of(element) if element is not None and element in session.tree.stop_numbers else None


def _is_answered(reaction: Reaction) -> bool:
    """Whether the focus is elsewhere by what the page did: it gave it to something, or another page has come."""
    return reaction.focus is not None or reaction.has_arrived


def _takes_focus(stage: Stage, session: ReadingSession, node: Node) -> bool:
    """Whether what was a Tab stop is one now."""
    element = stage.element(stage.key_of(node.element))
    return element is not None and element in session.tree.stop_numbers


def _find_announced(
    stage: Stage,
    session: ReadingSession,
    outcome: Outcome,
    change: TreeChange,
    modal: Element | None,
    opener: Element | None,
) -> None:
    """Find what live regions announce.

    Args:
        stage, session, outcome, change: the page, its reading, and what came of an input.
        modal: the modal dialog that was open before.
        opener: what the input was given to, if it is expanded by that: its new state says that something has opened.
    """

    def key_of(element: Element) -> Key:
        key = stage.key_of(element)
        return element if key is None else key

    reaction = outcome.reaction
    before = Snapshot(change.old, change.before, key_of)
    after = Snapshot(change.new, change.after, key_of)
    target = stage.element(reaction.focus if reaction.focus is not None else reaction.read_from)
    focused = {reaction.focus, reaction.read_from, stage.focus}
    found = [each for each in changes(before, after, change.renewed) if each.key not in focused]
    now = session.tree.document.modal
    if modal is not now:  # what is inert beside a modal dialog stays as it is for those who see it
        dialogs = [each for each in (modal, now) if each is not None]
        found = [each for each in found if _is_within(each.key, dialogs, before, after)]
    announced, silent = announce(found, before, after)
    for said in announced:
        fact = after.facts.get(said.region.key)
        outcome.announced.append((said, fact.node if fact is not None else None))
    if opener is not None:
        silent = [each for each in silent if not _is_opened_by(opener, each, after)]
    for each in _not_reached(silent, target, before, after):
        session.speech.never(session.clock, each.text, each.kind.value, each.why_silent)
        session.silent.append((session.clock, each))


def _is_within(key: Key, dialogs: list[Element], before: Snapshot, after: Snapshot) -> bool:
    fact = after.facts.get(key) or before.facts[key]
    return any(dialog in (fact.element, *fact.element.ancestors()) for dialog in dialogs)


def _expanded(session: ReadingSession, element: Element | None) -> State | None:
    """The state “expanded” of an element; None without one."""
    node = session.tree.node_of(element) if element is not None else None
    return node.states.get("expanded") if node is not None else None


def _is_opened_by(opener: Element, change: Change, after: Snapshot) -> bool:
    """Whether something appeared in what an element controls, or directly behind it: reading on leads into it."""
    fact = after.facts.get(change.key)
    if fact is None or change.kind is not ChangeKind.ADDED:
        return False
    controlled = opener.attributes.get("aria-controls", "").split()
    around = (fact.element, *fact.element.ancestors())
    if any(each.attributes.get("id") in controlled for each in around if each.attributes.get("id")):
        return True
    behind: Element | None = opener
    for _ in range(_NEAR):
        if behind is None or behind.parent is None:
            return False
        siblings = list(behind.parent.elements())
        following = siblings[siblings.index(behind) + 1 :]
        if following:
            return following[0] in around
        behind = behind.parent
    return False


def _not_reached(silent: list[Change], target: Element | None, before: Snapshot, after: Snapshot) -> list[Change]:
    """The silent changes, except what is heard all the same: what appeared around the place that reading went to, which
    is announced and read, and what names or describes that place."""
    if target is not None:
        told = {
            token
            for attribute in ("aria-labelledby", "aria-describedby", "aria-errormessage")
            for token in target.attributes.get(attribute, "").split()
        }
        known = {**before.facts, **after.facts}
        silent = [each for each in silent if known[each.key].element.attributes.get("id") not in told]
    appeared = [
        each
        for each in ((target, *target.ancestors()) if target is not None else ())
        if (key := after.key_of(each)) in after.facts and key not in before.facts
    ]
    if not appeared:
        return silent
    inside = {key for key, fact in after.facts.items() if appeared[-1].contains(fact.element)}
    return [each for each in silent if each.key not in inside]


def follow(
    stage: Stage,
    session: ReadingSession,
    move: str,
    outcome: Outcome,
    source: Source = Source.KEY,
    *,
    before: Said | None = None,
    key: int | None = None,
) -> Utterance:
    """Hear what came of an input: what was typed, what changed in states or value, where reading goes, live regions.

    Where the page moves the focus, that comes last and cuts short what live regions say; else they speak after it.

    Args:
        stage, session: the page at work, and its reading.
        move: what was done, in words.
        outcome: what came of it.
        source: who asked for it, where the focus was not moved.
        before: what was said of the node that is acted on.
        key: the key of its element.

    Returns:
        What is heard of the move itself; what live regions say where that is nothing.
    """
    reaction = outcome.reaction
    if reaction.has_arrived:
        return _arrive(session, reaction)
    parts: list[Part] = []
    element = stage.element(key)
    node = session.tree.node_of(element) if element is not None else None
    if reaction.typed:
        is_secret = element is not None and input_type(element) == "password"
        parts.append(Part(PartKind.VALUE, spelled("•" if is_secret else reaction.typed, session.speaker.words)))
    stays = reaction.focus is None or reaction.focus == key
    if before is not None and node is not None and stays:
        parts.extend(Said.of(session, node).news(before, is_typed=bool(reaction.typed)))
    told = [*(f"out of {session.tree.words_of(dialog)}" for dialog in outcome.left), *reaction.notes, outcome.lost]
    if not parts and reaction.focus is None and _waits_for_keys(stage, session, node, key):
        reaction.focus = key  # a click has put the focus there
    target = stage.element(reaction.focus if reaction.focus is not None else reaction.read_from)
    is_silent = target is not None and reaction.focus is not None and session.tree.node_of(target) is None
    session.stop_silently(target if is_silent else None)
    if target is not None and is_silent:
        told.append(words_of(session.tree, target))
    elif target is not None:
        if reaction.focus is not None:
            session.focus = session.tree.node_of(target)
        there = _go_to_element(session, target)
        parts = [*there, *parts] if reaction.focus is not None else [*parts, *there]
    parts = [*session.speaker.ends(outcome.left), *parts]
    if target is not None:
        told.append(switch_mode(session))
    if reaction.message:
        parts.append(Part(PartKind.DESCRIPTION, reaction.message))
    if reaction.followed is not None:
        session.visited.add(reaction.followed)
    if not parts and not outcome.announced and not any(told):
        told.append("nothing is heard")
    said, notice = Utterance(tuple(parts)), ", ".join(filter(None, told))
    if not stays or move == FOCUS_MOVED:
        outcome.hear_regions(session)
        return session.hear(move, said, session.node, Source.FOCUS, notice)
    if parts or notice:
        session.hear(move, said, session.node, source, notice)
    regions = outcome.hear_regions(session)
    return said if parts or not regions else regions[-1]


def _waits_for_keys(stage: Stage, session: ReadingSession, node: Node | None, key: int | None) -> bool:
    """Whether what was acted on has the focus now, and takes the keys from here on."""
    return node is not None and stage.focus == key and session.mode is Mode.BROWSE and _needs_keys(node)


def _arrive(session: ReadingSession, reaction: Reaction) -> Utterance:
    """Hear another page arrive, and read it from its start."""
    session.begin_again()
    heard = session.arrive()
    session.tell_more(", ".join(reaction.notes))
    return heard


def _go_to_element(session: ReadingSession, element: Element) -> list[Part]:
    """Put the cursor where an element is heard and return what is said there; empty if nothing is."""
    node = next((each for each in map(session.tree.node_of, (element, *element.ancestors())) if each), None)
    if node is None:
        return []
    first = session.readout.first_object(node) or session.readout.nearest(node)
    if first is None:
        return []
    came_from = None if session.position.is_lost else session.cursor
    before = came_from.container if came_from is not None else None
    if first.node.contains(node) and first.node is not node:
        return _go_into(session, node, first, is_new=came_from is not first)
    objects = heard_of(session, node, first)
    session.stand(Position.at(first, node if first.node is node else first.item.subject))
    return list(by_name(session, node, session.speaker.say(objects, before, came_from)).parts)


def _go_into(session: ReadingSession, node: Node, whole: Object, *, is_new: bool) -> list[Part]:
    """Put the cursor on what a node is a part of, as an option is of its list, and return what is said of the node."""
    session.stand(Position.at(whole, node))
    around = [Part(PartKind.CONTEXT, session.speaker.context(whole.node))] if is_new else []
    return [*around, *session.speaker.say_alone(node).parts]


@dataclass(frozen=True, slots=True)
class Said:
    """What is said of a node at a moment, to be compared with what is said of it later.

    Attributes:
        name: its name.
        value: its value, and what is chosen in it.
        states: its states.
        active: the node that the keys stand at in it (`aria-activedescendant`), as it is heard.
        group: the group of options that what is chosen stands in, as it is heard.
    """

    name: str
    value: tuple[Part, ...]
    states: tuple[Part, ...]
    active: tuple[Part, ...]
    group: tuple[Part, ...] = ()

    @classmethod
    def of(cls, session: ReadingSession, node: Node) -> Said:
        """Return what is said of a node now."""
        pieces = session.speaker.pieces
        active = session.tree.relations_of(node).get("activedescendant", ())
        return cls(
            pieces.label(node.name),
            tuple(pieces.value(node)),
            tuple(pieces.states(node)),
            tuple(part for each in active[:1] for part in pieces.all_of(each)),
            tuple(_group_of_choice(session, node)),
        )

    def news(self, before: Said, *, is_typed: bool = False) -> list[Part]:
        """Return what a listener hears of a change: the new name and value, states, where the keys stand.

        Args:
            before: what was said before.
            is_typed: whether a character was typed: its echo stands for value and name.
        """
        parts = [Part(PartKind.NAME, self.name)] if self.name != before.name and not is_typed else []
        if self.value != before.value and not is_typed:
            parts += [*(self.group if self.group != before.group else ()), *self.value]
        parts += [part for part in self.states if part not in before.states]
        return [*parts, *(self.active if self.active != before.active else ())]


def _group_of_choice(session: ReadingSession, node: Node) -> Iterator[Part]:
    """The group of the option that is chosen last in a select (HTML §4.10.9); nothing for one without groups."""
    if node.element.tag != "select":
        return
    inside = session.tree.nodes[node.id + 1 : node.end]
    chosen = [each for each in inside if each.role == "option" and each.states.get("selected") is True]
    group = chosen[-1].parent if chosen else None
    if group is not None and group.role == "group":
        yield Part(PartKind.CONTEXT, session.speaker.context(group))


def takes_text(node: Node) -> bool:
    """Whether what is typed goes into a node."""
    return node.role in EDITS or is_editing_host(node.element)


def _needs_keys(node: Node) -> bool:
    return node.role in FOCUS_MODE_ROLES or takes_text(node)


def switch_mode(session: ReadingSession) -> str:
    """Change the mode by itself: to focus mode where what has the focus needs the keys, back where it does not.

    Returns:
        The mode in words; empty if it stays.
    """
    node = session.focus
    wanted = Mode.FOCUS if node is not None and _needs_keys(node) else Mode.BROWSE
    if wanted is session.mode:
        return ""
    session.mode = wanted
    return f"{wanted.value} mode"
