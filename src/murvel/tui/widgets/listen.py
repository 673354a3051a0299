"""The Listen view: the readout, and beside it what is known of the place and what was heard."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical
from textual.widget import Widget

from murvel.tui.actions import Where, bindings
from murvel.tui.widgets.heard import HeardLog
from murvel.tui.widgets.here import Here
from murvel.tui.widgets.readout import ReadoutView
from murvel.work.work import Work


class ListenView(Horizontal):
    """The Listen view: the readout, and beside it Here and Heard."""

    DEFAULT_CSS = """
    ListenView > ReadoutView { width: 1fr; }
    ListenView > Vertical { width: 38%; min-width: 38; max-width: 64; }
    """

    BINDINGS: ClassVar[list[BindingType]] = bindings(Where.LISTEN)

    def __init__(self, work: Work, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self.work = work

    def compose(self) -> ComposeResult:
        """The stage on the left, the facts and the log on the right."""
        yield ReadoutView(self.work.session)
        with Vertical():
            yield Here(self.work)
            yield HeardLog(self.work.session)

    @property
    def for_keys(self) -> Widget:
        """The readout."""
        return self.query_one(ReadoutView)

    def show_now(self) -> None:
        """Show where the session stands now."""
        self.query_one(ReadoutView).show_session()
        self.query_one(Here).show_session()
        self.query_one(HeardLog).show_session()
