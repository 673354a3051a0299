"""The notes of ears only: where the listener was at each."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar

from rich.text import Text
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widget import Widget
from textual.widgets import Static

from murvel.reader.session import ReadingSession
from murvel.text import visible
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import pieces, styled


class Notes(Dialog[None]):
    """What was noted, in order."""

    KEYS = (("Esc", "close"),)
    BINDINGS: ClassVar[list[BindingType]] = [("escape,q,enter", "dismiss", "Close")]

    def __init__(self, session: ReadingSession) -> None:
        super().__init__()
        self._session = session

    def body(self) -> Iterable[Widget]:
        """One long text."""
        styles = part_styles(self.app)
        text = Text()
        for number, note in enumerate(self._session.notes, 1):
            node = note.heard.node
            place = self._session.tree.place_words(node) if node is not None else "the page itself"
            text.append(f"{number}  ", styles["mark"])
            text.append(f"{visible(note.words)}\n   " if note.words else "", styles["strong"])
            text.append_text(styled(pieces(note.heard.utterance), styles))
            text.append(f"\n   on “{note.heard.move}”, {place}\n\n", styles["role"])
        scroll = VerticalScroll(Static(text))
        scroll.border_title = "Where you were at each note"
        yield scroll
