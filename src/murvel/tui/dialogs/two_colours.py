"""Two colours by hand: their contrast, and what would pass; either is moved until it does, and copied."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar

from rich.text import Text
from textual.binding import Binding, BindingType
from textual.containers import Horizontal, VerticalScroll
from textual.widget import Widget
from textual.widgets import Input, Label, Static

from murvel.checks.questions.colour_pair import judged, pair_lines
from murvel.css.values.colours import AA_TEXT, moved, nearest, parse_colour
from murvel.loading.errors import PageError
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import with_swatches

_STEP = 0.02
"""How far a key moves a colour in lightness of OKLCH."""

_HINT = "#1a2b3c, rgb(20 30 40) or teal"


class TwoColours(Dialog[None]):
    """Tells the contrast of two colours as they are typed.

    Args:
        colour, behind: what stands there at first; empty for nothing.
    """

    KEYS = (
        ("Tab", "the other"),
        ("↑ ↓", "lighter, darker"),
        ("Ctrl+N", "nearest that passes AA"),
        ("Ctrl+Y", "copy"),
        ("Esc", "close"),
    )
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape", "dismiss(None)", show=False),
        Binding("up", f"move({_STEP})", show=False, priority=True),
        Binding("down", f"move({-_STEP})", show=False, priority=True),
        Binding("ctrl+n", "nearest", show=False, priority=True),
        Binding("ctrl+y", "copy", show=False, priority=True),
    ]

    def __init__(self, colour: str = "", behind: str = "") -> None:
        super().__init__()
        self._colour, self._behind = colour, behind

    def body(self) -> Iterable[Widget]:
        """A line for each, and what is to be said of them."""
        with VerticalScroll() as scroll:
            scroll.border_title = "Contrast of two colours"
            scroll.can_focus = False
            with Horizontal():
                yield Label("Colour", markup=False)
                yield Input(self._colour, placeholder=_HINT, id="colour", select_on_focus=False)
            with Horizontal():
                yield Label("behind it", markup=False)
                yield Input(self._behind, placeholder=_HINT, id="behind", select_on_focus=False)
            yield Static(id="told")

    def on_input_changed(self) -> None:
        """Tell what the two are."""
        if self.is_asking:
            self._tell()

    def on_mount(self) -> None:
        """Tell what stands there at first."""
        self._tell()

    def _tell(self) -> None:
        styles = part_styles(self.app)
        texts = self._line("colour").value, self._line("behind").value
        if all(text.strip() for text in texts):
            try:
                told = with_swatches("\n".join(pair_lines(judged(*texts))), styles["plain"])
            except PageError as error:
                told = Text(str(error), styles["error"])
        else:
            told = Text("The contrast stands here once both colours are there.", styles["faint"])
        self.query_one("#told", Static).update(told)

    def _line(self, name: str) -> Input:
        return self.query_one(f"#{name}", Input)

    @property
    def _lines(self) -> tuple[Input, Input]:
        """The line that has the keys, and the other."""
        colour, behind = self._line("colour"), self._line("behind")
        return (behind, colour) if behind.has_focus else (colour, behind)

    def action_move(self, by: float) -> None:
        """Make the colour whose line has the keys lighter or darker."""
        line, _ = self._lines
        try:
            line.value = moved(parse_colour(line.value).colour, by).hex
        except PageError:
            self._tell()

    def action_nearest(self) -> None:
        """Take the nearest colour that passes for text."""
        line, other = self._lines
        try:
            found = nearest(parse_colour(line.value).colour, parse_colour(other.value).colour, AA_TEXT)
        except PageError:
            self._tell()
            return
        if found is not None:
            line.value = found.hex

    def action_copy(self) -> None:
        """Copy the colour whose line has the keys."""
        line, _ = self._lines
        self.app.copy_to_clipboard(line.value.strip())
        self.notify(f"Copied: {line.value.strip()}", timeout=3, markup=False)
