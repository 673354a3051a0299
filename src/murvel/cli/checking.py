"""Checking many pages over all processors; one bad page never ends the run."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from time import perf_counter

from murvel.checks.engine.check import Certainty
from murvel.checks.engine.failing import FailOn
from murvel.checks.engine.own import load_catalogue
from murvel.checks.engine.record import PageResult, record_of
from murvel.checks.engine.run import leads_of, leads_of_hidden
from murvel.cli.output import problem_with
from murvel.cli.pages import NamedPage
from murvel.cli.pool import Done, work_on
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.text import visible
from murvel.work.sessions import open_session


@dataclass(frozen=True, slots=True)
class Job:
    """What is done with every page of a run; it goes to the processes that do it.

    Attributes:
        checks: the identifiers of the checks.
        own: the files with checks of your own, which each process loads for itself.
        setup: how pages are opened.
        with_hidden: whether what is hidden when a page arrives is judged as well.
    """

    checks: tuple[str, ...]
    own: tuple[Path, ...] = ()
    setup: Setup = DEFAULT_SETUP
    with_hidden: bool = False


def check_pages(pages: list[NamedPage], job: Job, tell: Callable[[int, int], None]) -> Done[PageResult]:
    """Check pages; what came of each stands in the order they were named in.

    Args:
        pages: the pages.
        job: what is done with each.
        tell: called with how many pages are done, and how many there are.
    """
    return work_on(pages, partial(check_page, job=job), _died, tell, NamedPage.size)


def _died(page: NamedPage) -> PageResult:
    return PageResult(
        page.address,
        failure=f"The process that checked {visible(page.address)} died; it was left out.",
        width=page.width,
    )


def check_page(page: NamedPage, job: Job) -> PageResult:
    """Check one page; where that cannot be done, for whatever reason, the result says why."""
    result, began = PageResult(page.address, width=page.width), perf_counter()
    session = None
    try:
        catalogue = load_catalogue(job.own)
        session = open_session(page.address, page.setup(job.setup))
        document = session.tree.document
        result.title, result.problems = document.title, list(document.problems)
        checks = [catalogue[each] for each in job.checks]
        if session.stage is not None and any(each.needs_browser for each in checks):
            session.stage.look()
        result.records = [record_of(lead) for lead in leads_of(session, checks)]
        if job.with_hidden:
            result.records += [record_of(lead, is_hidden_now=True) for lead in leads_of_hidden(session, checks)]
        result.problems = list(document.problems)  # looking and checks may have added some
    except Exception as error:
        result.failure = problem_with(page.address, error)
    if session is not None and session.stage is not None:
        session.stage.close()
    result.seconds = perf_counter() - began
    return result


def is_failure(results: list[PageResult], fail_on: FailOn) -> bool:
    """Whether leads were found that make a run fail; those of pages that scripts make do not."""
    if fail_on is FailOn.NONE:
        return False
    judged = [result for result in results if result.is_judged]
    fails = any(result.count(Certainty.FAILS) for result in judged)
    ears = any(result.count(Certainty.NEEDS_EARS) for result in judged)
    return fails or (ears and fail_on is FailOn.NEEDS_EARS)
