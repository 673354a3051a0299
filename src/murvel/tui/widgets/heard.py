"""Heard: the running log of what was announced, numbered, the newest at the bottom."""

from __future__ import annotations

from rich.console import Group
from rich.padding import Padding
from rich.text import Text
from textual.geometry import Size
from textual.reactive import reactive, var
from textual.widgets.option_list import Option

from murvel.reader.moves.moves import Heard
from murvel.reader.session import ReadingSession
from murvel.text import visible
from murvel.tui.widgets.options import Options
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import pieces, styled

KEPT = 300
"""How many entries are shown; the session's log holds all."""


class HeardLog(Options):
    """The log. An entry can be picked and turned into a defect's evidence."""

    moment: var[int] = var(-1, init=False)
    """How often something has happened to the work."""

    virtual_size = reactive(Size(0, 0))
    """An entry more moves the scroll bar; the screen is laid out again only where the bar comes or goes."""

    def __init__(self, session: ReadingSession) -> None:
        super().__init__()
        self.session = session
        self.border_title = "Heard"
        self._shown = 0

    def on_mount(self) -> None:
        """Follow the theme."""
        self.app.theme_changed_signal.subscribe(self, lambda _: self._again())

    def _again(self) -> None:
        self.clear_options()
        self._shown = 0
        self.watch_moment()

    def watch_moment(self) -> None:
        """Add what was heard since the last time, and stand at the newest."""
        log = self.session.log
        fresh = log[max(self._shown, len(log) - KEPT) :]
        self._shown = len(log)
        styles = part_styles(self.app)
        self.add_options([Option(_entry(entry, styles), id=str(entry.number)) for entry in fresh])
        while self.option_count > KEPT:
            self.remove_option_at_index(0)
        if self.option_count:
            self.highlighted = self.option_count - 1

    def picked(self) -> Heard | None:
        """Return the entry that is picked, None if there is none."""
        if self.highlighted is None:
            return None
        number = self.get_option_at_index(self.highlighted).id
        return self.session.log[int(number) - 1] if number else None


def _entry(entry: Heard, styles: dict[str, str]) -> Group:
    move = Text(f"{entry.number:>3} {visible(entry.move)}", styles["faint"])
    said = styled(pieces(entry.utterance), styles) if entry.utterance.parts else Text()
    if entry.notice:
        said.append(f"{' ' if said else ''}({visible(entry.notice)})", styles["notice"])
    return Group(move, Padding(said, (0, 0, 0, 4)))
