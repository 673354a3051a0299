"""Running checks on a page."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from murvel.checks.catalogue import CHECKS
from murvel.checks.check import Check
from murvel.checks.facts import Facts
from murvel.checks.lead import Lead
from murvel.page.memory import no_collection
from murvel.reader.session import ReadingSession


def leads_of(session: ReadingSession, checks: Iterable[Check] = CHECKS) -> list[Lead]:
    """Return what checks notice on the page of a session, in reading order.

    Args:
        session: the reading; its voice says how things are heard. It is not moved.
        checks: which checks are run.
    """
    return leads_on(Facts(session), checks)


def leads_on(page: Facts, checks: Iterable[Check] = CHECKS) -> list[Lead]:
    """Return what checks notice on a page whose facts are gathered already, in reading order."""
    return in_reading_order(lead for leads in leads_by_check(page, checks) for lead in leads)


def leads_by_check(page: Facts, checks: Iterable[Check] = CHECKS) -> Iterator[list[Lead]]:
    """Yield what each check notices on a page, one check at a time."""
    for check in checks:
        with no_collection():
            leads = [Lead(check, found, page.node_around(found.element), page) for found in check.find(page)]
        yield leads


def in_reading_order(leads: Iterable[Lead]) -> list[Lead]:
    """Return leads in the order in which what they are about stands on the page."""
    return sorted(leads, key=lambda lead: lead.element.order)
