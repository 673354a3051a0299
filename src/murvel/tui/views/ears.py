"""Ears only: the page is hidden, what was heard last stands alone."""

from __future__ import annotations

from typing import ClassVar

from rich.align import Align
from rich.console import Group
from rich.text import Text
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.widget import Widget
from textual.widgets import Static

from murvel.reader.speech.timing import clock
from murvel.text import counted, visible
from murvel.tui.actions import Action, bindings
from murvel.tui.dialogs.ask import AskLine
from murvel.tui.dialogs.notes import Notes
from murvel.tui.views.reading import READING_ACTIONS, ReadingView
from murvel.tui.views.view import Happened, ToFront
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import pieces, styled

_OWN_ACTIONS = (
    Action("ears", "show", "show_page", "E", "Show the page again, and where you were at each note", "show the page"),
    Action("ears", "note", "note", "i", "Note, in words, what puzzles you", "note", is_at_once=True),
    Action("ears", "note-typing", "note_while_typing", "f2", "Note while typing into the page", is_at_once=True),
)


class EarsView(ReadingView):
    """The last utterance, without a trace of the page around it."""

    NAME = "ears"
    TITLE = "Ears only"
    ABOUT = "what is heard, with the page hidden"
    ACTIONS: ClassVar[tuple[Action, ...]] = (*_OWN_ACTIONS, *READING_ACTIONS)
    BINDINGS: ClassVar[list[BindingType]] = bindings(_OWN_ACTIONS)

    def compose(self) -> ComposeResult:
        """One text in the middle."""
        heard = Static()
        heard.can_focus = True
        yield heard

    @property
    def for_keys(self) -> Widget:
        """The text."""
        return self.query_one(Static)

    def watch_drawn(self) -> None:
        """Show what was heard last, and how many notes there are."""
        styles = part_styles(self.app)
        session = self.work.session
        heard = styled(pieces(session.log[-1].utterance), styles) if session.log else Text("")
        move = Text(session.log[-1].move if session.log else "", styles["faint"])
        told = Text(visible(session.log[-1].notice) if session.log else "", styles["notice"])
        notes = counted(len(session.notes), "note", "notes")
        state = Text(f"{clock(session.clock)}   {notes}", styles["faint"])
        lines = Group(*(Align.center(each) for each in (move, Text(""), heard, told, Text(""), state)))
        self.query_one(Static).update(lines)

    def action_note(self) -> None:
        """Ask for words and keep them with what was heard last."""

        def keep(words: str | None) -> None:
            if words is not None:
                number = self.work.note(" ".join(words.split()))
                self.post_message(Happened(f"Note {number} is kept."))

        self.app.push_screen(AskLine("Note:", "what puzzles you; Enter alone keeps the place"), keep)

    def action_note_while_typing(self) -> None:
        """Ask for words, also where letters are typed into the page."""
        self.action_note()

    def action_show_page(self) -> None:
        """Show the page again, and where the listener was at each note."""
        self.post_message(ToFront("listen"))
        if self.work.session.notes:
            self.app.push_screen(Notes(self.work.session))
