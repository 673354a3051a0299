"""Where a defect stands, and how it came there."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from murvel.casebook.defect import Defect
from murvel.casebook.errors import CasebookError
from murvel.errors import did_you_mean
from murvel.patterns import pattern
from murvel.text import visible


class Status(StrEnum):
    """Where a defect stands; without a status it is open, or a draft."""

    DRAFT = "draft"
    OPEN = "open"
    REPAIRED = "repaired"
    CONFIRMED = "confirmed"
    REOPENED = "reopened"
    ACCEPTED = "accepted"

    @property
    def meaning(self) -> str:
        """What the word stands for, in a line."""
        return _MEANINGS[self]


_MEANINGS = {
    Status.DRAFT: "nothing is written yet but what was heard",
    Status.OPEN: "nobody has said that it is repaired",
    Status.REPAIRED: "a developer says that it is repaired; nobody has tried it",
    Status.CONFIRMED: "somebody tried it, and it is repaired",
    Status.REOPENED: "it was said to be repaired, and it is not",
    Status.ACCEPTED: "it stays as it is, for a reason",
}


@dataclass(frozen=True, slots=True)
class StatusChange:
    """A status that was given to a defect.

    Attributes:
        id: the casebook's number of it.
        defect: the defect's number.
        status: the status.
        reason: why; empty if nothing was said.
        until: the day until which it is accepted (ISO 8601), empty for no end.
        at: when it was given (ISO 8601).
    """

    id: int
    defect: int
    status: Status
    reason: str
    until: str
    at: str

    @property
    def words(self) -> str:
        """The status with its reason and end, as "accepted until 2027-01-31: the map is replaced"."""
        until = f" until {self.until}" if self.until else ""
        return f"{self.status}{until}" + (f": {self.reason}" if self.reason else "")


def standing(defect: Defect, changes: Mapping[int, Sequence[StatusChange]]) -> Status:
    """Return where a defect stands.

    Args:
        defect: the defect.
        changes: the statuses that were given to each defect, by its number, the last one last.
    """
    given = changes.get(defect.id or 0)
    if given:
        return given[-1].status
    return Status.DRAFT if defect.is_unwritten else Status.OPEN


_UNTIL = pattern(r"(.*?)(?:\s+|^)until\s+(\S+)\s*", re.DOTALL)


def status_in(words: str) -> tuple[Status, str, str]:
    """Return the status, reason and last day that words say, as "accepted the map is replaced until 2027-01-31".

    Raises:
        CasebookError: there is no such status, an accepted defect has no reason, or the day is none.
    """
    first, _, rest = words.strip().partition(" ")
    known = {each.value: each for each in Status}
    status = known.get(first.rstrip(":").lower())
    if status is None:
        raise CasebookError(f"There is no status {visible(first)!r}", did_you_mean(first, known))
    if status is not Status.ACCEPTED:
        return status, rest.strip(), ""
    found = _UNTIL.fullmatch(rest)
    reason, until = (found[1].strip(), found[2]) if found is not None else (rest.strip(), "")
    if until:
        try:
            until = date.fromisoformat(until).isoformat()
        except ValueError as error:
            raise CasebookError(f"{visible(until)!r} is no day", "write it as 2027-01-31.") from error
    if not reason:
        raise CasebookError("What is accepted needs a reason", "write accepted, the reason, and until 2027-01-31.")
    return status, reason, until
