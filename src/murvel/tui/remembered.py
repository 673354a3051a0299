"""What one session leaves to the next: the theme, the pages that were open, the actions that were run by name."""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from pathlib import Path

from pydantic import BaseModel, ValidationError

from murvel.errors import MurvelError
from murvel.files.replacing import write_text

_KEPT = 12
"""How many pages and actions are remembered."""


class _File(BaseModel):
    theme: str = ""
    pages: list[tuple[str, int]] = []
    actions: list[str] = []


@dataclass(slots=True)
class Remembered:
    """What is remembered.

    Attributes:
        path: the file it is kept in, None if nothing is to be kept.
        theme: the name of the theme, empty for the usual one.
        pages: addresses with widths, the last opened first.
        actions: ids of actions that were run from the list of all, the last one first.
    """

    path: Path | None = None
    theme: str = ""
    pages: list[tuple[str, int]] = field(default_factory=list)
    actions: list[str] = field(default_factory=list)

    def opened(self, address: str, width: int) -> None:
        """Remember a page that was opened."""
        self.pages = [(address, width), *(each for each in self.pages if each[0] != address)][:_KEPT]

    def ran(self, action: str) -> None:
        """Remember an action that was run."""
        self.actions = [action, *(each for each in self.actions if each != action)][:_KEPT]

    def keep(self) -> None:
        """Write it.

        Raises:
            MurvelError: it cannot be written.
        """
        if self.path is None:
            return
        text = json.dumps({"theme": self.theme, "pages": self.pages, "actions": self.actions}, indent=1)
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise MurvelError(
                f"The folder {self.path.parent} cannot be made ({error.strerror})", "make room."
            ) from error
        write_text(text, self.path, "state of the application", MurvelError)


def read_remembered(path: Path) -> Remembered:
    """Return what the last session left in a file; nothing if the file is missing or damaged: it only saves keys."""
    try:
        kept = _File.model_validate_json(path.read_bytes())
    except (OSError, ValidationError):
        return Remembered(path)
    return Remembered(path, kept.theme, kept.pages[:_KEPT], kept.actions[:_KEPT])
