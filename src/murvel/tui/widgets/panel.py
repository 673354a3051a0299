"""A panel of text that changes with every key: it is laid out by itself, and nothing around it is."""

from __future__ import annotations

from rich.console import RenderableType
from rich.style import Style
from textual import events
from textual.geometry import Size
from textual.scroll_view import ScrollView
from textual.strip import Strip


class TextPanel(ScrollView, can_focus=True):
    """Shows something, from its top; it scrolls where there is more than room."""

    def __init__(self) -> None:
        super().__init__()
        self.shown: RenderableType = ""
        self._lines: list[Strip] = []
        self._ground: Style | None = None
        """The panel's own style, None until a line is made after it has changed."""

    def show(self, what: RenderableType) -> None:
        """Show something in place of what was shown."""
        self.shown = what
        self._lay_out()
        if self.scroll_y:
            self.scroll_to(y=0, animate=False, force=True, immediate=True)

    def _lay_out(self) -> None:
        room = self.scrollable_content_region
        if room.width:
            console = self.app.console
            lines = console.render_lines(self.shown, console.options.update(width=room.width, height=None))
            self._lines = [Strip(line, room.width) for line in lines]
            # A panel that is not full keeps its size, so that the screen is not laid out again.
            self.virtual_size = Size(room.width, max(len(lines), room.height))
            self.refresh()

    def on_resize(self, event: events.Resize) -> None:
        """Fit what is shown into the new width."""
        self._lay_out()

    def notify_style_update(self) -> None:
        """Find the style anew once the theme or a state has changed it."""
        self._ground = None
        super().notify_style_update()

    def render_line(self, y: int) -> Strip:
        """Make one line."""
        at = y + self.scroll_offset.y
        style = self._ground = self._ground or self.rich_style
        if at >= len(self._lines):
            return Strip.blank(self.scrollable_content_region.width, style)
        return self._lines[at].apply_style(style)
