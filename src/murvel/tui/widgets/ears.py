"""Ears only: the page is hidden, what was heard last stands alone."""

from __future__ import annotations

from typing import ClassVar

from rich.align import Align
from rich.console import Group
from rich.text import Text
from textual.binding import BindingType
from textual.widgets import Static

from murvel.reader.session import ReadingSession
from murvel.reader.timing import clock
from murvel.tui.actions import Where, bindings
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import pieces, styled


class EarsView(Static, can_focus=True):
    """The last utterance, without a trace of the page around it."""

    DEFAULT_CSS = "EarsView { background: $background; padding: 2 8; height: 1fr; content-align: center middle; }"
    BINDINGS: ClassVar[list[BindingType]] = bindings(Where.LISTEN)

    def __init__(self, session: ReadingSession, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self.session = session

    def show_session(self) -> None:
        """Show what was heard last, and what live regions said with it."""
        styles = part_styles(self.app)
        log = self.session.log
        heard = styled(pieces(log[-1].utterance), styles) if log else Text("")
        move = Text(log[-1].move if log else "", styles["faint"])
        notes = len(self.session.notes)
        words = "no note yet" if not notes else f"{notes} notes" if notes > 1 else "1 note"
        state = Text(f"{clock(self.session.clock)}   {words}", styles["faint"])
        self.update(Group(*(Align.center(each) for each in (move, Text(""), heard, Text(""), state))))


def notes_text(session: ReadingSession, styles: dict[str, str]) -> Text:
    """Return where the listener was at each note: what was heard, and where that stands in the page."""
    text = Text()
    for number, entry in enumerate(session.notes, 1):
        text.append(f"{number}  ", styles["mark"])
        text.append_text(styled(pieces(entry.utterance), styles))
        place = session.tree.place_words(entry.node) if entry.node is not None else "the page itself"
        text.append(f"\n   on “{entry.move}”, {place}\n\n", styles["role"])
    return text
