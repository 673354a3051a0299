"""Which text to find."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Horizontal
from textual.screen import ModalScreen
from textual.widgets import Input, Label


class FindText(ModalScreen[str | None]):
    """Asks for text; answers with it, or with None."""

    DEFAULT_CSS = """
    FindText { background: transparent; align: left bottom; }
    FindText > Horizontal { dock: bottom; height: 2; background: $panel; border-top: solid $primary; padding: 0 1; }
    FindText Label { color: $primary; padding-right: 1; }
    FindText Input { border: none; height: 1; padding: 0; background: $panel; width: 1fr; }
    """

    BINDINGS: ClassVar[list[BindingType]] = [Binding("escape", "dismiss(None)", "Stay", show=False)]

    def compose(self) -> ComposeResult:
        """A line to type in."""
        with Horizontal():
            yield Label("Find in what is heard:")
            yield Input(placeholder="words, then Enter; n and N find them again")

    def on_input_submitted(self, event: Input.Submitted) -> None:
        """Answer with what was typed."""
        self.dismiss(event.value)
