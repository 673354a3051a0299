"""Checking many pages over all processors; one bad page never ends the run."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from time import perf_counter

from murvel.checks.engine.check import Certainty, Check
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.failing import FailOn
from murvel.checks.engine.own import load_catalogue
from murvel.checks.engine.record import PageResult, record_of
from murvel.checks.engine.run import leads_of, leads_of_hidden
from murvel.checks.questions.delegated import delegation
from murvel.cli.output import problem_with
from murvel.cli.pages import NamedPage
from murvel.cli.pool import Done, work_on
from murvel.loading.problems import ProblemKind
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import Voice
from murvel.text import counted, visible
from murvel.work.sessions import opened_session

_MOST_NAMED = 10
"""The most leads of a baseline that are named as gone."""


@dataclass(frozen=True, slots=True)
class Job:
    """What is done with every page of a run; it goes to the processes that do it.

    Attributes:
        checks: the identifiers of the checks.
        own: the files with checks of your own, which each process loads for itself.
        setup: how pages are opened.
        with_hidden: whether what is hidden when a page arrives is judged as well.
        voice: the voice that things are heard in; None for the usual one.
    """

    checks: tuple[str, ...]
    own: tuple[Path, ...] = ()
    setup: Setup = DEFAULT_SETUP
    with_hidden: bool = False
    voice: Voice | None = None


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
    try:
        catalogue = load_catalogue(job.own)
        with opened_session(page.address, page.setup(job.setup), job.voice) as session:
            _check(session, [catalogue[each] for each in job.checks], result, with_hidden=job.with_hidden)
    except Exception as error:
        result.failure = problem_with(page.address, error)
    result.seconds = perf_counter() - began
    return result


def _check(session: ReadingSession, checks: list[Check], result: PageResult, *, with_hidden: bool) -> None:
    document = session.tree.document
    result.title, result.problems = document.title, list(document.problems)
    if session.stage is not None and any(each.needs_browser for each in checks):
        session.stage.look()
    result.records = [record_of(lead) for lead in leads_of(session, checks)]
    if with_hidden:
        result.records += [record_of(lead, is_hidden_now=True) for lead in leads_of_hidden(session, checks)]
    if note := delegation(Facts(session)):
        document.problems.add(ProblemKind.NOTE, note)
    result.problems = list(document.problems)  # looking and checks may have added some


def is_failure(results: list[PageResult], fail_on: FailOn) -> bool:
    """Whether leads were found that make a run fail; those of pages that scripts make do not."""
    if fail_on is FailOn.NONE:
        return False
    judged = [result for result in results if result.is_judged]
    fails = any(result.count(Certainty.FAILS) for result in judged)
    ears = any(result.count(Certainty.NEEDS_EARS) for result in judged)
    return fails or (ears and fail_on is FailOn.NEEDS_EARS)


def gone_lines(gone: Sequence[str]) -> Iterator[str]:
    """Yield what a baseline records and does not occur any more, a few of them by name."""
    if gone:
        count = counted(len(gone), "lead of the baseline does", "leads of the baseline do")
        yield f"{count} not occur any more; --write-baseline beside --baseline drops what is gone"
        yield from gone[:_MOST_NAMED]
        if len(gone) > _MOST_NAMED:
            yield f"and {len(gone) - _MOST_NAMED} more"


def unjudged_lines(checks: Iterable[Check], results: Sequence[PageResult], *, in_browser: bool) -> Iterator[str]:
    """Yield what a run does not speak of: pages that scripts make, and checks that only a browser can make."""
    away = sum(each.failure is None and not each.is_judged for each in results)
    if away:
        yield f"{counted(away, 'page is', 'pages are')} not judged, because of scripts; --browser runs them"
    unseen = sum(each.needs_browser for each in checks)
    if unseen and not in_browser:
        count = counted(unseen, "check was", "checks were")
        yield f"{count} not made, as of contrast, targets and focus; --browser looks at a page"
