"""Drilling pages for a command: what came of each widget, as the leads of a page."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import partial
from time import perf_counter

from murvel.checks.engine.record import PageResult
from murvel.cli.output import problem_with
from murvel.cli.pages import NamedPage
from murvel.drills.found import Drilled, Kind, Widget
from murvel.drills.run import drill_page, records_of, split
from murvel.loading.setup import Setup
from murvel.reader.speech.voice import Voice
from murvel.text import counted
from murvel.work.sessions import open_session, opened_session


@dataclass(slots=True)
class DrilledPage:
    """What came of the drills of a page.

    Attributes:
        result: what was found, as checks give theirs.
        drilled: what came of each widget.
        left: the widgets that were not drilled.
    """

    result: PageResult
    drilled: list[Drilled] = field(default_factory=list)
    left: list[Widget] = field(default_factory=list)


def drilled_page(page: NamedPage, setup: Setup, only: Sequence[Kind], voice: Voice | None = None) -> DrilledPage:
    """Drill a page; where that cannot be done, for whatever reason, the result says why.

    Args:
        page: the page.
        setup: how it is opened.
        only: the kinds of widgets; all but forms if there are none.
        voice: the voice that it is heard in; None for the usual one.
    """
    done, began = DrilledPage(PageResult(page.address, width=page.width)), perf_counter()
    result = done.result
    try:
        given = page.setup(setup)
        done.drilled += drill_page(partial(open_session, page.address, given, voice), only)
        with opened_session(page.address, given, voice) as session:
            result.title, result.problems = session.tree.document.title, list(session.tree.document.problems)
            result.records = records_of(session, done.drilled)
            done.left = split(session, only)[1]
    except Exception as error:
        result.failure = problem_with(page.address, error)
    result.seconds = perf_counter() - began
    return done


def summary_lines(pages: Sequence[DrilledPage]) -> Iterator[str]:
    """Yield what was drilled and what was not, in one to a few lines."""
    drilled = [each for page in pages for each in page.drilled]
    away = [each for each in drilled if each.not_reached]
    faulty = [each for each in drilled if each.faults and not each.not_reached]
    if not drilled:
        yield "no widget was drilled, and nothing is concluded"
    else:
        clean = len(drilled) - len(away) - len(faulty)
        counts = f"{len(faulty)} with faults, {clean} with nothing found, {len(away)} not reached"
        yield f"{counted(len(drilled), 'widget', 'widgets')} drilled: {counts}"
    for each in away:
        yield f"not reached: {each.widget.kind} {each.widget.words}, because {each.not_reached}"
    left = Counter(each.kind for page in pages for each in page.left)
    if left:
        words = ", ".join(f"{kind} {count}" for kind, count in left.items())
        why = "; a form is sent with --only form alone, which may leave the page" if Kind.FORM in left else ""
        yield f"not drilled: {words}{why}"


def walk_lines_of(drilled: Drilled) -> Iterator[str]:
    """Yield a drill in lines: the widget, each key with what was heard, and what was found."""
    state = "" if drilled.is_restored else "; the page is not as it was"
    yield f"{drilled.widget.kind} {drilled.widget.words}: {drilled.outcome}{state}"
    for step in drilled.walk:
        yield f"    {step.move} => {step.heard}"
    for fault in drilled.faults:
        detail = f": {fault.detail}" if fault.detail else ""
        yield f"    {fault.certainty or fault.check.certainty}: {fault.check.title}{detail} [{fault.check.id}]"
