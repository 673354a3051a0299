"""Work over all processors: a process that dies takes no other job along, and Ctrl+C ends them all."""

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
from typing import TypeVar

Job = TypeVar("Job")
Result = TypeVar("Result")


def over_processes(
    jobs: Sequence[Job],
    work: Callable[[Job], Result],
    died: Callable[[Job], Result],
    tell: Callable[[int, int], None],
    results: list[Result | None],
    size: Callable[[Job], int],
) -> None:
    """Fill `results` with what comes of each job, as `pool.work_on` says of the rest of the arguments.

    Raises:
        KeyboardInterrupt: Ctrl+C was pressed; the processes are ended.
    """
    work = partial(_tidily, work)
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
