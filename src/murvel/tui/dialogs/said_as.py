"""How each voice says what is at the cursor, one below the other."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import ClassVar

from rich.text import Text
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widget import Widget
from textual.widgets import Static

from murvel.reader.speech.utterance import Utterance
from murvel.reader.speech.voice import Voice
from murvel.text import visible
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import facts_table, pieces, styled

_LABEL_WIDTH = 16


class SaidAs(Dialog[None]):
    """A table of voices with what each says; what differs between them is no defect of the page by itself."""

    KEYS = (("Esc", "close"),)
    BINDINGS: ClassVar[list[BindingType]] = [("escape,q,V", "dismiss", "Close")]

    def __init__(self, said: Sequence[tuple[Voice, Utterance, float]]) -> None:
        super().__init__()
        self._said = said

    def body(self) -> Iterable[Widget]:
        """The voices, and what to make of their differences."""
        styles = part_styles(self.app)
        rows: list[tuple[str, Text]] = []
        for voice, utterance, lasts in self._said:
            text = styled(pieces(utterance), styles)
            text.append(f"   {lasts:.1f} s", styles["faint"])
            rows.append((visible(voice.title), text))
            rows.append(("", Text("")))
        scroll = VerticalScroll()
        scroll.border_title = "Said as"
        with scroll:
            yield Static(facts_table(rows, styles["faint"], _LABEL_WIDTH))
            note = "What differs between voices is a listener's choice; only what is missing in all is the page's."
            yield Static(Text(note, styles["faint"]))
