"""Undo: every change of a defect or verdict can be taken back, the last one first."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from murvel.casebook.defect import Defect
from murvel.survey.entry import Entry


@dataclass(frozen=True, slots=True)
class Undoable:
    """A change that can be taken back.

    Attributes:
        words: what it is called.
        take_back: takes it back.
        about: what stands again as it was before; None if nothing stood before.
    """

    words: str
    take_back: Callable[[], object]
    about: Defect | Entry | None = None


class History:
    """The changes that were made, the last one on top."""

    def __init__(self) -> None:
        self._done: list[Undoable] = []

    def remember(self, change: Undoable) -> None:
        """Remember a change that was made."""
        self._done.append(change)

    def undo(self) -> Undoable | None:
        """Take the last change back and return it; None if there is none. What fails stays to be taken back."""
        if not self._done:
            return None
        change = self._done[-1]
        change.take_back()
        return self._done.pop()
