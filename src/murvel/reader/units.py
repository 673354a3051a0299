"""Reading by smaller units than an item: objects, words and characters."""

from __future__ import annotations

import re
from collections.abc import Callable

from murvel.reader.moves import Direction
from murvel.reader.pronunciation import spelled
from murvel.reader.readout import Object
from murvel.reader.session import ReadingSession
from murvel.reader.utterance import Part, PartKind, Utterance, notice

_WORD = re.compile(r"\S+")


def move_by_object(session: ReadingSession, direction: Direction) -> Utterance:
    """Read the next or previous object: a run of text, a link, a control on its own."""
    move = f"{direction.neighbour} object"
    neighbour = _neighbour(session, session.cursor, direction)
    if neighbour is None:
        return session.hear(move, notice(direction.edge), session.node)
    return session.read_objects(move, [neighbour], neighbour.node)


def move_by_word(session: ReadingSession, direction: Direction) -> Utterance:
    """Read the next or previous word, going on into the next object where one ends."""
    return _move_within(session, direction, "word", _words)


def move_by_character(session: ReadingSession, direction: Direction) -> Utterance:
    """Read the next or previous character, as it is spelled."""
    return _move_within(session, direction, "character", _characters)


def spell(session: ReadingSession) -> Utterance:
    """Spell the word or character at the cursor, each letter with a word that begins with it."""
    start, end = session.span or (0, 0)
    if start == end:
        found = _WORD.search(_text(session.cursor))
        start, end = found.span() if found else (0, 0)
    letters = _text(session.cursor)[start:end]
    if not letters:
        return session.hear("spell", notice("nothing to spell here"), session.node)
    words = "; ".join(spelled(character, with_word=True) for character in letters)
    return session.hear("spell", Utterance((Part(PartKind.TEXT, words),)), session.node)


def _words(text: str) -> list[tuple[int, int]]:
    return [match.span() for match in _WORD.finditer(text)]


def _characters(text: str) -> list[tuple[int, int]]:
    return [(at, at + 1) for at in range(len(text))]


def _move_within(
    session: ReadingSession, direction: Direction, unit: str, spans_of: Callable[[str], list[tuple[int, int]]]
) -> Utterance:
    move = f"{direction.neighbour} {unit}"
    spans = spans_of(_text(session.cursor))
    at = session.span
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
            return session.hear(move, notice(direction.edge), session.node)
        session.stand(neighbour, neighbour.node)
        spans = spans_of(_text(neighbour))
        chosen = spans[0] if direction is Direction.FORWARD else spans[-1]
    session.span = chosen
    said = _text(session.cursor)[chosen[0] : chosen[1]]
    return session.hear(move, Utterance((Part(PartKind.TEXT, _said(session, said, unit)),)), session.node)


def _said(session: ReadingSession, text: str, unit: str) -> str:
    if unit == "character":
        return spelled(text)
    capital = "capital " if session.voice.capitals and text[:1].isupper() else ""
    return capital + session.speaker.spoken(text).strip()


def _text(at: Object | None) -> str:
    """The text of an object that words are counted in: its own, or its name and value."""
    if at is None:
        return ""
    return at.text if at.node.is_text else " ".join(filter(None, (at.node.name, at.node.value)))


def _neighbour(session: ReadingSession, at: Object | None, direction: Direction) -> Object | None:
    if at is None:
        return None
    index = at.index + (1 if direction is Direction.FORWARD else -1)
    objects = session.readout.objects
    return objects[index] if 0 <= index < len(objects) else None
