"""Reading by smaller units than an item: objects, words and characters."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from murvel.reader.moves.linear import read_objects, stay
from murvel.reader.moves.moves import Direction
from murvel.reader.readout.items import Object
from murvel.reader.readout.position import Position, Step
from murvel.reader.session import ReadingSession
from murvel.reader.speech.pronunciation import spelled
from murvel.reader.speech.scripts import words_in
from murvel.reader.speech.utterance import Part, PartKind, Utterance


def move_by_object(session: ReadingSession, direction: Direction) -> Step:
    """Read the next or previous object: a run of text, a link, a control on its own."""
    move = f"{direction.neighbour} object"
    neighbour = _neighbour(session, session.position.came_from, direction)
    if neighbour is None:
        return stay(session, move, direction.edge)
    return read_objects(session, move, [neighbour], neighbour.node)


def move_by_word(session: ReadingSession, direction: Direction) -> Step:
    """Read the next or previous word, going on into the next object where one ends."""
    return _move_within(session, direction, "word", words_in)


def move_by_character(session: ReadingSession, direction: Direction) -> Step:
    """Read the next or previous character, as it is spelled."""
    return _move_within(session, direction, "character", _characters)


def spell(session: ReadingSession) -> Step:
    """Spell the word or character at the cursor, each letter with a word that begins with it."""
    start, end = session.position.span or (0, 0)
    if start == end:
        start, end = next(iter(words_in(_text(session.cursor))), (0, 0))
    letters = _text(session.cursor)[start:end]
    if not letters:
        return stay(session, "spell", "nothing to spell here")
    words = "; ".join(spelled(character, session.speaker.words, with_word=True) for character in letters)
    return Step("spell", Utterance((Part(PartKind.TEXT, words),)), session.node)


def _characters(text: str) -> list[tuple[int, int]]:
    return [(at, at + 1) for at in range(len(text))]


def _move_within(
    session: ReadingSession, direction: Direction, unit: str, spans_of: Callable[[str], list[tuple[int, int]]]
) -> Step:
    move = f"{direction.neighbour} {unit}"
    position = session.position
    spans = spans_of(_text(session.cursor))
    at = position.span
    if direction is Direction.FORWARD:
        beyond = [span for span in spans if at is None or span[0] >= at[1]]
        chosen = beyond[0] if beyond else None
    else:
        before = [span for span in spans if at is not None and span[1] <= at[0]]
        chosen = before[-1] if before else None
    if chosen is None:
        neighbour = _neighbour(session, session.cursor, direction)
        while neighbour is not None and not _text(neighbour).strip():
            neighbour = _neighbour(session, neighbour, direction)
        if neighbour is None:
            return stay(session, move, direction.edge)
        position = Position.at(neighbour, neighbour.node)
        spans = spans_of(_text(neighbour))
        chosen = spans[0] if direction is Direction.FORWARD else spans[-1]
    said = _text(position.cursor)[chosen[0] : chosen[1]]
    utterance = Utterance((Part(PartKind.TEXT, _said(session, said, unit)),))
    return Step(move, utterance, position.node, replace(position, span=chosen))


def _said(session: ReadingSession, text: str, unit: str) -> str:
    if unit == "character":
        return spelled(text, session.speaker.words)
    said = session.speaker.pieces.spoken(text).strip()
    is_capital = session.voice.capitals and text[:1].isupper()
    return session.speaker.words.phrase("capital", letter=said) if is_capital else said


def _text(at: Object | None) -> str:
    """The text of an object that words are counted in: its own, or its name and value."""
    if at is None:
        return ""
    return at.text if at.node.is_text else " ".join(filter(None, (at.node.name, at.node.value)))


def _neighbour(session: ReadingSession, at: Object | None, direction: Direction) -> Object | None:
    index = (at.index if at is not None else -1) + (1 if direction is Direction.FORWARD else -1)
    objects = session.readout.objects
    return objects[index] if 0 <= index < len(objects) else None
