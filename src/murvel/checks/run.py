"""Running checks on a page."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from murvel.checks.catalogue import built_in
from murvel.checks.check import Check, Topic
from murvel.checks.errors import CheckError, error_words
from murvel.checks.facts import Facts
from murvel.checks.lead import Lead
from murvel.page.memory import no_collection
from murvel.reader.session import ReadingSession

_OF_ALL_AT_ONCE = frozenset({Topic.HEADINGS, Topic.LANDMARKS, Topic.LISTENING, Topic.PAGE, Topic.SIGHT})
"""Topics about the page as a whole, or about what is seen: they say nothing of a page with all shown at once."""


def leads_of(session: ReadingSession, checks: Iterable[Check] | None = None) -> list[Lead]:
    """Return what checks notice on the page of a session, in reading order.

    Args:
        session: the reading; its voice says how things are heard. It is not moved.
        checks: which checks are run; those that come along if it is None.

    Raises:
        CheckError: a check cannot be run on this page.
    """
    page = Facts(session)
    found = leads_by_check(page, built_in() if checks is None else checks)
    return in_reading_order(lead for leads in found for lead in leads)


def leads_of_hidden(session: ReadingSession, checks: Iterable[Check] | None = None) -> list[Lead]:
    """Return what checks notice in what is hidden when the page arrives, as it would be once it is shown.

    Args:
        session: the reading. It is not moved.
        checks: as in `leads_of`.

    Raises:
        CheckError: a check cannot be run on this page.
    """
    if session.stage is None:
        return []
    revealed = session.stage.revealed()
    if not revealed.hidden:
        return []
    shown = ReadingSession(revealed.tree, session.voice)
    wanted = [check for check in (built_in() if checks is None else checks) if check.topic not in _OF_ALL_AT_ONCE]
    return [lead for lead in leads_of(shown, wanted) if lead.element in revealed.hidden]


def leads_by_check(page: Facts, checks: Iterable[Check]) -> Iterator[list[Lead]]:
    """Yield what each check notices on a page, one check at a time.

    Raises:
        CheckError: a check cannot be run on this page.
    """
    for check in checks:
        try:
            with no_collection():
                leads = [Lead(check, found, page.node_around(found.element), page) for found in check.find(page)]
        except Exception as error:  # a check may be anybody's code
            message = f"The check {check.id} failed on this page ({error_words(error)})"
            raise CheckError(message, f"--skip {check.id} leaves it out.") from error
        yield leads


def in_reading_order(leads: Iterable[Lead]) -> list[Lead]:
    """Return leads in the order in which what they are about stands on the page."""
    return sorted(leads, key=lambda lead: lead.element.order)
