"""The screen while a page is opened: the frame, what is being done, how long it has taken, and what is heard first."""

from __future__ import annotations

from time import monotonic
from typing import ClassVar

from rich.text import Text
from textual import work as background
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Middle
from textual.screen import Screen
from textual.widgets import Static
from textual.worker import get_current_worker

from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import Catalogue
from murvel.dom.memory import staying
from murvel.errors import MurvelError
from murvel.text import visible
from murvel.tui.widgets.direction import in_sight
from murvel.tui.widgets.lines import KeyHint, KeyLine, MessageLine, TopLine
from murvel.tui.widgets.palette import part_styles
from murvel.work.opening import Opening
from murvel.work.work import Work

_FIRST_AFTER = 1.0
"""Seconds after which what is heard first is shown; a page that is there sooner is not shown twice."""

_AROUND_LINES = 16
"""Rows of the screen that other things than the first lines take: the frame, the steps, the title."""

_TELL_EVERY = 0.5
"""Seconds between two updates of the elapsed time."""


class OpeningScreen(Screen[Work | MurvelError | None]):
    """Opens a page in a thread; answers with the work, with what stopped it, or with None if Escape was pressed.

    Args:
        opening: the page to open.
        casebook: the casebook it is documented in.
        catalogue: the checks that look through it.
    """

    KEYS_THAT_STOP: ClassVar[frozenset[str]] = frozenset({"escape", "q", "ctrl+q", "ctrl+c"})
    """All other keys wait until the page is there."""

    BINDINGS: ClassVar[list[BindingType]] = [Binding("escape", "stop", "Stop", show=False)]

    def __init__(self, opening: Opening, casebook: Casebook, catalogue: Catalogue) -> None:
        super().__init__()
        self._opening = opening
        self._casebook = casebook
        self._catalogue = catalogue
        self._done: list[str] = []
        self._since = monotonic()
        self._is_answered = False

    def compose(self) -> ComposeResult:
        """The frame as it is around a page, and in its middle what is being done."""
        top = TopLine()
        top.title = self._opening.address
        yield top
        with Middle():
            yield Static()
        yield MessageLine()
        keys = KeyLine()
        keys.hints = (KeyHint("Esc", "stop", "screen.stop"), KeyHint("q", "quit", "app.leave", is_last=True))
        yield keys

    def on_mount(self) -> None:
        """Begin."""
        self._show()
        self.set_interval(_TELL_EVERY, self._show)
        self._open()

    @background(thread=True, exclusive=True, exit_on_error=False)
    def _open(self) -> None:
        worker = get_current_worker()
        try:
            with staying():
                for step in self._opening.steps(self._casebook, self._catalogue):
                    if worker.is_cancelled:
                        return
                    self.app.call_from_thread(self._begin, step)
        except MurvelError as error:
            self._answer_from_thread(error)
        except Exception as error:  # a fault of our own is shown as one, and loses no work
            reason = f"{type(error).__name__}: {' '.join(str(error).split())}"[:200]
            self._answer_from_thread(MurvelError(f"The page cannot be opened ({reason})", "please report this fault."))
        else:
            self._answer_from_thread(self._opening.work)

    def _answer_from_thread(self, answer: Work | MurvelError | None) -> None:
        if not get_current_worker().is_cancelled:
            self.app.call_from_thread(self._answer, answer)

    def _answer(self, answer: Work | MurvelError | None) -> None:
        if not self._is_answered:
            self._is_answered = True
            self.dismiss(answer)

    def _begin(self, step: str) -> None:
        self._done.append(step)
        self._show()

    def _show(self) -> None:
        styles = part_styles(self.app)
        text = Text().append(f"{visible(self._opening.address)}\n", styles["strong"])
        text.append(f"{self._opening.setup.width} pixels wide\n\n", styles["role"])
        for step in self._done[:-1]:
            text.append(f"  ✓ {step}\n", styles["state"])
        if self._done:
            text.append(f"  … {self._done[-1]}\n", styles["mark"])
        taken = monotonic() - self._since
        text.append(f"\n  {taken:.0f} s", styles["faint"])
        if self._opening.first and taken >= _FIRST_AFTER:
            self._show_first(text)
        self.query_one(Static).update(text)

    def _show_first(self, text: Text) -> None:
        """Show what is heard first, as far as there is room: it can be read while the rest is worked out."""
        styles = part_styles(self.app)
        text.append(f"\n\n{visible(self._opening.title) or 'untitled'}\n", styles["strong"])
        for line in self._opening.first[: max(self.size.height - _AROUND_LINES, 0)]:
            shown = Text(in_sight(visible(line)), styles["text"], no_wrap=True)
            shown.truncate(max(self.query_one(Static).size.width, 1), overflow="ellipsis")
            text.append_text(shown).append("\n")

    def action_stop(self) -> None:
        """Stop opening; what is under way ends by itself, and nothing comes of it."""
        self.workers.cancel_node(self)
        self._answer(None)
