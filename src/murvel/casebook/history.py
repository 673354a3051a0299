"""Undo: every change of a defect can be taken back, the last one first."""

from __future__ import annotations

from dataclasses import dataclass

from murvel.casebook.defect import Defect
from murvel.casebook.store import Casebook


@dataclass(frozen=True, slots=True)
class Change:
    """What a change was called, and the defect before and after it; None where there was none."""

    words: str
    before: Defect | None
    after: Defect | None


class History:
    """Changes defects of a casebook and remembers how to take the changes back.

    A change that cannot be written raises CasebookError and is not remembered.
    """

    def __init__(self, casebook: Casebook) -> None:
        self._casebook = casebook
        self._done: list[Change] = []

    def document(self, defect: Defect) -> Defect:
        """Keep a new defect."""
        kept = self._casebook.keep_defect(defect)
        self._done.append(Change(f"documenting defect {kept.id}", None, kept))
        return kept

    def edit(self, before: Defect, after: Defect) -> Defect:
        """Keep a changed defect."""
        kept = self._casebook.keep_defect(after)
        self._done.append(Change(f"editing defect {kept.id}", before, kept))
        return kept

    def delete(self, defect: Defect) -> None:
        """Delete a defect."""
        assert defect.id is not None, "only kept defects are deleted"
        self._casebook.delete_defect(defect.id)
        self._done.append(Change(f"deleting defect {defect.id}", defect, None))

    def undo(self) -> Change | None:
        """Take the last change back and return it; None where there is none."""
        if not self._done:
            return None
        change = self._done[-1]
        if change.before is not None:
            self._casebook.keep_defect(change.before)
        elif change.after is not None and change.after.id is not None:
            self._casebook.delete_defect(change.after.id)
        self._done.pop()
        return change
