"""The notes of ears only: where the listener was at each."""

from __future__ import annotations

from typing import ClassVar

from rich.text import Text
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widgets import Static

from murvel.reader.session import ReadingSession
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.ears import notes_text
from murvel.tui.widgets.palette import part_styles


class Notes(Dialog[None]):
    """What was noted, in order."""

    DEFAULT_CSS = """
    Notes { align: center middle; background: $background 40%; }
    Notes > VerticalScroll { width: 90%; max-width: 110; height: auto; max-height: 80%; background: $panel;
                             border: round $primary; padding: 1 2; scrollbar-size-vertical: 1; }
    Notes Static { height: auto; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [("escape,q,enter", "dismiss", "Close")]

    def __init__(self, session: ReadingSession) -> None:
        super().__init__()
        self._session = session

    def compose(self) -> ComposeResult:
        """One long text."""
        styles = part_styles(self.app)
        text = notes_text(self._session, styles)
        scroll = VerticalScroll(Static(text), Static(Text("Esc closes", styles["faint"])))
        scroll.border_title = "Where you were at each note"
        yield scroll
