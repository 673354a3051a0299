"""The top line, which says where one is, and the bottom lines, which say what happened and which keys matter.

Each line is drawn for the width it has at that moment.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from rich.cells import cell_len
from rich.text import Text
from textual import events
from textual.message import Message
from textual.reactive import reactive
from textual.widget import Widget

from murvel.text import visible
from murvel.tui.widgets.palette import part_styles

_PROGRAM = "Murvel "
_TITLE = 9
"""Cells that are kept for the page's title; a longer one is cut there at the latest."""
_FACTS_BEFORE_NAME = 2
"""How many facts matter more than the program's name."""
_BETWEEN = " │ "


@dataclass(frozen=True, slots=True)
class Tab:
    """A view's name in the top line.

    Attributes:
        view: what it brings to the front.
        key: the key that does the same.
        words: its name, with a count where it has one.
    """

    view: str
    key: str
    words: str


class TopLine(Widget):
    """The page and the state of its reading on the left, the views on the right; a click on a view shows it."""

    title: reactive[str] = reactive("")
    """What is open."""
    facts: reactive[tuple[str, ...]] = reactive(())
    """The state of the reading, what matters most first; where there is no room, the last ones are left out."""
    tabs: reactive[tuple[Tab, ...]] = reactive(())
    """The views."""
    front: reactive[str] = reactive("")
    """The view in front."""

    class Chosen(Message):
        """A view was clicked."""

        def __init__(self, view: str) -> None:
            self.view = view
            super().__init__()

    def render(self) -> Text:
        """Return the line for the present width."""
        styles = part_styles(self.app)
        width = self.content_size.width
        names = self._names(width)
        tabs = Text()
        for tab, words in zip(self.tabs, names, strict=True):
            style = f"{styles['strong']} underline" if tab.view == self.front else styles["role"]
            tabs.append(f" {tab.key}", styles["mark"])
            tabs.append(" " if words else "")
            tabs.append(words, style)
            tabs.append(" ")
        title = Text(visible(self.title), styles["strong"])
        room = width - tabs.cell_len
        program, facts = self._state(room - min(title.cell_len, _TITLE))
        state = "".join(_BETWEEN + fact for fact in facts)
        title.truncate(max(0, room - cell_len(program + state)), overflow="ellipsis")
        line = Text(program, styles["mark"], no_wrap=True)
        line.append_text(title)
        line.append(state, styles["role"])
        line.pad_right(max(0, width - line.cell_len - tabs.cell_len))
        line.append_text(tabs)
        return line

    def _state(self, room: int) -> tuple[str, list[str]]:
        """Return the program's name and the facts there is room for; what is needed least goes first."""
        program, facts = _PROGRAM, list(self.facts)
        while sum(cell_len(_BETWEEN + fact) for fact in facts) + len(program) > room and (program or facts):
            if len(facts) <= _FACTS_BEFORE_NAME and program:
                program = ""
            else:
                facts.pop()
        return program, facts

    def _names(self, width: int) -> list[str]:
        """Return the names of the views as there is room for them: all, only the one in front, or none."""
        names = [tab.words for tab in self.tabs]
        short = [tab.words if tab.view == self.front else "" for tab in self.tabs]
        room = width - _TITLE
        for shown in (names, short):
            if self._width(shown) <= room:
                return shown
        return [""] * len(self.tabs)

    def _width(self, names: Sequence[str]) -> int:
        return sum(_width_of(tab, words) for tab, words in zip(self.tabs, names, strict=True))

    def on_click(self, event: events.Click) -> None:
        """Ask for the view that was clicked."""
        offset = event.get_content_offset(self)
        if offset is None:
            return
        width = self.content_size.width
        names = self._names(width)
        left = width - self._width(names)
        for tab, words in zip(self.tabs, names, strict=True):
            right = left + _width_of(tab, words)
            if left <= offset.x < right:
                self.post_message(self.Chosen(tab.view))
            left = right


def _width_of(tab: Tab, words: str) -> int:
    return 2 + len(tab.key) + (1 + cell_len(words) if words else 0)


class MessageLine(Widget):
    """What happened last: kept, taken back, not possible and why."""

    words: reactive[str] = reactive("")
    error: reactive[bool] = reactive(False)

    def say(self, words: str, *, error: bool = False) -> None:
        """Show a message, an error with a sign of its own."""
        self.words, self.error = words, error

    def render(self) -> Text:
        """Return the message."""
        styles = part_styles(self.app)
        text = Text(no_wrap=True, overflow="ellipsis")
        if self.words:
            text.append("! " if self.error else "", styles["error"])
            text.append(visible(self.words), styles["error" if self.error else "state"])
        return text


@dataclass(frozen=True, slots=True)
class KeyHint:
    """A key of the bottom line.

    Attributes:
        key: as it is written for people.
        words: what it does, in a word or two.
        run: the action that a click on it runs; empty for none.
        is_last: whether it stands at the end and stays where there is no room for all.
    """

    key: str
    words: str
    run: str = ""
    is_last: bool = False

    @property
    def width(self) -> int:
        """How many cells it takes, with the space behind it."""
        return cell_len(self.key) + cell_len(self.words) + 4


class KeyLine(Widget):
    """The keys that matter now, as many as there is room for; a click on one does what it does."""

    hints: reactive[tuple[KeyHint, ...]] = reactive(())

    class Chosen(Message):
        """A key was clicked."""

        def __init__(self, run: str) -> None:
            self.run = run
            super().__init__()

    def _shown(self) -> list[KeyHint]:
        shown = list(self.hints)
        while sum(hint.width for hint in shown) - 3 > self.content_size.width and any(
            not hint.is_last for hint in shown
        ):
            shown.remove(next(hint for hint in reversed(shown) if not hint.is_last))
        return shown

    def render(self) -> Text:
        """Return the line for the present width."""
        styles = part_styles(self.app)
        line = Text(no_wrap=True, overflow="ellipsis")
        for hint in self._shown():
            line.append(f"{hint.key} ", styles["mark"])
            line.append(f"{hint.words}   ", styles["role"])
        return line

    def on_click(self, event: events.Click) -> None:
        """Ask for what the clicked key does."""
        offset = event.get_content_offset(self)
        at = 0
        for hint in self._shown():
            at += hint.width
            if offset is not None and offset.x < at:
                if hint.run:
                    self.post_message(self.Chosen(hint.run))
                return
