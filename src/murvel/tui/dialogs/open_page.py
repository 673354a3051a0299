"""Which page to open: an address, a page of the casebook, or one that was open lately."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import ClassVar

from rich.text import Text
from textual.binding import Binding, BindingType
from textual.containers import Vertical
from textual.suggester import Suggester
from textual.widget import Widget
from textual.widgets import Input
from textual.widgets.option_list import Option

from murvel.casebook.records import Page
from murvel.page.text import visible
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.options import Options
from murvel.tui.widgets.palette import part_styles
from murvel.work.opening import Opening


class OpenPage(Dialog[Opening | None]):
    """Answers with the page to open, with None where Escape was pressed.

    Args:
        pages: the pages of the casebook, the last opened first.
        recent: addresses with widths that were open lately, also with other casebooks.
        width: the viewport's width in CSS pixels for a page that is named by its address.
    """

    KEYS = (
        ("Typing", "an address, or words"),
        ("→", "complete"),
        ("↓ ↑", "pick"),
        ("Enter", "open"),
        ("Esc", "stay"),
    )
    TYPES_INTO = "Input"
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape", "dismiss(None)", "Stay", show=False),
        Binding("down", "pick('cursor_down')", "Next", show=False, priority=True),
        Binding("up", "pick('cursor_up')", "Previous", show=False, priority=True),
    ]

    def __init__(self, pages: Sequence[Page], recent: Sequence[tuple[str, int]], width: int) -> None:
        super().__init__()
        known = {(page.address, page.width) for page in pages}
        self._groups = [
            ("Pages of this casebook", [(page.title, page.address, page.width) for page in pages]),
            ("Open lately", [("", *each) for each in recent if each not in known]),
        ]
        self._width = width
        self._listed: list[tuple[str, int] | None] = []

    def body(self) -> Iterable[Widget]:
        """A line for an address, and the known pages."""
        with Vertical() as frame:
            frame.border_title = "Open a page"
            yield Input(placeholder="a file, a folder or an http(s) address", suggester=_PathSuggester())
            listed = Options()
            listed.can_focus = False
            yield listed

    def on_mount(self) -> None:
        """Show all known pages."""
        self._list("")

    def on_input_changed(self, event: Input.Changed) -> None:
        """Show the known pages that have the words."""
        self._list(event.value)

    def _list(self, words: str) -> None:
        styles = part_styles(self.app)
        listed = self.query_one(Options)
        options: list[Option] = []
        self._listed = []
        wanted = words.casefold().split()
        for title, pages in self._groups:
            found = [each for each in pages if all(word in f"{each[0]} {each[1]}".casefold() for word in wanted)]
            if found:
                options.append(Option(Text(title, styles["mark"]), disabled=True))
                self._listed.append(None)
            for name, address, width in found:
                text = Text(
                    f"  {visible(name)}  " if name else "  ", styles["strong"], no_wrap=True, overflow="ellipsis"
                )
                text.append(visible(address), styles["role"])
                text.append("" if width == self._width else f"  {width} pixels wide", styles["faint"])
                options.append(Option(text))
                self._listed.append((address, width))
        listed.clear_options()
        listed.add_options(options)
        listed.highlighted = 1 if options and not words else None

    def action_pick(self, how: str) -> None:
        """Pick another page."""
        getattr(self.query_one(Options), f"action_{how}")()

    def on_input_submitted(self, event: Input.Submitted) -> None:
        """Open the page that is picked; where none is, what was typed."""
        at = self.query_one(Options).highlighted
        known = self._listed[at] if at is not None else None
        if known is not None:
            self.dismiss(Opening(*known))
        elif event.value.strip():
            self.dismiss(Opening(event.value.strip(), self._width))

    def on_option_list_option_selected(self, event: Options.OptionSelected) -> None:
        """Open the page that was clicked."""
        known = self._listed[event.option_index]
        if known is not None:
            self.dismiss(Opening(*known))


_ENDINGS = (".html", ".htm", ".xhtml", ".json")


def _is_page(path: Path) -> bool:
    """Whether a path may lead to a page: it is one by its name, or a folder."""
    return path.suffix.lower() in _ENDINGS or path.is_dir()


class _PathSuggester(Suggester):
    """Goes on with the name of a file or folder."""

    def __init__(self) -> None:
        super().__init__(use_cache=False, case_sensitive=True)

    async def get_suggestion(self, value: str) -> str | None:
        """Return the path with the first name that begins as its last part does, None where there is none."""
        if not value or "://" in value:
            return None
        folder, slash, begun = value.rpartition("/")
        try:
            inside = sorted(Path((folder or "/") if slash else ".").expanduser().iterdir())
            found = next((each for each in inside if begun and each.name.startswith(begun) and _is_page(each)), None)
            return f"{folder}{slash}{found.name}" + ("/" if found.is_dir() else "") if found is not None else None
        except (OSError, RuntimeError):
            return None
