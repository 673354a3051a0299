"""Work on many pages over all processors: one that dies ends no other, and Ctrl+C ends them all."""

from __future__ import annotations

import gc
import multiprocessing
import os
import signal
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import Future, ProcessPoolExecutor, as_completed
from concurrent.futures.process import BrokenProcessPool
from functools import partial
from typing import Generic, NamedTuple, TypeVar

Job = TypeVar("Job")
Result = TypeVar("Result")

_FEW = 3
"""Up to so many jobs are done in this process: starting others takes longer."""


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
        _over_processes(jobs, partial(_tidily, work), died, tell, results, size)
    except KeyboardInterrupt:
        return Done(results, True)
    return Done(results, False)


def _over_processes(
    jobs: Sequence[Job],
    work: Callable[[Job], Result],
    died: Callable[[Job], Result],
    tell: Callable[[int, int], None],
    results: list[Result | None],
    size: Callable[[Job], int],
) -> None:
    waiting = sorted(range(len(jobs)), key=lambda at: -size(jobs[at]))
    tell(0, len(jobs))
    while waiting:
        broken = _round(jobs, work, waiting, results, partial(_count, tell, results))
        waiting = [at for at in waiting if results[at] is None]
        if not broken:
            return
        # One of those that were under way has killed its process; each is tried alone, so that it takes no other along.
        for at in broken:
            if _round(jobs, work, [at], results, partial(_count, tell, results)):
                results[at] = died(jobs[at])
        waiting = [at for at in waiting if results[at] is None]


def _tidily(work: Callable[[Job], Result], job: Job) -> Result:
    """Do some work and leave nothing of it in memory."""
    result = work(job)
    gc.collect()
    return result


def _count(tell: Callable[[int, int], None], results: list[Result | None]) -> None:
    tell(sum(each is not None for each in results), len(results))


def _round(
    jobs: Sequence[Job],
    work: Callable[[Job], Result],
    waiting: list[int],
    results: list[Result | None],
    note: Callable[[], None],
) -> list[int]:
    """Work on what waits, for as long as no process dies; return those that were under way when one died."""
    workers = min(len(waiting), len(os.sched_getaffinity(0)))
    gc.freeze()  # what is loaded stays shared with the workers
    pool = ProcessPoolExecutor(workers, initializer=_prepare)
    running: dict[Future[Result], int] = {}
    try:
        running = {pool.submit(work, jobs[at]): at for at in waiting}
        broken = False
        for done in as_completed(running):
            try:
                results[running[done]] = done.result()
            except BrokenProcessPool:
                broken = True
                continue
            note()
        pool.shutdown()
        left = [at for at in waiting if results[at] is None]
        return left[: 2 * workers + 1] if broken else []
    except BaseException:
        for process in multiprocessing.active_children():
            process.kill()
        pool.shutdown(wait=False, cancel_futures=True)
        raise


def _prepare() -> None:
    """Make a worker leave Ctrl+C to the process that started it, and end when that is gone."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    parent = multiprocessing.parent_process()

    def end_with_parent() -> None:
        assert parent is not None
        parent.join()
        os._exit(1)

    if parent is not None:
        threading.Thread(target=end_with_parent, daemon=True).start()
