"""A list of one-line rows, made only where they are visible; and what stands beside it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import ClassVar, Generic, TypeVar

from rich.text import Text
from textual import events
from textual.binding import Binding, BindingType
from textual.containers import Horizontal
from textual.geometry import Size
from textual.message import Message
from textual.scroll_view import ScrollView
from textual.strip import Strip

T = TypeVar("T")


_ROOM_FOR_TWO = 104
"""A list that is wider, in cells, has room for something beside it."""

_PICKED = "► "
"""Stands before the row that is picked."""


class Rows(ScrollView, Generic[T], can_focus=True, inherit_bindings=False):
    """Rows of anything, one of them picked.

    Args:
        draw: makes the line of a row, for a width in cells.
        can_pick: whether a row can be picked; headings of groups cannot.
    """

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("down,j", "step(1)", "Next", show=False),
        Binding("up,k", "step(-1)", "Previous", show=False),
        Binding("pagedown", "page(1)", "A screenful down", show=False),
        Binding("pageup", "page(-1)", "A screenful up", show=False),
        Binding("home,g", "edge(0)", "First", show=False),
        Binding("end,G", "edge(-1)", "Last", show=False),
    ]

    class Picked(Message):
        """Another row is picked."""

    class Chosen(Message):
        """A row was clicked twice."""

    class Marked(Message):
        """The first cell of a row was clicked, where a list has its marks."""

    def __init__(
        self,
        draw: Callable[[T, int], Text],
        can_pick: Callable[[T], bool] = lambda _: True,
        *,
        id: str | None = None,
    ) -> None:
        super().__init__(id=id)
        self._draw = draw
        self._can_pick = can_pick
        self.rows: Sequence[T] = ()
        self.at = 0

    @property
    def picked(self) -> T | None:
        """The row that is picked, None if there are none."""
        return self.rows[self.at] if 0 <= self.at < len(self.rows) else None

    def show_rows(self, rows: Sequence[T], at: int) -> None:
        """Show these rows, and pick one."""
        self.rows = rows
        self.virtual_size = Size(self.scrollable_content_region.width, len(rows))
        self._pick(at, tell=False)
        self.refresh()

    def _pick(self, at: int, *, tell: bool = True) -> None:
        self.at = self._nearest(max(0, min(at, len(self.rows) - 1)))
        top, room = self.scroll_offset.y, self.scrollable_content_region.height
        if self.at < top or self.at >= top + room:
            self.scroll_to(y=max(0, self.at - room // 2), animate=False, force=True)
        self.refresh()
        if tell:
            self.post_message(self.Picked())

    def _nearest(self, at: int) -> int:
        """The nearest row that can be picked: on the way one goes, else on the way back."""
        on, back = range(at, len(self.rows)), range(min(at, len(self.rows) - 1), -1, -1)
        for way in (back, on) if at < self.at else (on, back):
            for each in way:
                if self._can_pick(self.rows[each]):
                    return each
        return at

    def render_line(self, y: int) -> Strip:
        """Make one line."""
        width = self.scrollable_content_region.width
        index = y + self.scroll_offset.y
        if index >= len(self.rows):
            return Strip.blank(width, self.rich_style)
        text = Text(_PICKED if index == self.at else " " * len(_PICKED), no_wrap=True)
        text.append_text(self._draw(self.rows[index], width - len(_PICKED)))
        text.truncate(width, overflow="ellipsis", pad=True)
        if index == self.at:
            variables = self.app.theme_variables
            ground = "block-cursor-background" if self.has_focus else "block-cursor-blurred-background"
            text.stylize_before(f"on {variables[ground]}")
        return Strip(text.render(self.app.console), width).apply_style(self.rich_style)

    def on_focus(self) -> None:
        """Show the picked row as such."""
        self.refresh()

    def on_blur(self) -> None:
        """Show that the keys are elsewhere."""
        self.refresh()

    def on_resize(self, event: events.Resize) -> None:
        """Keep the picked row in sight."""
        self.virtual_size = Size(self.scrollable_content_region.width, len(self.rows))
        self._pick(self.at, tell=False)

    def on_click(self, event: events.Click) -> None:
        """Pick what is clicked; choose what is clicked twice."""
        offset = event.get_content_offset(self)
        if offset is not None and offset.y + self.scroll_offset.y < len(self.rows):
            self._pick(offset.y + self.scroll_offset.y)
            if offset.x in (len(_PICKED), len(_PICKED) + 1):
                self.post_message(self.Marked())
            elif event.chain == 2:
                self.post_message(self.Chosen())

    def action_step(self, by: int) -> None:
        """Pick the next or previous row."""
        self._pick(self.at + by)

    def action_page(self, by: int) -> None:
        """Pick a row a screenful away."""
        self._pick(self.at + by * max(1, self.scrollable_content_region.height - 1))

    def action_edge(self, at: int) -> None:
        """Pick the first or last row."""
        self._pick(at if at >= 0 else len(self.rows) - 1)


class Beside(Horizontal):
    """A list, and beside it the whole of the one that is picked, which scrolls; below it where there is little room."""

    def on_resize(self, event: events.Resize) -> None:
        """Stand one above the other where there is no room beside."""
        self.set_class(event.size.width < _ROOM_FOR_TWO, "-stacked")
