"""The names of lists, one of them shown, each with how many entries it has and what was noticed in it."""

from __future__ import annotations

from dataclasses import dataclass

from rich.text import Text
from textual import events
from textual.geometry import Size
from textual.message import Message
from textual.reactive import reactive
from textual.widget import Widget

from murvel.tui.widgets.palette import FAILS, NEEDS_EARS, part_styles

_GAP = 1
"""Cells between two names."""


@dataclass(frozen=True, slots=True)
class ListName:
    """A list by name.

    Attributes:
        name: its name.
        entries: how many entries it has; None until a browser has looked.
        fails: how many leads in it fail.
        needs_ears: how many leads in it a person has to judge.
    """

    name: str
    entries: int | None
    fails: int
    needs_ears: int


class ListNames(Widget):
    """The names in as many lines as they need; a click on one shows its list."""

    names: reactive[tuple[ListName, ...]] = reactive((), layout=True)
    at: reactive[int] = reactive(0)

    class Chosen(Message):
        """A name was clicked."""

        def __init__(self, at: int) -> None:
            self.at = at
            super().__init__()

    def _label(self, name: ListName, *, is_shown: bool) -> Text:
        styles = part_styles(self.app)
        text = Text(" ")
        text.append(
            name.name, f"{styles['strong']} underline" if is_shown else styles["plain" if name.entries else "faint"]
        )
        text.append(f" {'?' if name.entries is None else name.entries}", styles["role" if name.entries else "faint"])
        text.append(f" {FAILS}{name.fails}" if name.fails else "", styles["error"])
        text.append(f" {NEEDS_EARS}{name.needs_ears}" if name.needs_ears else "", styles["mark"])
        text.append(" ")
        if is_shown:
            text.stylize_before(styles["cursor"])
        return text

    def _lines(self, width: int) -> list[list[tuple[int, Text]]]:
        """Return the names by lines that fit a width."""
        lines: list[list[tuple[int, Text]]] = [[]]
        used = 0
        for at, name in enumerate(self.names):
            label = self._label(name, is_shown=at == self.at)
            if lines[-1] and used + label.cell_len > width:
                lines.append([])
                used = 0
            lines[-1].append((at, label))
            used += label.cell_len + _GAP
        return lines

    def get_content_height(self, container: Size, viewport: Size, width: int) -> int:
        """Return how many lines the names need."""
        return len(self._lines(width))

    def render(self) -> Text:
        """Return the names for the present width."""
        gap = Text(" " * _GAP)
        text = Text("\n").join(gap.join(label for _, label in line) for line in self._lines(self.content_size.width))
        text.no_wrap = True
        return text

    def on_click(self, event: events.Click) -> None:
        """Ask for the list that was clicked."""
        offset = event.get_content_offset(self)
        lines = self._lines(self.content_size.width)
        if offset is None or offset.y >= len(lines):
            return
        x = 0
        for at, label in lines[offset.y]:
            if x <= offset.x < x + label.cell_len:
                self.post_message(self.Chosen(at))
            x += label.cell_len + _GAP
