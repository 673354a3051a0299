"""Work in small steps, with how far it is, until it is done or given up."""

from __future__ import annotations

import asyncio
from collections.abc import Iterator
from time import monotonic
from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Horizontal
from textual.widgets import Label, ProgressBar

from murvel.tui.dialogs.dialog import Dialog

_A_WHILE = 0.03
"""Seconds of work between two looks at the keys."""

_A_BREATH = 0.005
"""Seconds in which a key that waits gets through."""


class Looking(Dialog[bool]):
    """Does the work; answers with True when it is done, with False where Escape was pressed before.

    Args:
        words: what is done.
        steps: the work; each step yields which part is done, from 0 to 1.
    """

    DEFAULT_CSS = """
    Looking { background: transparent; align: left bottom; }
    Looking > Horizontal { dock: bottom; height: 2; background: $panel; border-top: solid $primary; padding: 0 1; }
    Looking Label { padding-right: 2; }
    Looking #words { color: $primary; }
    Looking Bar { width: 30; }
    """

    BINDINGS: ClassVar[list[BindingType]] = [Binding("escape", "dismiss(False)", "Stop", show=False)]

    def __init__(self, words: str, steps: Iterator[float]) -> None:
        super().__init__()
        self._words = words
        self._steps = steps

    def compose(self) -> ComposeResult:
        """What is done, how far it is, and the key that stops it."""
        with Horizontal():
            yield Label(self._words, id="words", markup=False)
            yield ProgressBar(total=1.0, show_eta=False)
            yield Label("Esc stops")

    def on_mount(self) -> None:
        """Begin."""
        self.run_worker(self._work())

    async def _work(self) -> None:
        bar = self.query_one(ProgressBar)
        since = monotonic()
        await asyncio.sleep(_A_BREATH)  # the dialog is seen before the work begins
        for part in self._steps:
            if monotonic() - since > _A_WHILE:
                bar.update(progress=part)
                await asyncio.sleep(_A_BREATH)
                since = monotonic()
        self.dismiss(True)
