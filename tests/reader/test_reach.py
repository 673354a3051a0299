"""The cost of coming to a place is what pressing the keys takes."""

from pathlib import Path

import pytest
from hypothesis import given

from murvel.reader.errors import ReaderError
from murvel.reader.moves.commands import command
from murvel.reader.moves.reach import Strategy, Ways, important
from murvel.reader.session import ReadingSession
from murvel.tree.node import Node
from murvel.work.sessions import open_session
from tests.strategies import hostile_markup
from tests.support import DEMO, session_of

JUMPS = {Strategy.HEADINGS: "jump headings", Strategy.LANDMARKS: "jump landmarks"}


def presses_by(session: ReadingSession, move: str, node: Node) -> int | None:
    """Press the key of a jump for as long as that leads no further than a node, then read on to it."""
    first = session.readout.first_object(node)
    assert first is not None
    command(session, "first")
    presses = 0
    while True:
        before = session.position
        try:
            command(session, move)
        except ReaderError:
            break
        if session.position == before or session.cursor is None or session.cursor.index > first.index:
            session.position = before
            break
        presses += 1
    if not presses or session.item is None:
        return None
    return presses + first.item.index - session.item.index


def held(session: ReadingSession) -> None:
    ways = Ways(session)
    session.arrive()
    for node in important(session):
        costs = ways.to(node).costs
        for strategy, move in JUMPS.items():
            told = costs[strategy].presses if strategy in costs else None
            assert told == presses_by(session, move, node), (strategy, node.role, node.name)


@pytest.mark.parametrize("path", sorted((DEMO / "found").glob("*.html")), ids=lambda path: path.stem)
def test_on_the_demo(path: Path) -> None:
    held(open_session(str(path)))


@given(hostile_markup())
def test_on_any_page(markup: str) -> None:
    held(session_of(markup))


def test_what_one_stands_at_already_takes_no_press() -> None:
    session = session_of("<h1>Beds</h1><p>a<h2>Sheds</h2><p>b")
    sheds = next(node for node in session.tree.nodes if node.name == "Sheds")
    assert Ways(session).to(sheds).costs[Strategy.HEADINGS].presses == 1
