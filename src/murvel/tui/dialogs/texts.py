"""Texts that come again: those a person keeps in the settings, and those that defects of the casebook have."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import ClassVar

from rich.text import Text

from murvel.text import visible
from murvel.tui.dialogs.searched import Rows, Searched


class Texts(Searched[str]):
    """Answers with a text, with None if Escape was pressed.

    Args:
        own: the texts of the settings, by name.
        used: texts of the casebook's defects, those used most first.
    """

    TITLE_OF_FRAME = "Put in a text"
    HINT = "search: words of a text, or its name"
    NOTHING: ClassVar[str] = "No text has these words. Your own stand in config.toml, under [texts]."
    KEYS = (("Typing", "words"), ("↓ ↑", "pick"), ("Enter", "put it in"), ("Esc", "leave it"))

    def __init__(self, own: Mapping[str, str], used: Sequence[str]) -> None:
        super().__init__()
        self._groups = [
            ("Your own", list(own.items())),
            ("Used in this casebook", [("", text) for text in used]),
        ]

    def found(self, words: list[str], styles: dict[str, str]) -> Iterable[tuple[str, Rows[str]]]:
        """Return the texts with the words in them or in their name."""
        for group, texts in self._groups:
            yield (
                group,
                [
                    (text, self._row(name, text, styles))
                    for name, text in texts
                    if all(word in f"{name} {text}".casefold() for word in words)
                ],
            )

    def _row(self, name: str, text: str, styles: dict[str, str]) -> Text:
        row = Text(f"  {visible(name)}  " if name else "  ", styles["strong"], no_wrap=True, overflow="ellipsis")
        row.append(visible(" ".join(text.split())), styles["plain"])
        return row
