"""Work in small steps, with how far it is, until it is done or stopped."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from time import monotonic
from typing import ClassVar

from textual import work
from textual.binding import Binding, BindingType
from textual.containers import Horizontal
from textual.widget import Widget
from textual.widgets import Label, ProgressBar
from textual.worker import get_current_worker

from murvel.dom.memory import no_collection
from murvel.errors import MurvelError
from murvel.text import visible
from murvel.tui.dialogs.dialog import Dialog

MANY = 10_000
"""On pages with this many objects or more, work on all of them shows its progress and can be stopped."""

_A_WHILE = 0.1
"""Seconds of work between two updates of the progress bar."""


class Looking(Dialog[bool]):
    """Does the work; answers with True when it is done, with False if Escape was pressed before.

    Args:
        words: what is done.
        steps: the work; each step yields which part is done, from 0 to 1.
    """

    KEYS = (("Esc", "stop"),)
    KEYS_THAT_STOP: ClassVar[frozenset[str]] = frozenset({"escape", "ctrl+q", "ctrl+c"})
    """All other keys wait until it is done, and go to the view."""
    BINDINGS: ClassVar[list[BindingType]] = [Binding("escape", "dismiss(False)", "Stop", show=False)]

    def __init__(self, words: str, steps: Iterator[float]) -> None:
        super().__init__()
        self._words = words
        self._steps = steps

    def body(self) -> Iterable[Widget]:
        """What is done, and how far it is."""
        with Horizontal():
            yield Label(self._words, id="words", markup=False)
            yield ProgressBar(total=1.0, show_eta=False)

    def on_mount(self) -> None:
        """Begin."""
        self._do_steps()

    @work(thread=True, exclusive=True, exit_on_error=False)
    def _do_steps(self) -> None:
        worker = get_current_worker()
        told = monotonic()
        try:
            with no_collection():
                for part in self._steps:
                    if worker.is_cancelled:
                        return
                    if monotonic() - told > _A_WHILE:
                        told = monotonic()
                        self.app.call_from_thread(self._show, part)
        except MurvelError as error:
            self.app.call_from_thread(self._fail, error)
        else:
            self.app.call_from_thread(self.dismiss, True)

    def _fail(self, error: MurvelError) -> None:
        """Say what went wrong; what was to follow does not."""
        if self.is_asking:
            self.query_one("#words", Label).update(visible(f"{error} Esc closes this."))

    def _show(self, part: float) -> None:
        if self.is_asking:
            self.query_one(ProgressBar).update(progress=part)
