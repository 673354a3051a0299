"""Acting on the page: keys, text and time go to the stage, and what follows from them is heard.

The session's stage answers with a reaction; this module turns it into what a listener hears: what changed at the
focus, where reading goes, and what live regions announce.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from murvel.page.document import Element
from murvel.page.html.facts import is_editing_host
from murvel.reader import reading
from murvel.reader.live import Key, Politeness, Snapshot, announce, changes
from murvel.reader.moves import Direction, Mode
from murvel.reader.position import Position
from murvel.reader.pronunciation import spelled
from murvel.reader.session import ReadingSession
from murvel.reader.speech import Source
from murvel.reader.utterance import Part, PartKind, Utterance
from murvel.stage.inputs import Activate, Focus, Input, Keystroke, Load, Press, Type, Wait
from murvel.stage.reaction import Reaction
from murvel.stage.stage import Stage
from murvel.tree.node import Node
from murvel.tree.roles import EDITS

_NO_STAGE = "keys do nothing here: this tree has no page behind it"

FOCUS_MOVED = "the page moved the focus"
"""The move of which the listener did nothing."""

FOCUS_MODE_ROLES = EDITS | frozenset(
    "application combobox grid listbox menu menubar radio slider tablist tree treegrid".split()
)
"""Roles on whose focus the keys go to the page: they need them themselves (WAI-ARIA 1.2 §5.3.2, widgets)."""

_ACTED_ON = frozenset({"a", "button", "summary", "label", "option", "input", "select", "textarea"})


def load(session: ReadingSession) -> Utterance | None:
    """Let the page do what it does on arrival; return what is heard of that, None where nothing is."""
    stage = session.stage
    if stage is None:
        return None
    reaction, said = _perform(stage, session, Load())
    if not reaction.handled and reaction.focus is None:
        return None
    return _follow(stage, session, "on arrival", reaction, said)


def activate(session: ReadingSession) -> Utterance:
    """Press Enter, or click, on what the cursor stands at."""
    return _on_element(session, "activate", Activate)


def press_enter(session: ReadingSession) -> Utterance:
    """Press Enter: in browse mode it activates what is at the cursor, in focus mode it goes to the focus."""
    if session.mode is Mode.BROWSE:
        return activate(session)
    return _on_element(session, "Enter", lambda key: Press(Keystroke.ENTER, key))


def press_space(session: ReadingSession) -> Utterance:
    """Press Space: it activates controls, and is typed into fields."""
    if session.mode is Mode.FOCUS and session.focus is not None and _takes_text(session.focus):
        return type_text(session, " ")
    element = _target(session)
    if element is not None and element.tag == "a":
        return session.hear_notice("Space", "Space does nothing on a link; Enter follows it")
    return activate(session)


def press_arrow(session: ReadingSession, stroke: Keystroke) -> Utterance:
    """Press an arrow in focus mode."""
    return _on_element(session, "arrow", lambda key: Press(stroke, key))


def type_text(session: ReadingSession, text: str) -> Utterance:
    """Type text into the field at the focus, with an echo of what was typed."""
    if session.stage is None:
        return session.hear_notice("type", _NO_STAGE)
    if session.mode is Mode.BROWSE:
        return session.hear_notice("type", "in browse mode; m changes to focus mode, where keys go to the page")
    said: Utterance | None = None
    for character in text:
        said = _on_element(session, f"type {character}", partial(_typed, character))
    return said if said is not None else session.hear_notice("type", "nothing to type")


def press_escape(session: ReadingSession) -> Utterance:
    """Press Escape: back to browse mode from focus mode, else it goes to the page."""
    if session.mode is Mode.FOCUS:
        return toggle_mode(session)
    stage = session.stage
    if stage is None:
        return session.hear_notice("Escape", _NO_STAGE)
    reaction, said = _perform(stage, session, Press(Keystroke.ESCAPE))
    if not reaction.handled:
        return session.hear_notice("Escape", "nothing to close")
    return _follow(stage, session, "Escape", reaction, said)


def toggle_mode(session: ReadingSession) -> Utterance:
    """Change between browse and focus mode by hand."""
    session.mode = Mode.FOCUS if session.mode is Mode.BROWSE else Mode.BROWSE
    return session.hear_notice("change the mode", f"{session.mode.value} mode")


def tab(session: ReadingSession, direction: Direction) -> Utterance:
    """Press Tab or Shift+Tab: the focus moves, the page is told, and the mode changes where the field needs it."""
    stage = session.stage
    before = session.focus
    step, stop = reading.tab(session, direction)
    if stop is not None:
        session.focus = stop
    heard = session.make(step)
    if stage is None or stop is None or stop is before:
        return heard
    parts: list[Part] = []
    _switch_mode(session, parts)
    heard = session.add_to_last(parts)
    key = stage.key_of(stop.element)
    if key is not None:
        _perform(stage, session, Focus(key))
    return heard


def wait(session: ReadingSession, seconds: float) -> list[Utterance]:
    """Let time pass on the page; return what is heard meanwhile."""
    stage = session.stage
    if stage is None:
        session.let_pass(seconds)
        session.speech.advance(session.clock)
        return []
    end = stage.now + seconds
    heard: list[Utterance] = []
    while True:
        is_last = stage.next_due is None or stage.next_due > end
        reaction, said = _perform(stage, session, Wait(end))
        if reaction.focus is not None or reaction.read_from is not None:
            heard.append(_follow(stage, session, FOCUS_MOVED, reaction, said))
        else:
            heard.extend(said)
        if is_last and stage.now >= end:
            break
    session.speech.advance(session.clock)
    return heard


def hear_out(session: ReadingSession) -> list[Utterance]:
    """Let time pass until all that was asked for is spoken; return what is heard meanwhile."""
    return wait(session, max(session.speech.free_at - session.clock, 0.0))


def _on_element(session: ReadingSession, move: str, given: Callable[[int], Input]) -> Utterance:
    stage = session.stage
    if stage is None:
        return session.hear_notice(move, _NO_STAGE)
    element = _target(session)
    key = stage.key_of(element) if element is not None else None
    if element is None or key is None:
        return session.hear_notice(move, "nothing to act on here")
    before = session.tree.node_of(element)
    reaction, said = _perform(stage, session, given(key))
    if not reaction.handled and not reaction.notes:
        return session.hear_notice(move, "nothing happens")
    return _follow(stage, session, move, reaction, said, before, key)


def _target(session: ReadingSession) -> Element | None:
    """What a key acts on: the focus in focus mode, else what is at the cursor, or the link or label around it."""
    if session.mode is Mode.FOCUS and session.focus is not None:
        return session.focus.element
    node = session.node
    if node is None:
        return None
    for element in (node.element, *node.element.ancestors()):
        if element.tag in _ACTED_ON or element.attributes.keys() & {"tabindex", "onclick"}:
            return element
    return node.element


def _typed(character: str, key: int) -> Input:
    return Type(key, character)


def _takes_text(node: Node) -> bool:
    return node.role in EDITS or is_editing_host(node.element)


def _perform(stage: Stage, session: ReadingSession, given: Input) -> tuple[Reaction, list[Utterance]]:
    """Let the stage act, follow what became of the tree, and log what live regions announce; return that."""
    reaction = stage.perform(given)
    if reaction.change is not None:
        session.follow(reaction.change)
    focused = stage.element(stage.focus)
    if focused is not None:
        session.focus = session.tree.node_of(focused)
    return reaction, _announced(stage, session, reaction) if reaction.change is not None else []


def _announced(stage: Stage, session: ReadingSession, reaction: Reaction) -> list[Utterance]:
    change = reaction.change
    assert change is not None

    def key_of(element: Element) -> Key:
        key = stage.key_of(element)
        return element if key is None else key

    before = Snapshot(change.old, change.before, key_of)
    after = Snapshot(change.new, change.after, key_of)
    focused = {reaction.focus, reaction.read_from, stage.focus}
    found = [each for each in changes(before, after) if each.key not in focused]
    announced, silent = announce(found, before, after)
    heard = []
    for each in announced:
        source = Source.ASSERTIVE if each.region.politeness is Politeness.ASSERTIVE else Source.POLITE
        utterance = Utterance((Part(PartKind.LIVE, session.speaker.spoken(each.text)),))
        fact = after.facts.get(each.region.key)
        session.hear_region(each.region.name, utterance, fact.node if fact is not None else None, source)
        heard.append(utterance)
    for change_ in silent:
        session.speech.never(session.clock, change_.text, change_.kind.value, change_.why_silent)
        session.silent.append((session.clock, change_))
    return heard


def _follow(
    stage: Stage,
    session: ReadingSession,
    move: str,
    reaction: Reaction,
    announced: list[Utterance],
    before: Node | None = None,
    key: int | None = None,
) -> Utterance:
    """Say what a reaction means at the cursor: what was typed, what changed in states or value, where reading goes."""
    parts: list[Part] = []
    if reaction.typed:
        parts.append(Part(PartKind.VALUE, spelled(reaction.typed)))
    element = stage.element(key)
    node = session.tree.node_of(element) if element is not None else None
    stays = reaction.focus is None or reaction.focus == key
    if before is not None and node is not None and not reaction.typed and stays:
        parts.extend(_news(session, before, node))
    parts.extend(Part(PartKind.NOTICE, note) for note in reaction.notes)
    target = stage.element(reaction.focus if reaction.focus is not None else reaction.read_from)
    if target is not None:
        if reaction.focus is not None:
            session.focus = session.tree.node_of(target)
        there = _go_to_element(session, target)
        parts = [*there, *parts] if reaction.focus is not None else [*parts, *there]
        _switch_mode(session, parts)
    if reaction.followed is not None:
        session.visited.add(reaction.followed)
    if not parts and not announced:
        parts.append(Part(PartKind.NOTICE, "nothing is said"))
    if not parts:
        return announced[-1]
    source = Source.FOCUS if move == FOCUS_MOVED else Source.KEY
    return session.hear(move, Utterance(tuple(parts)), session.node, source)


def _go_to_element(session: ReadingSession, element: Element) -> list[Part]:
    """Put the cursor where an element is heard and return what is said there; empty where nothing is."""
    node = next((each for each in map(session.tree.node_of, (element, *element.ancestors())) if each), None)
    if node is None:
        return []
    first = session.readout.first_object(node) or session.readout.nearest(node)
    if first is None:
        return []
    came_from = None if session.position.is_lost else session.cursor
    before = came_from.container if came_from is not None else None
    objects = [first] if first.node is node else first.item.objects
    session.stand(Position.at(first, node if first.node is node else first.item.subject))
    return list(session.speaker.say(objects, before, came_from).parts)


def _news(session: ReadingSession, before: Node, now: Node) -> list[Part]:
    """What a listener is told of a node that changed under the focus: its new name, value and states."""
    parts = []
    if before.name != now.name:
        parts.append(Part(PartKind.NAME, session.speaker.spoken(now.name)))
    if before.value != now.value and now.value:
        parts.append(Part(PartKind.VALUE, session.speaker.spoken(now.value)))
    old = {part.text for part in session.speaker.states(before)}
    parts.extend(part for part in session.speaker.states(now) if part.text not in old)
    return parts


def _switch_mode(session: ReadingSession, parts: list[Part]) -> None:
    """Change the mode by itself: to focus mode where what has the focus needs the keys, back where it does not."""
    node = session.focus
    needs_keys = node is not None and (node.role in FOCUS_MODE_ROLES or _takes_text(node))
    wanted = Mode.FOCUS if needs_keys else Mode.BROWSE
    if wanted is not session.mode:
        session.mode = wanted
        parts.append(Part(PartKind.NOTICE, f"{wanted.value} mode"))
