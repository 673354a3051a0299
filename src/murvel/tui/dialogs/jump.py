"""Which kind to jump to: the letters, shown after a bracket, until one is pressed."""

from __future__ import annotations

from collections.abc import Iterable

from rich.text import Text
from textual import events
from textual.widget import Widget
from textual.widgets import Static

from murvel.reader.moves.moves import Direction
from murvel.reader.readout.kinds import BY_LETTER, TARGETS, Kind
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import in_lines


class JumpLetters(Dialog[Kind | None]):
    """Waits for one key: a kind's letter answers with the kind, any other key with None."""

    KEYS = (("A letter", "jump"), ("Esc", "stay"))

    def __init__(self, direction: Direction) -> None:
        super().__init__()
        self._direction = direction

    def body(self) -> Iterable[Widget]:
        """One block of letters."""
        styles = part_styles(self.app)
        on = self._direction is Direction.FORWARD
        text = Text(f"{']' if on else '['}  jump {'on' if on else 'back'} to the {'next' if on else 'previous'}:  ")
        text.stylize(styles["strong"])
        levels = [kind for kind in TARGETS if kind.letter.isdigit()]
        for kind in TARGETS:
            if kind in levels[1:]:
                continue
            letter = f"{levels[0].letter}-{levels[-1].letter}" if kind is levels[0] else kind.letter
            words = "heading of that level" if kind is levels[0] else kind.singular
            text.append(f"{letter}\u00a0", styles["mark"])
            text.append(words.replace(" ", "\u00a0") + "   ", styles["plain"])
        yield Static(in_lines(text, self.app.size.width - 2))

    def on_key(self, event: events.Key) -> None:
        """Take the key, whichever it is."""
        event.stop()
        event.prevent_default()
        self.dismiss(BY_LETTER.get(event.character or ""))
