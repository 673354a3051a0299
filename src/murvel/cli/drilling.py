"""Drilling pages for a command: what came of each widget, as the leads of a page."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import partial
from time import perf_counter

from murvel.checks.engine.record import PageResult
from murvel.cli.output import problem_with
from murvel.cli.pages import NamedPage
from murvel.drills.found import Drilled, Kind
from murvel.drills.run import drill_page, records_of
from murvel.loading.setup import Setup
from murvel.reader.speech.voice import Voice
from murvel.work.sessions import open_session, opened_session


def drilled_page(
    page: NamedPage, setup: Setup, only: Sequence[Kind], voice: Voice | None = None
) -> tuple[PageResult, list[Drilled]]:
    """Drill a page; where that cannot be done, for whatever reason, the result says why.

    Args:
        page: the page.
        setup: how it is opened.
        only: the kinds of widgets; all but forms if there are none.
        voice: the voice that it is heard in; None for the usual one.
    """
    result, began = PageResult(page.address, width=page.width), perf_counter()
    drilled: list[Drilled] = []
    try:
        given = page.setup(setup)
        drilled += drill_page(partial(open_session, page.address, given, voice), only)
        with opened_session(page.address, given, voice) as session:
            result.title, result.problems = session.tree.document.title, list(session.tree.document.problems)
            result.records = records_of(session, drilled)
    except Exception as error:
        result.failure = problem_with(page.address, error)
    result.seconds = perf_counter() - began
    return result, drilled


def walk_lines_of(drilled: Drilled) -> Iterator[str]:
    """Yield a drill in lines: the widget, each key with what was heard, and what was found."""
    state = "" if drilled.is_restored else "; the page is not as it was"
    found = f"{len(drilled.faults)} found" if drilled.faults else "nothing found"
    yield f"{drilled.widget.kind} {drilled.widget.words}: {found}{state}"
    for step in drilled.walk:
        yield f"    {step.move} => {step.heard}"
    for fault in drilled.faults:
        detail = f": {fault.detail}" if fault.detail else ""
        yield f"    {fault.certainty or fault.check.certainty}: {fault.check.title}{detail} [{fault.check.id}]"
