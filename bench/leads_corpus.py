"""What checks notice on pages that others wrote: how often, and some hits of each to be looked at."""

from __future__ import annotations

import random
import sys
from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor
from functools import partial
from pathlib import Path

from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.record import Record
from murvel.cli.checking import Job, check_page
from murvel.cli.pages import NamedPage

EACH = 40
"""Pages of a package."""

SHOWN = 3


def pages(folder: Path) -> list[str]:
    """Return the same choice of pages of each package every time."""
    chosen: list[str] = []
    for package in sorted((folder / "packages").iterdir()):
        found = sorted(str(path) for path in package.rglob("*.html") if 400 < path.stat().st_size < 250_000)
        random.Random(7).shuffle(found)
        chosen += found[:EACH]
    return chosen


def main() -> None:
    """Check the corpus."""
    every = [check.id for check in built_in()]
    chosen = pages(Path(sys.argv[1]))
    named = [NamedPage(Path(each).name, each) for each in chosen]
    hits: dict[str, list[tuple[str, Record]]] = defaultdict(list)
    with ProcessPoolExecutor() as pool:
        for result in pool.map(partial(check_page, job=Job(tuple(every))), named, chunksize=8):
            if result.failure is not None:
                print(result.failure)
            for record in result.records:
                hits[record.check].append((result.page, record))
    print(f"{len(chosen)} pages; {len(hits)} of {len(every)} checks notice something on them.")
    for check in every:
        print(f"{check}: {len(hits[check])}")
        for page, record in random.Random(7).sample(hits[check], min(SHOWN, len(hits[check]))):
            print(f"    {record.certainty} {Path(page).name}:{record.line} {record.detail[:60]} | {record.heard[:60]}")


if __name__ == "__main__":
    main()
