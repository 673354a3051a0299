"""The reader, case by case: straight reading, and moves with what is heard on each."""

from pathlib import Path

import pytest

from murvel.reader.kinds import BY_ID
from murvel.reader.session import Direction, ReadingSession
from murvel.reader.utterance import Utterance
from tests.support import Case, case_ids, session_of

FOLDER = Path(__file__).parent / "cases"


@pytest.mark.parametrize("case", case_ids(FOLDER, "readout"), ids=lambda case: case.title)
def test_straight_reading(case: Case) -> None:
    assert [utterance.text for utterance in session_of(case.markup).spoken.utterances] == case.expected


@pytest.mark.parametrize("case", case_ids(FOLDER, "moves"), ids=lambda case: case.title)
def test_moves(case: Case) -> None:
    session = session_of(case.markup)
    session.arrive()
    heard = []
    for line in case.expected:
        move = line.partition(" => ")[0]
        heard.append(f"{move} => {do(session, move).text}")
    assert heard == case.expected


def do(session: ReadingSession, move: str) -> Utterance:
    word, _, rest = move.partition(" ")
    match word:
        case "jump" | "back":
            return session.jump(BY_ID[rest], Direction.FORWARD if word == "jump" else Direction.BACK)
        case "again":
            return session.repeat_jump(Direction.BACK if rest else Direction.FORWARD)
        case "tab" | "shift+tab":
            return session.tab(Direction.FORWARD if word == "tab" else Direction.BACK)
        case "find":
            return session.find(rest)
    simple = {
        "next": session.next_item,
        "previous": session.previous_item,
        "first": session.first_item,
        "last": session.last_item,
        "where": session.where_am_i,
    }
    return simple[word]()
