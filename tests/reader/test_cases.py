"""The reader, case by case: straight reading, moves with what is heard on each, voices."""

from collections.abc import Callable
from pathlib import Path

import pytest

from murvel.reader.acting import load
from murvel.reader.moves.commands import command
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import BUILT_IN
from tests.support import Case, case_ids, session_of, staged, tree_of

FOLDER = Path(__file__).parent / "cases"


def read(case: Case) -> list[str]:
    """What is heard reading straight through."""
    return [utterance.text for utterance in session_of(case.markup).spoken.utterances]


def move(case: Case) -> list[str]:
    """What is heard on each move of a case, after the page was announced, and what is told of the move."""
    session = session_of(case.markup)
    session.arrive()
    lines = []
    for words in (line.partition(" => ")[0] for line in case.expected):
        command(session, words)
        lines.append(f"{words} => {session.log[-1].line}")
    return lines


def act(case: Case) -> list[str]:
    """What is heard on a page at work."""
    markup, _, cues = case.markup.partition("\n~~~\n")
    session = staged(markup, cues)
    session.arrive()
    load(session)
    lines = []
    for words in (line.partition(" => ")[0] for line in case.expected):
        known = len(session.log)
        command(session, words)
        heard = [each.line for each in session.log[known:]]
        lines.append(f"{words} => {' / '.join(heard) or 'nothing'}")
    return lines


def say(case: Case) -> list[str]:
    """What each built-in voice reads."""
    tree = tree_of(case.markup)
    lines = []
    for voice in BUILT_IN:
        heard = [utterance.text for utterance in ReadingSession(tree, voice).spoken.utterances]
        lines.append(f"{voice.name}: {' / '.join(heard)}")
    return lines


ACTUAL: dict[str, Callable[[Case], list[str]]] = {
    "readout": read,
    "heard": read,
    "said": read,
    "moves": move,
    "units": move,
    "acting": act,
    "voices": say,
}


@pytest.mark.parametrize("case", case_ids(FOLDER), ids=lambda case: case.title)
def test_what_is_heard(case: Case) -> None:
    assert ACTUAL[case.title.partition(":")[0]](case) == case.expected
