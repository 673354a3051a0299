"""A list under a line to search in: typing leaves out what has not the words, Enter answers with what is picked."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import ClassVar, Generic, TypeVar

from rich.console import RenderableType
from rich.text import Text
from textual.binding import Binding, BindingType
from textual.containers import Vertical
from textual.suggester import Suggester
from textual.widget import Widget
from textual.widgets import Input
from textual.widgets.option_list import Option

from murvel.tui.dialogs.dialog import Dialog, arrow_bindings
from murvel.tui.widgets.options import Options
from murvel.tui.widgets.palette import part_styles

T = TypeVar("T")

Rows = Sequence[tuple[T, RenderableType]]
"""What can be picked, each with how it is drawn."""


class Searched(Dialog[T | None], Generic[T]):
    """Answers with what was picked, with None if Escape was pressed.

    A subclass says what is found for some words.
    """

    TITLE_OF_FRAME: ClassVar[str]
    HINT: ClassVar[str]
    """What the line shows while nothing is typed."""

    NOTHING: ClassVar[str] = ""
    """What stands in the list where nothing has the words; empty for nothing."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape", "dismiss(None)", "Close", show=False),
        *arrow_bindings("pick", "cursor_down", "cursor_up", "page_down", "page_up"),
    ]

    suggester: Suggester | None = None
    """What completes the typed text, None for nothing."""

    def __init__(self) -> None:
        super().__init__()
        self._listed: list[T | None] = []

    def found(self, words: list[str], styles: dict[str, str]) -> Iterable[tuple[str, Rows[T]]]:
        """Return groups of what has all of some words (in small letters), each with its title."""
        return ()

    def body(self) -> Iterable[Widget]:
        """The line and the list; the line has the keys."""
        with Vertical() as frame:
            frame.border_title = self.TITLE_OF_FRAME
            yield Input(placeholder=self.HINT, suggester=self.suggester)
            listed = Options()
            listed.can_focus = False
            yield listed

    def on_mount(self) -> None:
        """List all."""
        self._list("")

    def on_input_changed(self, event: Input.Changed) -> None:
        """List what has the words."""
        if self.is_asking:
            self._list(event.value)

    def _list(self, text: str) -> None:
        styles = part_styles(self.app)
        listed = self.query_one(Options)
        options: list[Option] = []
        self._listed = []
        for title, rows in self.found(text.casefold().split(), styles):
            if rows:
                options += [Option(Text(title, styles["mark"]), disabled=True), *(Option(drawn) for _, drawn in rows)]
                self._listed += [None, *(each for each, _ in rows)]
        if self.NOTHING and not options:
            options, self._listed = [Option(Text(self.NOTHING, styles["faint"]), disabled=True)], [None]
        listed.clear_options()
        listed.add_options(options)
        listed.highlighted = self.first_picked(text)
        listed.scroll_home(animate=False)

    def first_picked(self, text: str) -> int | None:
        """Return which row is picked as soon as a text is typed: the first that can be, None for none."""
        return next((at for at, each in enumerate(self._listed) if each is not None), None)

    @property
    def picked(self) -> T | None:
        """What is picked, None if nothing is."""
        at = self.query_one(Options).highlighted
        return self._listed[at] if at is not None else None

    def action_pick(self, how: str) -> None:
        """Pick another one."""
        if self.is_asking:
            getattr(self.query_one(Options), f"action_{how}")()

    def on_input_submitted(self, event: Input.Submitted) -> None:
        """Answer with what is picked."""
        if self.is_asking:
            self.dismiss(self.picked)

    def on_option_list_option_selected(self, event: Options.OptionSelected) -> None:
        """Answer with what was clicked."""
        self.dismiss(self._listed[event.option_index])
