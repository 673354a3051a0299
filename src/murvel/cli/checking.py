"""Checking many pages over all processors; one bad page never ends the run."""

from __future__ import annotations

import os
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor, as_completed
from concurrent.futures.process import BrokenProcessPool
from dataclasses import dataclass
from pathlib import Path

from murvel.checks.check import Certainty
from murvel.checks.config import FailOn
from murvel.checks.own import load_catalogue
from murvel.checks.record import PageResult, record_of
from murvel.checks.run import leads_of
from murvel.cli.output import problem_with
from murvel.cli.pages import NamedPage
from murvel.page.setup import DEFAULT_SETUP, Setup
from murvel.page.text import visible
from murvel.reader.open import open_session

_FEW = 3
"""Up to so many pages are checked in this process: starting others takes longer."""


@dataclass(frozen=True, slots=True)
class Job:
    """What is done with every page of a run; it goes to the processes that do it.

    Attributes:
        checks: the identifiers of the checks.
        own: the files with checks of one's own, which each process loads for itself.
        setup: how pages are opened.
    """

    checks: tuple[str, ...]
    own: tuple[Path, ...] = ()
    setup: Setup = DEFAULT_SETUP


def check_pages(pages: list[NamedPage], job: Job, tell: Callable[[int, int], None]) -> list[PageResult]:
    """Check pages and return what came of each, in the order they were named in.

    Args:
        pages: the pages.
        job: what is done with each.
        tell: is told how many pages are done, and of how many.
    """
    if len(pages) <= _FEW:
        return [check_page(page, job) for page in pages]
    results: dict[int, PageResult] = {}
    with ProcessPoolExecutor(min(len(pages), os.cpu_count() or 1)) as pool:
        running = {pool.submit(check_page, page, job): at for at, page in enumerate(pages)}
        tell(0, len(pages))
        for done in as_completed(running):
            at = running[done]
            results[at] = _result(done, pages[at])
            tell(len(results), len(pages))
    return [results[at] for at in range(len(pages))]


def _result(done: Future[PageResult], page: NamedPage) -> PageResult:
    try:
        return done.result()
    except BrokenProcessPool:
        problem = f"The process that checked {visible(page.address)} died; the page was left out."
        return PageResult(page.address, problem=problem)


def check_page(page: NamedPage, job: Job) -> PageResult:
    """Check one page; where that cannot be done, for whatever reason, the result says why."""
    result = PageResult(page.address)
    try:
        catalogue = load_catalogue(job.own)
        session = open_session(page.address, page.setup(job.setup))
        result.title = session.tree.document.title
        result.records = [record_of(lead) for lead in leads_of(session, [catalogue[each] for each in job.checks])]
    except Exception as error:
        result.problem = problem_with(page.address, error)
    return result


def is_failure(results: list[PageResult], fail_on: FailOn) -> bool:
    """Whether leads were found that make a run fail."""
    if fail_on is FailOn.NONE:
        return False
    fails = any(result.count(Certainty.FAILS) for result in results)
    ears = any(result.count(Certainty.NEEDS_EARS) for result in results)
    return fails or (ears and fail_on is FailOn.NEEDS_EARS)
