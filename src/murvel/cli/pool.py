"""Work on one page or many: a few in this process, more over all processors."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Generic, NamedTuple, TypeVar

Job = TypeVar("Job")
Result = TypeVar("Result")

_FEW = 3
"""The most jobs that are done in this process: starting others takes longer."""


class Done(NamedTuple, Generic[Result]):
    """What came of a run.

    Attributes:
        results: in the order of the jobs, None for those that were not done.
        is_stopped: whether it was stopped with Ctrl+C.
    """

    results: list[Result | None]
    is_stopped: bool


def work_on(
    jobs: Sequence[Job],
    work: Callable[[Job], Result],
    died: Callable[[Job], Result],
    tell: Callable[[int, int], None],
    size: Callable[[Job], int],
) -> Done[Result]:
    """Do some work on each of many jobs.

    Args:
        jobs: what is worked on; it goes to other processes.
        work: the work, a function of a module; it raises nothing.
        died: returns the result of a job whose process died.
        tell: called with how many jobs are done, and how many there are.
        size: returns about how much work a job is; the largest are begun first, so that none is left for the end.
    """
    results: list[Result | None] = [None] * len(jobs)
    try:
        if len(jobs) <= _FEW:
            for at, job in enumerate(jobs):
                results[at] = work(job)
            return Done(results, False)
        from murvel.cli.processes import over_processes  # what starts processes takes a while to load

        over_processes(jobs, work, died, tell, results, size)
    except KeyboardInterrupt:
        return Done(results, True)
    return Done(results, False)
