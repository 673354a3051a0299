"""How far a run over many pages is."""

from __future__ import annotations

import sys


class Progress:
    """A bar with count and time left on standard error, where that is a terminal; nothing elsewhere.

    Args:
        verb: what is done with each page.
    """

    def __init__(self, verb: str) -> None:
        from rich.console import Console
        from rich.progress import BarColumn, MofNCompleteColumn, Progress, TimeRemainingColumn

        columns = (verb, BarColumn(), MofNCompleteColumn(), TimeRemainingColumn())
        console = Console(stderr=True)
        self._bar = Progress(*columns, console=console, transient=True, disable=not sys.stderr.isatty())
        self._task = self._bar.add_task("pages", total=None)

    def __enter__(self) -> Progress:
        self._bar.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._bar.stop()

    def tell(self, done: int, total: int) -> None:
        """Show how far it is."""
        self._bar.update(self._task, completed=done, total=total)
