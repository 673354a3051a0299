"""One line of text, asked for at the bottom of the screen."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import ClassVar

from textual.binding import Binding, BindingType
from textual.containers import Horizontal
from textual.timer import Timer
from textual.widget import Widget
from textual.widgets import Input, Label

from murvel.tui.dialogs.dialog import Dialog

_A_MOMENT = 0.15
"""Seconds without a key until the typed text is passed on."""


class AskLine(Dialog[str | None]):
    """Asks for a line; answers with it, or with None if Escape was pressed.

    Args:
        label: what is asked for.
        hint: what is shown while nothing is typed.
        text: what stands there already.
        tell: what there is to say of the text that is typed, shown beside it; None for nothing.
    """

    KEYS = (("Enter", "take it"), ("Esc", "leave it"))
    BINDINGS: ClassVar[list[BindingType]] = [Binding("escape", "dismiss(None)", "Leave it", show=False)]

    def __init__(self, label: str, hint: str, text: str = "", tell: Callable[[str], str] | None = None) -> None:
        super().__init__()
        self._label = label
        self._hint = hint
        self._text = text
        self._tell = tell
        self._timer: Timer | None = None

    def body(self) -> Iterable[Widget]:
        """A line to type in."""
        with Horizontal():
            yield Label(self._label, markup=False)
            yield Input(self._text, placeholder=self._hint, select_on_focus=False)
            yield Label("", id="told", markup=False)

    def on_input_changed(self, event: Input.Changed) -> None:
        """Tell of the text once typing pauses, so that no key waits for it."""
        if self._timer is not None:
            self._timer.stop()
        self._timer = self.set_timer(_A_MOMENT, self._tell_of_text) if self._tell is not None else None

    def _tell_of_text(self) -> None:
        if self._tell is not None and self.is_asking:
            self.query_one("#told", Label).update(self._tell(self.query_one(Input).value))

    def on_input_submitted(self, event: Input.Submitted) -> None:
        """Answer with what was typed."""
        self.dismiss(event.value)
