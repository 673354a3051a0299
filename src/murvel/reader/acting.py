"""Acting on the page: keys and text go to the stage, and what follows from them is heard.

The session's stage answers with a reaction; this module turns it into what a listener hears: what changed at the
focus, where reading goes, and what live regions announce.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from murvel.page.document import Element
from murvel.reader.live import Politeness, Snapshot, announce, changes
from murvel.reader.moves import Direction, Mode
from murvel.reader.pronunciation import spelled
from murvel.reader.session import ReadingSession
from murvel.reader.speech import Source
from murvel.reader.utterance import Part, PartKind, Utterance, notice
from murvel.stage.reaction import Reaction
from murvel.stage.stage import Stage
from murvel.tree.focus import is_editing_host
from murvel.tree.model import Node
from murvel.tree.roles import EDITS

_NO_STAGE = "keys do nothing here: this tree has no page behind it"

FOCUS_MOVED = "the page moved the focus"
"""The move of which the listener did nothing."""

FOCUS_MODE_ROLES = EDITS | frozenset(
    "application combobox grid listbox menu menubar radio slider tablist tree treegrid".split()
)
"""Roles on whose focus the keys go to the page: they need them themselves (WAI-ARIA 1.2 §5.3.2, widgets)."""


def load(session: ReadingSession) -> Utterance | None:
    """Let the page do what it does on arrival; return what is heard of that, None where nothing is."""
    stage = session.stage
    if stage is None:
        return None
    reaction, said = _perform(stage, session, lambda on: on.load())
    return (
        _follow(stage, session, "on arrival", reaction, said)
        if reaction.handled or reaction.focus is not None
        else None
    )


def activate(session: ReadingSession) -> Utterance:
    """Press Enter, or click, on what the cursor stands at."""
    return _on_element(session, "activate", lambda stage, key: stage.activate(key))


def press_enter(session: ReadingSession) -> Utterance:
    """Press Enter: in browse mode it activates what is at the cursor, in focus mode it goes to the focus."""
    if session.mode is Mode.BROWSE:
        return activate(session)
    return _on_element(session, "Enter", lambda stage, key: stage.enter(key))


def press_space(session: ReadingSession) -> Utterance:
    """Press Space: it activates controls, and is typed into fields."""
    if session.mode is Mode.FOCUS and session.focus is not None and _takes_text(session.focus):
        return type_text(session, " ")
    element = _target(session)
    if element is not None and element.tag == "a":
        return session.hear("Space", notice("Space does nothing on a link; Enter follows it"), session.node)
    return activate(session)


def press_arrow(session: ReadingSession, by: int) -> Utterance:
    """Press an arrow in focus mode: 1 is down or right, -1 is up or left."""
    return _on_element(session, "arrow", lambda stage, key: stage.arrow(key, by))


def type_text(session: ReadingSession, text: str) -> Utterance:
    """Type text into the field at the focus, with an echo of what was typed."""
    if session.stage is None:
        return session.hear("type", notice(_NO_STAGE), session.node)
    if session.mode is Mode.BROWSE:
        return session.hear(
            "type", notice("in browse mode; m changes to focus mode, where keys go to the page"), session.node
        )
    said: Utterance | None = None
    for character in text:
        said = _on_element(session, f"type {character}", partial(_typed, character))
    return said if said is not None else session.hear("type", notice("nothing to type"), session.node)


def press_escape(session: ReadingSession) -> Utterance:
    """Press Escape: back to browse mode from focus mode, else it goes to the page."""
    if session.mode is Mode.FOCUS:
        return toggle_mode(session)
    stage = session.stage
    if stage is None:
        return session.hear("Escape", notice(_NO_STAGE), session.node)
    reaction, said = _perform(stage, session, lambda on: on.escape())
    if not reaction.handled:
        return session.hear("Escape", notice("nothing to close"), session.node)
    return _follow(stage, session, "Escape", reaction, said)


def toggle_mode(session: ReadingSession) -> Utterance:
    """Change between browse and focus mode by hand."""
    session.mode = Mode.FOCUS if session.mode is Mode.BROWSE else Mode.BROWSE
    return session.hear("change the mode", notice(f"{session.mode.value} mode"), session.node)


def wait(session: ReadingSession, seconds: float) -> list[Utterance]:
    """Let time pass on the page; return what is heard meanwhile."""
    stage = session.stage
    end = session.clock + seconds
    heard: list[Utterance] = []
    while stage is not None and (due := stage.next_due()) is not None and due <= end:
        session.clock = max(session.clock, due)
        reaction, said = _perform(stage, session, partial(_advanced, due))
        if reaction.focus is not None or reaction.read_from is not None:
            heard.append(_follow(stage, session, FOCUS_MOVED, reaction, said))
        else:
            heard.extend(said)
    session.clock = end
    if stage is not None:
        stage.advance(end)
    session.speech.advance(end)
    return heard


def hear_out(session: ReadingSession) -> list[Utterance]:
    """Let time pass until all that was asked for is spoken; return what is heard meanwhile."""
    return wait(session, max(session.speech.free_at - session.clock, 0.0))


def _on_element(session: ReadingSession, move: str, act: Callable[[Stage, int], Reaction]) -> Utterance:
    stage = session.stage
    if stage is None:
        return session.hear(move, notice(_NO_STAGE), session.node)
    element = _target(session)
    key = stage.page.key_of(element) if element is not None else None
    if element is None or key is None:
        return session.hear(move, notice("nothing to act on here"), session.node)
    before = session.tree.node_of(element)
    reaction, said = _perform(stage, session, lambda on: act(on, key))
    if not reaction.handled and not reaction.notes:
        return session.hear(move, notice("nothing happens"), session.node)
    return _follow(stage, session, move, reaction, said, before, key)


def _target(session: ReadingSession) -> Element | None:
    """What a key acts on: the focus in focus mode, else what is at the cursor, or the link or label around it."""
    if session.mode is Mode.FOCUS and session.focus is not None:
        return session.focus.element
    node = session.node
    if node is None:
        return None
    for element in (node.element, *node.element.ancestors()):
        if element.tag in ("a", "button", "summary", "label", "option", "input", "select", "textarea"):
            return element
        if element.attributes.keys() & {"tabindex", "onclick"}:
            return element
    return node.element


def _takes_text(node: Node) -> bool:
    return node.role in EDITS or is_editing_host(node.element)


def _typed(character: str, stage: Stage, key: int) -> Reaction:
    return stage.type(key, character)


def _advanced(to: float, stage: Stage) -> Reaction:
    return stage.advance(to)


def _perform(
    stage: Stage, session: ReadingSession, act: Callable[[Stage], Reaction]
) -> tuple[Reaction, list[Utterance]]:
    """Let the stage act, take the new tree, and ask for what live regions announce; return these announcements."""
    known = stage.page.keys()
    stage.now = max(stage.now, session.clock)
    reaction = act(stage)
    if stage.tree is session.tree:
        _follow_focus(session, stage)
        return reaction, []
    before = Snapshot(session.tree, known.get)
    session.take(stage.tree, known.get, stage.page.key_of)
    _follow_focus(session, stage)
    after = Snapshot(session.tree, stage.page.key_of)
    focused = {reaction.focus, reaction.read_from, stage.focus}
    found = [change for change in changes(before, after) if change.key not in focused]
    announced, silent = announce(found, before, after)
    heard = []
    for each in announced:
        source = Source.ASSERTIVE if each.region.politeness is Politeness.ASSERTIVE else Source.POLITE
        utterance = Utterance((Part(PartKind.LIVE, session.speaker.spoken(each.text)),))
        node = next((fact.node for key, fact in after.facts.items() if key == each.region.key), None)
        session.hear_region(each.region.name, utterance, node, source)
        heard.append(utterance)
    for change in silent:
        session.speech.never(session.clock, change.text, f"{change.kind.value}", change.why_silent)
        session.silent.append((session.clock, change))
    return reaction, heard


def _follow_focus(session: ReadingSession, stage: Stage) -> None:
    element = stage.page.element(stage.focus)
    if element is not None:
        session.focus = session.tree.node_of(element)


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
    element = stage.page.element(key)
    node = session.tree.node_of(element) if element is not None else None
    stays = reaction.focus is None or reaction.focus == key
    if before is not None and node is not None and not reaction.typed and stays:
        parts.extend(_news(session, before, node))
    parts.extend(Part(PartKind.NOTICE, note) for note in reaction.notes)
    target = stage.page.element(reaction.focus if reaction.focus is not None else reaction.read_from)
    if target is not None:
        if reaction.focus is not None:
            session.focus = session.tree.node_of(target)
        there = session.go_to_element(target)
        parts = [*there, *parts] if reaction.focus is not None else [*parts, *there]
        _switch_mode(session, parts)
    if reaction.followed is not None:
        session.visited.add(reaction.followed)
    if not parts and not announced:
        parts.append(Part(PartKind.NOTICE, "nothing is said"))
    utterance = Utterance(tuple(parts))
    if not parts:
        return announced[-1]
    return session.hear(move, utterance, session.node, Source.FOCUS if move == FOCUS_MOVED else Source.KEY)


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


def tab(session: ReadingSession, direction: Direction) -> Utterance:
    """Press Tab or Shift+Tab: the focus moves, the page is told, and the mode changes where the field needs it."""
    stage = session.stage
    focus = session.focus
    heard = session.tab(direction)
    if stage is None or session.focus is None or session.focus is focus:
        return heard
    parts: list[Part] = []
    _switch_mode(session, parts)
    heard = session.add_to_last(parts)
    key = stage.page.key_of(session.focus.element)
    if key is not None:
        _perform(stage, session, lambda on: on.set_focus(key))
    return heard
