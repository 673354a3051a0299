"""The Listen view: the readout, and beside it what is known of the place and what was heard."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical
from textual.widget import Widget

from murvel.reader.moves.moves import Heard
from murvel.tui.actions import Action, bindings
from murvel.tui.dialogs.notes import Notes
from murvel.tui.views.reading import READING_ACTIONS, ReadingView
from murvel.tui.views.view import Happened, ToFront, View
from murvel.tui.widgets.heard import HeardLog
from murvel.tui.widgets.here import Here
from murvel.tui.widgets.readout import ReadoutView

_OWN_ACTIONS = (
    Action("listen", "ears", "ears", "E", "Ears only: hide the page"),
    Action("listen", "notes", "notes", "i", "Show the notes that were made in ears only", is_at_once=True),
    Action("listen", "pick", "pick_heard", "h", "Pick an earlier announcement in Heard"),
    Action("listen", "entry", "back_to_entry", "b,backspace", "Go back to the survey's entry"),
)


class ListenView(ReadingView):
    """The Listen view: the readout, and beside it Here and Heard."""

    NAME = "listen"
    TITLE = "Listen"
    ABOUT = "the page as it is heard"
    ACTIONS: ClassVar[tuple[Action, ...]] = (*READING_ACTIONS, *_OWN_ACTIONS)
    BINDINGS: ClassVar[list[BindingType]] = bindings(_OWN_ACTIONS)

    def compose(self) -> ComposeResult:
        """The readout on the left, the facts and the log on the right."""
        yield ReadoutView(self.work.session).data_bind(moment=View.drawn)
        with Vertical():
            yield Here(self.work).data_bind(moment=View.drawn)
            yield HeardLog(self.work.session).data_bind(moment=View.drawn)

    @property
    def for_keys(self) -> Widget:
        """The readout."""
        return self.query_one(ReadoutView)

    def screenful(self) -> int:
        """Return how many items a screenful holds."""
        return self.query_one(ReadoutView).screenful()

    def on_readout_view_chosen(self, message: ReadoutView.Chosen) -> None:
        """Go to the item that was clicked; activate what is there at a double click."""
        self.go_to_item(message.item)
        if message.is_double:
            self.action_command("enter")

    @property
    def picked(self) -> Heard | None:
        """The announcement that is picked in Heard, None if Heard has not the keys."""
        heard = self.query_one(HeardLog)
        return heard.picked() if heard.has_focus else None

    def action_pick_heard(self) -> None:
        """Give the keys to Heard, to pick an entry; Escape gives them back."""
        self.query_one(HeardLog).focus()
        self.post_message(Happened("The arrows pick an announcement. d documents it, y copies it, Esc goes back."))

    def action_escape(self) -> None:
        """Give the keys back to the readout; from there, Escape goes to the page."""
        if self.for_keys.has_focus:
            super().action_escape()
        else:
            self.for_keys.focus()
            self.post_message(Happened())

    def action_ears(self) -> None:
        """Hide the page."""
        self.post_message(ToFront("ears", "The page is hidden. i notes what puzzles you, E shows the page again."))

    def action_notes(self) -> None:
        """Show the notes that were made while the page was hidden."""
        if self.work.session.notes:
            self.app.push_screen(Notes(self.work.session))
        else:
            self.post_message(Happened("There are no notes yet. They are made in ears only (E)."))

    def action_back_to_entry(self) -> None:
        """Show the survey where one left it."""
        self.post_message(ToFront("survey"))
