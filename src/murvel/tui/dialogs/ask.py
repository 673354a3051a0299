"""One line of text, asked for at the bottom of the screen."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Horizontal
from textual.widgets import Input, Label

from murvel.tui.dialogs.dialog import Dialog


class AskLine(Dialog[str | None]):
    """Asks for a line; answers with it, or with None where Escape was pressed.

    Args:
        label: what is asked for.
        hint: what is shown while nothing is typed.
        text: what stands there already.
    """

    DEFAULT_CSS = """
    AskLine { background: transparent; align: left bottom; }
    AskLine > Horizontal { dock: bottom; height: 2; background: $panel; border-top: solid $primary; padding: 0 1; }
    AskLine Label { color: $primary; padding-right: 1; }
    AskLine Input { border: none; height: 1; padding: 0; background: $panel; width: 1fr; }
    """

    BINDINGS: ClassVar[list[BindingType]] = [Binding("escape", "dismiss(None)", "Stay", show=False)]

    def __init__(self, label: str, hint: str, text: str = "") -> None:
        super().__init__()
        self._label = label
        self._hint = hint
        self._text = text

    def compose(self) -> ComposeResult:
        """A line to type in."""
        with Horizontal():
            yield Label(self._label)
            yield Input(self._text, placeholder=self._hint, select_on_focus=False)

    def on_input_submitted(self, event: Input.Submitted) -> None:
        """Answer with what was typed."""
        self.dismiss(event.value)
