"""Undo: every change of a defect or verdict can be taken back, the last one first."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from murvel.casebook.defect import Defect
from murvel.casebook.store import Casebook
from murvel.survey.entry import Entry


@dataclass(frozen=True, slots=True)
class Change:
    """A change that can be taken back.

    Attributes:
        words: what it is called.
        take_back: takes it back.
        about: what stands again as it was before; None where nothing stood before.
    """

    words: str
    take_back: Callable[[], object]
    about: Defect | Entry | None = None


class History:
    """Changes defects of a casebook and remembers how to take changes back.

    A change that cannot be written raises CasebookError and is not remembered.
    """

    def __init__(self, casebook: Casebook) -> None:
        self._casebook = casebook
        self._done: list[Change] = []

    def document(self, defect: Defect) -> Defect:
        """Keep a new defect."""
        kept = self._casebook.keep_defect(defect)
        assert kept.id is not None, "what is kept has an id"
        self.remember(Change(f"documenting defect {kept.id}", partial(self._casebook.delete_defect, kept.id)))
        return kept

    def edit(self, before: Defect, after: Defect) -> Defect:
        """Keep a changed defect."""
        kept = self._casebook.keep_defect(after)
        self.remember(Change(f"editing defect {kept.id}", partial(self._casebook.keep_defect, before), before))
        return kept

    def delete(self, defect: Defect) -> None:
        """Delete a defect."""
        assert defect.id is not None, "only kept defects are deleted"
        self._casebook.delete_defect(defect.id)
        self.remember(Change(f"deleting defect {defect.id}", partial(self._casebook.keep_defect, defect), defect))

    def remember(self, change: Change) -> None:
        """Remember a change that was made."""
        self._done.append(change)

    def undo(self) -> Change | None:
        """Take the last change back and return it; None where there is none."""
        if not self._done:
            return None
        change = self._done[-1]
        change.take_back()
        return self._done.pop()
