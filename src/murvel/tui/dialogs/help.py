"""The help: every key, from the table of actions."""

from __future__ import annotations

from typing import ClassVar

from rich.text import Text
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import VerticalScroll
from textual.widgets import Static

from murvel.reader.kinds import TARGETS
from murvel.tui.actions import ACTIONS, Where
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.palette import part_styles

_KEY_WIDTH = 12

_SIGNS = (
    ("►", "the cursor: where reading stands"),
    ("◆", "the focus: where the keyboard stands"),
    ("│", "a rail: a landmark, list or group around the item"),
    ("0:12", "the second of listening at which the item comes"),
)


class Help(Dialog[None]):
    """All keys and signs."""

    DEFAULT_CSS = """
    Help { align: center middle; background: $background 60%; }
    Help > VerticalScroll { width: 78; max-width: 100%; height: 90%; background: $surface; border: round $primary;
                            border-title-color: $primary; padding: 0 2; scrollbar-size-vertical: 1; }
    """

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape,question_mark,f1,q,enter", "dismiss(None)", "Close", show=False)
    ]

    def compose(self) -> ComposeResult:
        """One long text."""
        styles = part_styles(self.app)
        text = Text()

        def group(title: str, rows: list[tuple[str, str]]) -> None:
            text.append(f"\n{title}\n", styles["strong"])
            for key, words in rows:
                text.append(f"  {key:<{_KEY_WIDTH}}", styles["mark"])
                text.append(f"{words}\n", styles["plain"])

        for where in Where:
            group(where.value, [(action.shown, action.words) for action in ACTIONS if action.where is where])
        group("Letters after ] and [", [(kind.letter, kind.singular) for kind in TARGETS])
        group("Signs", list(_SIGNS))
        body = VerticalScroll(Static(text))
        body.border_title = "Help: Esc closes it"
        yield body
