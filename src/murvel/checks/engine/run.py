"""Running checks on a page."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

from murvel.checks.engine.border import findings
from murvel.checks.engine.check import Check, Topic
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.lead import Lead
from murvel.checks.errors import CheckError
from murvel.dom.memory import no_collection
from murvel.loading.problems import ProblemKind
from murvel.reader.session import ReadingSession

_OF_ALL_AT_ONCE = frozenset({Topic.HEADINGS, Topic.LANDMARKS, Topic.LISTENING, Topic.PAGE, Topic.SIGHT})
"""Topics about the page as a whole, or about what is seen: they say nothing of a page with all shown at once."""


def leads_of(session: ReadingSession, checks: Iterable[Check]) -> list[Lead]:
    """Return what checks notice on the page of a session, in reading order.

    Args:
        session: the reading; its voice says how things are heard. It is not moved.
        checks: the checks that are run.

    A check that fails is a problem of the page, and the others are run.
    """
    page = Facts(session)
    found = leads_by_check(page, checks, failed=as_problem(page))
    return in_reading_order(lead for leads in found for lead in leads)


def leads_of_hidden(session: ReadingSession, checks: Iterable[Check]) -> list[Lead]:
    """Return what checks notice in what is hidden when the page arrives, as it would be once it is shown.

    Args:
        session: the reading. It is not moved.
        checks: as in `leads_of`.

    A check that fails is a problem of the page, and the others are run.
    """
    if session.stage is None:
        return []
    revealed = session.stage.revealed()
    if not revealed.hidden:
        return []
    shown = ReadingSession(revealed.tree, session.voice)
    wanted = [check for check in checks if check.topic not in _OF_ALL_AT_ONCE]
    leads = [lead for lead in leads_of(shown, wanted) if lead.element in revealed.hidden]
    failed = (each for each in revealed.tree.document.problems if each.kind is ProblemKind.CHECK)
    session.tree.document.problems.update(failed)
    return leads


def leads_by_check(
    page: Facts, checks: Iterable[Check], failed: Callable[[CheckError], None] | None = None
) -> Iterator[list[Lead]]:
    """Yield what each check notices on a page, one check at a time.

    Args:
        page: the page.
        checks: the checks.
        failed: called with the error of a check that cannot be run here, which then has no leads; None to raise.

    Raises:
        CheckError: a check cannot be run on this page.
    """
    for check in checks:
        try:
            with no_collection():
                found = findings(check, page)
                leads = [Lead(check, each, page.node_around(each.element), page) for each in found]
        except CheckError as error:
            if failed is None:
                raise
            failed(error)
            leads = []
        yield leads


def as_problem(page: Facts) -> Callable[[CheckError], None]:
    """Return what notes a check that failed among the problems of a page."""
    return lambda error: page.document.problems.add(ProblemKind.CHECK, str(error))


def in_reading_order(leads: Iterable[Lead]) -> list[Lead]:
    """Return leads in the order in which what they are about stands on the page."""
    return sorted(leads, key=lambda lead: lead.element.order)
