"""Hostile pages through all of Murvel: python bench/fuzz.py PAGES [FIRST]. Status 1: one raised or took too long."""

from __future__ import annotations

import multiprocessing
import os
import signal
import sys
import time
import traceback
from collections import Counter
from pathlib import Path
from random import Random

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.hostile import random_page
from tests.pipeline import work_through

from murvel.page.open_page import document_from_text

MOST_SECONDS = 5
"""The longest a page may take, in seconds of processor time."""

A_SECOND = 4_000
"""Elements for which a page may take a second more: a few thousand characters can make tens of thousands."""


class _TooLongError(Exception):
    """A page took too long."""


def _stop(*_: object) -> None:
    raise _TooLongError


def try_page(seed: int) -> tuple[int, float, str]:
    """Work through a page; return its seed, the seconds it took, and what went wrong, empty if nothing did."""
    signal.signal(signal.SIGPROF, _stop)
    signal.setitimer(signal.ITIMER_PROF, 8 * MOST_SECONDS)
    began = time.process_time()
    failure = ""
    page = random_page(Random(seed))
    try:
        work_through(page)
    except _TooLongError:
        failure = "more than 40 s"
    except Exception as error:
        where = traceback.extract_tb(error.__traceback__)[-1]
        failure = f"{type(error).__name__} at {Path(where.filename).name}:{where.lineno}: {error}"[:200]
    signal.setitimer(signal.ITIMER_PROF, 0)
    seconds = time.process_time() - began
    if not failure and seconds > MOST_SECONDS:
        elements = sum(1 for _ in document_from_text(page).document.root.descendants())
        failure = f"{seconds:.1f} s" if seconds > MOST_SECONDS + elements / A_SECOND else ""
    return seed, seconds, failure


def main() -> None:
    """Try pages over all processors."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 1_000
    first = int(sys.argv[2]) if len(sys.argv) > 2 else 0
    failures: Counter[str] = Counter()
    slowest = 0.0
    with multiprocessing.Pool(os.cpu_count()) as pool:
        for done, (seed, seconds, failure) in enumerate(
            pool.imap_unordered(try_page, range(first, first + count), chunksize=8), 1
        ):
            slowest = max(slowest, seconds)
            if failure:
                failures[failure] += 1
                if failures[failure] <= 2:
                    print(f"page {seed}: {failure}", flush=True)
            if done % 2_000 == 0:
                print(f"{done} pages, {sum(failures.values())} failures, slowest {slowest:.1f} s", flush=True)
    print(f"{count} hostile pages: {sum(failures.values())} failures of {len(failures)} kinds, slowest {slowest:.1f} s")
    sys.exit(bool(failures))


if __name__ == "__main__":
    main()
