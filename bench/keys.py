"""Keys at random, at full speed: python bench/keys.py KEYS IN_BROWSER [FIRST]. Status 1: it ended or lost data."""

from __future__ import annotations

import asyncio
import sys
import tempfile
from collections.abc import Iterator
from dataclasses import replace
from itertools import count
from pathlib import Path
from random import Random

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.support import DEMO
from tests.tui.support import press_at_random, until

from murvel.casebook.inspection import inspect
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.loading.setup import DEFAULT_SETUP, BrowserSetup, Setup
from murvel.tui.app import MurvelApp
from murvel.work.opening import Opening

A_ROUND = 2_500
"""Keys that one run of the application gets."""

SIZES = ((80, 24), (160, 47), (40, 10))


async def play(path: Path, opening: Opening, random: Random, keys: int) -> str:
    """Press keys in the application; return what went wrong, empty if nothing did."""
    with Casebook(path) as book:
        app = MurvelApp(book, opening, built_in())
        async with app.run_test(size=random.choice(SIZES)) as pilot:
            await until(pilot, lambda: app.page is not None and app.page.front)
            try:
                await press_at_random(pilot, random, keys)
            except AssertionError:
                return f"the application ended: {app._exception!r}"
            app.exit()
    return ", ".join(map(str, inspect(path).damaged))


def rounds(total: int, setup: Setup, first: int) -> Iterator[tuple[int, str]]:
    """Play until so many keys were pressed; yield each round's seed and what went wrong."""
    pages = sorted(DEMO.glob("*/*.html"))
    with tempfile.TemporaryDirectory() as folder:
        for seed, done in zip(count(first), range(0, total, A_ROUND), strict=False):
            page = pages[seed % len(pages)]
            keys = min(A_ROUND, total - done)
            yield seed, asyncio.run(play(Path(folder, "book.murvel"), Opening(str(page), setup), Random(seed), keys))


def main() -> None:
    """Press so many keys on the built-in stage, so many in a browser, and print what went wrong."""
    first = int(sys.argv[3]) if len(sys.argv) > 3 else 0
    failures = 0
    for words, total, setup in (
        ("without a browser", int(sys.argv[1]), DEFAULT_SETUP),
        ("in a browser", int(sys.argv[2]), replace(DEFAULT_SETUP, browser=BrowserSetup())),
    ):
        for seed, failure in rounds(total, setup, first):
            if failure:
                failures += 1
                print(f"{words}, {seed}: {failure}", flush=True)
        print(f"{total:,} keys {words}", flush=True)
    print(f"{failures} failures")
    sys.exit(bool(failures))


if __name__ == "__main__":
    main()
