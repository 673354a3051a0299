"""Leads on the demo, and what each tells: the way to it is a way to it, and what is heard is what was heard."""

from pathlib import Path

import pytest
from hypothesis import given

from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.check import Certainty
from murvel.checks.engine.record import record_of
from murvel.checks.engine.run import leads_of
from murvel.reader.moves.commands import command
from murvel.work.sessions import open_session
from tests.strategies import hostile_markup
from tests.support import DEMO, session_of

PAGES = sorted((DEMO / "found").glob("*.html"))


@pytest.mark.parametrize("path", PAGES, ids=lambda path: path.name)
def test_the_moves_of_a_lead_lead_to_it(path: Path) -> None:
    session = open_session(str(path))
    for lead in leads_of(session, built_in()):
        if lead.moves == ["open page"]:
            continue
        session.focus = None
        for words in lead.moves:
            command(session, words)
        assert session.node is not None
        nearest = session.readout.first_object(lead.node) or session.readout.nearest(lead.node)
        assert nearest is not None
        assert session.node is lead.node or session.item is nearest.item, (lead.says, lead.moves)


def test_the_demo_as_found_shows_nearly_every_check_and_nothing_fails_on_the_repaired_one() -> None:
    found = {lead.check.id for path in PAGES for lead in leads_of(open_session(str(path)), built_in())}
    assert len(found) > 0.95 * sum(not check.needs_browser for check in built_in())
    for path in sorted((DEMO / "repaired").glob("*.html")):
        assert [
            lead.says for lead in leads_of(open_session(str(path)), built_in()) if lead.certainty is Certainty.FAILS
        ] == []


@given(hostile_markup())
def test_no_page_stops_a_check(markup: str) -> None:
    session = session_of(markup)
    for lead in leads_of(session, built_in()):
        record = record_of(lead)
        assert record.heard
        assert record.expected
        assert record.xpath.startswith("/")
    assert session.log == []


def test_checks_say_all_there_is_to_say() -> None:
    for check in built_in():
        assert check.looks_at.endswith("."), check.id
        for text in (check.title, check.means, check.repair, check.expect):
            assert text.strip(), check.id
        assert check.means.endswith("."), check.id
        assert check.repair.endswith("."), check.id
        assert not check.title.endswith("."), check.id
