"""How far a run over many pages is."""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager

Tell = Callable[[int, int], None]
"""Called with how many pages are done, and how many there are."""


@contextmanager
def progress(verb: str) -> Iterator[Tell]:
    """Show a bar with count and time left on standard error while the block runs; nothing where that is no terminal.

    Args:
        verb: what is done with each page.
    """
    if not sys.stderr.isatty():
        yield lambda done, total: None
        return
    from rich.console import Console
    from rich.progress import BarColumn, MofNCompleteColumn, Progress, TimeRemainingColumn

    columns = (verb, BarColumn(), MofNCompleteColumn(), TimeRemainingColumn())
    with Progress(*columns, console=Console(stderr=True), transient=True) as bar:
        task = bar.add_task("pages", total=None)
        yield lambda done, total: bar.update(task, completed=done, total=total)
