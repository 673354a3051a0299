"""The reader on a stage that is none of ours: all that it knows of a page at work is the protocol."""

import pytest

from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.run import leads_of
from murvel.reader.moves.commands import command
from murvel.reader.session import ReadingSession
from murvel.stage.stage import Stage
from tests.reader.double import TakesStage

BEFORE = "<h1>Plots</h1><p id=1 role=status></p><button id=2 aria-expanded=false>Filter</button><p>One</p>"
AFTER = "<h1>Plots</h1><p id=1 role=status>3 found</p><button id=2 aria-expanded=true>Filter</button><p>One</p>"


def session_on(stage: Stage) -> ReadingSession:
    return ReadingSession(stage.tree, stage=stage)


def heard(session: ReadingSession, *lines: str) -> list[str]:
    known = len(session.log)
    for line in lines:
        command(session, line)
    return [each.line for each in session.log[known:]]


def test_what_a_key_changes_is_heard_and_the_cursor_stays() -> None:
    session = session_on(TakesStage(BEFORE, AFTER))
    heard(session, "jump buttons")
    assert heard(session, "activate") == ["expanded", "3 found"]
    assert heard(session, "next") == ["One"]
    assert heard(session, "previous") == ["Filter, button, expanded"]


def test_what_comes_by_itself_is_heard_when_it_is_due() -> None:
    session = session_on(TakesStage(BEFORE, AFTER, due=5.0))
    heard(session, "jump headings")
    assert heard(session, "wait 4") == []
    assert heard(session, "wait 4") == ["3 found"]
    assert session.clock == 8.0
    assert session.stage is not None
    assert session.stage.next_due is None


def test_what_nothing_comes_of_is_told() -> None:
    session = session_on(TakesStage(BEFORE))
    assert heard(session, "jump buttons", "activate")[1:] == ["(nothing happens)"]
    assert heard(session, "first", "activate")[1:] == ["(nothing to act on here)"]
    assert heard(session, "escape") == ["(nothing to close)"]


def test_reading_goes_on_where_what_was_read_is_gone() -> None:
    session = session_on(TakesStage("<p>One</p><button id=2>Filter</button><p>Two</p>", "<p>One</p><p>Two</p>"))
    heard(session, "jump buttons", "activate")
    assert heard(session, "next") == ["Two"]


@pytest.mark.parametrize("move", ["next", "object", "jump headings", "find News"])
def test_what_took_the_place_of_the_first_is_read_next(move: str) -> None:
    session = session_on(TakesStage("<button id=2>Close</button><h1>Old</h1>", "<h1>News</h1><p>Two</p>"))
    assert heard(session, "first", "activate", "previous")[-1] == "(start of page)"
    assert heard(session, move)[0].startswith("News, heading level 1")
    assert heard(session, "next") == ["Two"]


def test_tab_goes_through_the_tree_as_it_is_now() -> None:
    session = session_on(TakesStage(BEFORE, f"{AFTER}<a href=p>Prices</a>"))
    assert heard(session, "tab", "tab")[0].startswith("Filter, button")
    heard(session, "jump buttons", "activate")
    assert heard(session, "tab") == ["Prices, link"]


def test_checks_ask_the_protocol_only() -> None:
    session = session_on(TakesStage("<h1>Plots</h1><button id=2></button>"))
    assert [lead.check.id for lead in leads_of(session, [built_in()["control-unnamed"]])] == ["control-unnamed"]
    assert leads_of(session, [check for check in built_in() if check.topic == "live"]) == []
