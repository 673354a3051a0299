"""Acting on the page: keys, text and time go to the stage, and what follows from them is heard.

The session's stage answers with a reaction; `murvel.reader.following` says what is heard of that.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from murvel.dom.document import Element
from murvel.reader.following import FOCUS_MOVED, Said, follow, perform, switch_mode, takes_text
from murvel.reader.live.queue import Source
from murvel.reader.moves import linear as reading
from murvel.reader.moves.moves import Direction, Mode
from murvel.reader.session import ReadingSession
from murvel.reader.speech.utterance import SILENCE, Utterance
from murvel.stage.inputs import Activate, Focus, Hover, Input, Keystroke, Load, Press, Tab, Type, Wait
from murvel.stage.stage import Stage

_NO_STAGE = "keys do nothing here: this tree has no page behind it"

_PATIENCE = 2.0
"""Seconds that a listener waits for the effect of a key."""

_MOMENT = 0.25
"""Seconds that a listener waits before the next key on a page that runs by itself."""

_ACTED_ON = frozenset({"a", "button", "summary", "label", "option", "input", "select", "textarea"})


def load(session: ReadingSession) -> Utterance | None:
    """Let the page do what it does on arrival; return what is heard of that, None if nothing is."""
    stage = session.stage
    if stage is None:
        return None
    outcome = perform(stage, session, Load())
    if not outcome.reaction.handled and outcome.reaction.focus is None:
        if outcome.reaction.notes:
            session.tell("the page", ", ".join(outcome.reaction.notes))
        return None
    return follow(stage, session, "on arrival", outcome, Source.POLITE)


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
    if session.mode is Mode.FOCUS and session.focus is not None and takes_text(session.focus):
        return type_text(session, " ")
    if session.mode is Mode.FOCUS and session.stage is not None and session.stage.is_live:
        return _on_element(session, "Space", lambda key: Press(Keystroke.SPACE, key))
    element = _target(session)
    if element is not None and element.tag == "a":
        return session.tell("Space", "Space does nothing on a link; Enter follows it")
    return activate(session)


def press_arrow(session: ReadingSession, stroke: Keystroke) -> Utterance:
    """Press an arrow in focus mode."""
    return _on_element(session, "arrow", lambda key: Press(stroke, key))


def type_text(session: ReadingSession, text: str) -> Utterance:
    """Type text into the field at the focus, with an echo of what was typed."""
    if session.stage is None:
        return session.tell("type", _NO_STAGE)
    if session.mode is Mode.BROWSE:
        return session.tell("type", "in browse mode; m changes to focus mode, where keys go to the page")
    if not text:
        return session.tell("type", "nothing to type")
    said = SILENCE
    for character in text:
        said = _on_element(session, f"type {character}", partial(_typed, character))
    return said


def press_escape(session: ReadingSession) -> Utterance:
    """Press Escape: the page gets it in either mode; where nothing comes of it, focus mode ends."""
    stage, is_focus_mode = session.stage, session.mode is Mode.FOCUS
    if stage is None:
        return toggle_mode(session) if is_focus_mode else session.tell("Escape", _NO_STAGE)
    at_focus = Said.of(session, session.focus) if session.focus is not None else None
    session.speech.interrupt(session.clock)
    outcome = perform(stage, session, Press(Keystroke.ESCAPE))
    focus = session.focus
    has_news = at_focus is not None and focus is not None and Said.of(session, focus).news(at_focus)
    if is_focus_mode and not has_news and not outcome.is_noticed:
        return toggle_mode(session)
    if not outcome.reaction.handled:
        return session.tell("Escape", "nothing to close")
    key = stage.focus if is_focus_mode else None
    return follow(stage, session, "Escape", outcome, before=at_focus if key is not None else None, key=key)


def hover(session: ReadingSession) -> Utterance:
    """Put the pointer on what is at the cursor."""
    return _on_element(session, "hover", Hover)


def toggle_mode(session: ReadingSession) -> Utterance:
    """Change between browse and focus mode by hand."""
    session.mode = Mode.FOCUS if session.mode is Mode.BROWSE else Mode.BROWSE
    return session.tell("change the mode", f"{session.mode.value} mode")


def tab(session: ReadingSession, direction: Direction) -> Utterance:
    """Press Tab or Shift+Tab: the focus moves, the page is told, and the mode changes where the field needs it."""
    stage = session.stage
    if stage is not None and stage.is_live:
        return _tab_as_key(session, stage, direction)
    before = session.focus
    step, stop = reading.tab(session, direction)
    if stop is not None:
        session.focus = stop
    heard = session.make(step)
    if stage is None or stop is None or stop is before:
        return heard
    session.tell_more(switch_mode(session))
    key = stage.key_of(stop.element)
    if key is not None:
        outcome = perform(stage, session, Focus(key))
        if outcome.reaction.focus not in (None, key):
            return follow(stage, session, FOCUS_MOVED, outcome)
        session.tell_more(", ".join(outcome.reaction.notes))
        outcome.hear_regions(session)
    return heard


def _tab_as_key(session: ReadingSession, stage: Stage, direction: Direction) -> Utterance:
    """Give Tab to a page that runs by itself: it goes on from the cursor, where reading went away from the focus."""
    move = "Tab" if direction is Direction.FORWARD else "Shift+Tab"
    is_away = session.node is not session.focus and session.position.has_arrived
    stop = (
        session.stops.from_cursor(session.cursor, session.focus, session.readout, direction is Direction.FORWARD)
        if is_away
        else None
    )
    key = stage.key_of(stop.element) if stop is not None else None
    session.speech.interrupt(session.clock)
    outcome = perform(stage, session, Tab(direction is Direction.BACK, key))
    focused = stage.element(stage.focus)
    if focused is None and not outcome.reaction.has_arrived:
        outcome.lost = ""
        if not outcome.reaction.notes:
            return session.tell(move, "the focus left the page: there is no further tab stop")
    return follow(stage, session, move, outcome)


def wait(session: ReadingSession, seconds: float) -> list[Utterance]:
    """Let time pass on the page; return what is heard meanwhile."""
    stage = session.stage
    if stage is None:
        session.let_pass(seconds)
        session.speech.advance(session.clock)
        return []
    end = stage.now + seconds  # a page that never comes to rest keeps nobody for longer than a moment beyond that
    heard: list[Utterance] = []
    while True:
        is_last = stage.next_due is None or stage.next_due > end
        at_focus = Said.of(session, session.focus) if session.focus is not None else None
        outcome = perform(stage, session, Wait(end))
        reaction = outcome.reaction
        if reaction.has_arrived or reaction.focus is not None or reaction.read_from is not None:
            heard.append(follow(stage, session, FOCUS_MOVED, outcome))
        else:
            heard.extend(_news_at_focus(session, at_focus))
            heard.extend(outcome.hear_regions(session))
            told = ", ".join(filter(None, (*reaction.notes, outcome.lost)))
            if told:
                session.tell(FOCUS_MOVED if outcome.lost else "the page", told)
        if stage.now >= end and (is_last or (stage.is_live and stage.now >= end + _MOMENT)):
            break
    session.speech.advance(session.clock)
    return heard


def _news_at_focus(session: ReadingSession, before: Said | None) -> list[Utterance]:
    """Hear what the page changed by itself about what has the focus."""
    if (
        before is None
        or session.focus is None
        or (session.mode is not Mode.FOCUS and session.node is not session.focus)
    ):
        return []
    news = Utterance(tuple(Said.of(session, session.focus).news(before)))
    return [session.hear("changed at the focus", news, session.focus, Source.POLITE)] if news.text else []


def hear_out(session: ReadingSession) -> list[Utterance]:
    """Let time pass until all that was asked for is spoken, and what follows soon; return what is heard meanwhile.

    A page that runs by itself gets a moment: its time is everybody's.
    """
    stage = session.stage
    if stage is not None and stage.is_live:
        return wait(session, _MOMENT)
    until = max(session.speech.free_at, session.clock)
    if stage is not None and stage.next_due is not None and stage.next_due <= session.clock + _PATIENCE:
        until = max(until, stage.next_due)
    return wait(session, until - session.clock)


def _on_element(session: ReadingSession, move: str, given: Callable[[int], Input]) -> Utterance:
    stage = session.stage
    if stage is None:
        return session.tell(move, _NO_STAGE)
    element = _target(session)
    key = stage.key_of(element) if element is not None else None
    if element is None or key is None:
        return session.tell(move, "nothing to act on here")
    node = session.tree.node_of(element)
    before = Said.of(session, node) if node is not None else None
    session.speech.interrupt(session.clock)
    outcome = perform(stage, session, given(key))
    if not outcome.reaction.handled and not outcome.reaction.notes:
        return session.tell(move, "nothing happens")
    return follow(stage, session, move, outcome, before=before, key=key)


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
