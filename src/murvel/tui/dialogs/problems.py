"""What of a page could not be honoured: each problem in full."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import ClassVar

from rich.padding import Padding
from rich.text import Text
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widget import Widget
from textual.widgets import Static

from murvel.text import visible
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.palette import part_styles


class Problems(Dialog[None]):
    """The problems, a sentence each.

    Args:
        problems: the sentences.
    """

    KEYS = (("Esc", "close"),)
    BINDINGS: ClassVar[list[BindingType]] = [("escape,q,enter", "dismiss", "Close")]

    def __init__(self, problems: Sequence[str]) -> None:
        super().__init__()
        self._problems = problems

    def body(self) -> Iterable[Widget]:
        """One text for each."""
        styles = part_styles(self.app)
        with VerticalScroll() as scroll:
            scroll.border_title = "Not all of the page could be read"
            for problem in self._problems:
                yield Static(Padding(Text(visible(problem), styles["plain"]), (0, 0, 1, 0)))
