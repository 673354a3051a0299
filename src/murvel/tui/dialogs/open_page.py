"""Which page to open: an address, a page of the casebook, or one that was open lately."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from pathlib import Path

from rich.text import Text
from textual.suggester import Suggester
from textual.widgets import Input

from murvel.casebook.records import Page
from murvel.text import visible
from murvel.tui.dialogs.searched import Rows, Searched
from murvel.work.opening import WantedPage


class OpenPage(Searched[WantedPage]):
    """Answers with the page to open, with None if Escape was pressed.

    Args:
        pages: the pages of the casebook, the last opened first.
        recent: addresses with widths that were open lately, also with other casebooks.
        width: the viewport's width in CSS pixels for a page that is named by its address.
    """

    TITLE_OF_FRAME = "Open a page"
    HINT = "a file, a folder or an http(s) address"
    KEYS = (
        ("Typing", "an address, or words"),
        ("→", "complete"),
        ("↓ ↑", "pick"),
        ("Enter", "open"),
        ("Esc", "stay"),
    )

    def __init__(self, pages: Sequence[Page], recent: Sequence[tuple[str, int]], width: int) -> None:
        super().__init__()
        self.suggester = _PathSuggester()
        known = {(page.address, page.width) for page in pages}
        self._groups = [
            ("Pages of this casebook", [(page.title, page.address, page.width) for page in pages]),
            ("Open lately", [("", *each) for each in recent if each not in known]),
        ]
        self._width = width

    def found(self, words: list[str], styles: dict[str, str]) -> Iterable[tuple[str, Rows[WantedPage]]]:
        """Return the known pages with the words in their title or address."""
        for group, pages in self._groups:
            yield (
                group,
                [
                    (WantedPage(address, width), self._row(title, address, width, styles))
                    for title, address, width in pages
                    if all(word in f"{title} {address}".casefold() for word in words)
                ],
            )

    def _row(self, title: str, address: str, width: int, styles: dict[str, str]) -> Text:
        text = Text(f"  {visible(title)}  " if title else "  ", styles["strong"], no_wrap=True, overflow="ellipsis")
        text.append(visible(address), styles["role"])
        text.append("" if width == self._width else f"  {width} pixels wide", styles["faint"])
        return text

    def first_picked(self, text: str) -> int | None:
        """Pick none by itself where something is typed: it may be an address."""
        return None if text else super().first_picked(text)

    def on_input_submitted(self, event: Input.Submitted) -> None:
        """Answer with the page that is picked; where none is, with what was typed."""
        event.prevent_default()
        if not self.is_asking:
            return
        typed = event.value.strip()
        if self.picked is not None:
            self.dismiss(self.picked)
        elif typed:
            self.dismiss(WantedPage(typed, self._width))


_ENDINGS = (".html", ".htm", ".xhtml", ".json")


def _is_page(path: Path) -> bool:
    """Whether a path may lead to a page: it is one by its name, or a folder."""
    return path.suffix.lower() in _ENDINGS or path.is_dir()


class _PathSuggester(Suggester):
    """Goes on with the name of a file or folder."""

    def __init__(self) -> None:
        super().__init__(use_cache=False, case_sensitive=True)

    async def get_suggestion(self, value: str) -> str | None:
        """Return the path with the first name that begins as its last part does, None if there is none."""
        if not value or "://" in value:
            return None
        folder, slash, begun = value.rpartition("/")
        try:
            inside = sorted(Path((folder or "/") if slash else ".").expanduser().iterdir())
            found = next((each for each in inside if begun and each.name.startswith(begun) and _is_page(each)), None)
            return f"{folder}{slash}{found.name}" + ("/" if found.is_dir() else "") if found is not None else None
        except (OSError, RuntimeError):
            return None
