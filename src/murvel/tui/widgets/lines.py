"""The top line, which says where one is, and the bottom lines, which say what happened and which keys matter."""

from __future__ import annotations

from rich.cells import cell_len
from rich.text import Text
from textual.widgets import Static

from murvel.page.text import visible
from murvel.reader.moves import Mode
from murvel.reader.timing import clock
from murvel.tui.actions import Where, key_line
from murvel.tui.widgets.palette import part_styles
from murvel.work.work import Work

_TITLE = 30
"""Cells that are kept for the page's title and the program's name, where there is room."""


class TopLine(Static):
    """Page, take, mode, voice, the cursor's place in listening time; and the views."""

    DEFAULT_CSS = "TopLine { dock: top; height: 1; background: $panel; padding: 0 1; }"

    def show_work(self, work: Work, view: Where, defects: int) -> None:
        """Show the state of the work."""
        styles = part_styles(self.app)
        session = work.session
        views = Text()
        for key, where, words in (
            ("1", Where.LISTEN, "Listen"),
            ("2", Where.SURVEY, "Survey"),
            ("3", Where.KEYBOARD, "Keyboard"),
            ("4", Where.LIVE, "Live"),
            ("5", Where.DEFECTS, f"Defects ({defects})"),
        ):
            current = where is view
            views.append(f" {key} ", styles["mark"])
            views.append(f"{words} ", f"{styles['strong']} underline" if current else styles["role"])
        facts = [
            f"{session.mode.value} mode",
            f"{clock(session.time)} of {clock(session.spoken.total)}",
            session.voice.name,
            f"take {work.take.number}",
        ]
        while len(facts) > 2 and views.cell_len + sum(len(fact) + 3 for fact in facts) + _TITLE > self.size.width:
            facts.pop()  # on a narrow screen the least needed goes first
        room = max(10, self.size.width - 2 - views.cell_len - sum(len(fact) + 3 for fact in facts) - 9)
        title = Text(visible(work.page.title or work.page.address), styles["strong"])
        title.truncate(room, overflow="ellipsis")
        line = Text("Murvel ", styles["mark"])
        line.append_text(title)
        line.append("".join(f" │ {fact}" for fact in facts), styles["role"])
        line.pad_right(max(1, self.size.width - 2 - line.cell_len - views.cell_len))
        line.append_text(views)
        line.no_wrap = True
        self.update(line, layout=False)


class MessageLine(Static):
    """What happened last: kept, taken back, not possible and why."""

    DEFAULT_CSS = "MessageLine { height: 1; padding: 0 1; background: $background; }"

    def say(self, message: str, *, error: bool = False) -> None:
        """Show a message, an error with a sign of its own."""
        styles = part_styles(self.app)
        text = Text(no_wrap=True, overflow="ellipsis")
        if message:
            text.append("! " if error else "", styles["error"])
            text.append(visible(message), styles["error" if error else "state"])
        self.update(text, layout=False)


_FOCUS_KEYS = [
    ("Typing", "goes to the page"),
    ("↓ ↑", "change the value"),
    ("Enter", "to the page"),
    ("Tab", "next stop"),
    ("Esc", "back to browse mode"),
]


class KeyLine(Static):
    """The keys that matter now."""

    DEFAULT_CSS = "KeyLine { height: 1; background: $panel; padding: 0 1; }"

    def show_view(self, view: Where, mode: Mode) -> None:
        """Show the keys of a view; where keys go to the page, how to get them back."""
        styles = part_styles(self.app)
        line = Text(no_wrap=True, overflow="ellipsis")
        keys = _FOCUS_KEYS if view is Where.LISTEN and mode is Mode.FOCUS else key_line(view)
        keys = list(keys)
        while len(keys) > 2 and sum(cell_len(f"{key} {words}   ") for key, words in keys) > self.size.width + 1:
            keys.pop(-3)  # what stands before help and quit, which tell of all others
        for key, words in keys:
            line.append(f"{key} ", styles["mark"])
            line.append(f"{words}   ", styles["role"])
        self.update(line, layout=False)
