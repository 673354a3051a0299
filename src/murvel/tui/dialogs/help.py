"""The help: every key, those of the view in front first; typing filters them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import ClassVar

from rich.text import Text
from textual.binding import Binding, BindingType
from textual.containers import Vertical, VerticalScroll
from textual.widget import Widget
from textual.widgets import Input, Static

from murvel.reader.readout.kinds import TARGETS
from murvel.tui.actions import Keymap, keys_of
from murvel.tui.dialogs.actions import Group
from murvel.tui.dialogs.dialog import Dialog, arrow_bindings
from murvel.tui.widgets.palette import FAILS, NEEDS_EARS, part_styles

_KEY_WIDTH = 16
_WORDS_WIDTH = 52

_WITH_NAMES = 108
"""The width of a terminal from which on the names of actions are shown beside their words."""

_SIGNS = (
    ("►", "the cursor: where reading stands"),
    ("◆", "the focus: where the keyboard stands"),
    ("│", "a rail: a landmark, list or group around the item"),
    ("0:12", "the second of listening at which the item comes"),
    ("▒ no name ▒", "a name is missing: nothing is heard there"),
    (FAILS, "a lead that fails"),
    (NEEDS_EARS, "a lead that a person has to judge"),
)


class Help(Dialog[None]):
    """All keys and signs.

    Args:
        groups: the actions, the group of the view in front first.
        keymap: the keys a person chose.
        settings: the file in which keys are chosen, in words.
    """

    KEYS = (("Typing", "filters"), ("↓ ↑ PgDn PgUp", "scroll"), ("Esc", "close"))
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape,f1,enter", "dismiss(None)", "Close", show=False),
        *arrow_bindings("scroll", "scroll_down", "scroll_up", "scroll_page_down", "scroll_page_up"),
    ]

    def __init__(self, groups: Sequence[Group], keymap: Keymap, settings: str) -> None:
        super().__init__()
        self._settings = settings
        self._rows: list[tuple[str, list[tuple[str, str, str]]]] = [
            (group.title, [(" ".join(keys_of(each, keymap)), each.words, each.id) for each in group.actions])
            for group in groups
        ]
        self._rows.append(("Letters after ] and [", [(kind.letter, kind.singular, "") for kind in TARGETS]))
        self._rows.append(("Signs", [(sign, words, "") for sign, words in _SIGNS]))

    def body(self) -> Iterable[Widget]:
        """A line to filter by, and one long text."""
        with Vertical() as frame:
            frame.border_title = "Help"
            yield Input(placeholder="show only keys with these words")
            with VerticalScroll(can_focus=False):
                yield Static()

    def on_mount(self) -> None:
        """Show all."""
        self._show("")

    def on_input_changed(self, event: Input.Changed) -> None:
        """Show the keys that have the words."""
        if self.is_asking:
            self._show(event.value)

    def on_input_submitted(self) -> None:
        """Close."""
        self.dismiss(None)

    def _show(self, words: str) -> None:
        styles = part_styles(self.app)
        wanted = words.casefold().split()
        has_room = self.app.size.width >= _WITH_NAMES
        text = Text(no_wrap=True, overflow="ellipsis")
        for title, rows in self._rows:
            found = [row for row in rows if all(word in f"{title} {' '.join(row)}".casefold() for word in wanted)]
            if found:
                text.append(f"{title}\n", styles["strong"])
            for key, about, name in found:
                text.append(f"  {key:<{_KEY_WIDTH}}", styles["mark"])
                text.append(f"{about:<{_WORDS_WIDTH}}" if has_room else about, styles["plain"])
                text.append(f"  {name}\n" if has_room else "\n", styles["faint"])
            if found:
                text.append("\n")
        if not text:
            text.append("No key has these words.\n\n", styles["role"])
        text.append(f"Keys can be chosen in {self._settings}, by the names that murvel keys lists.", styles["faint"])
        self.query_one(Static).update(text)

    def action_scroll(self, how: str) -> None:
        """Scroll the text."""
        if self.is_asking:
            getattr(self.query_one(VerticalScroll), how)(animate=False)
