"""What can be taken back: for each change, what stood before it, as data, so that it outlives the program."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from murvel.casebook.defect import Defect
from murvel.survey.entry import EntryKey

MOST = 200
"""How many changes can be taken back."""


@dataclass(frozen=True, slots=True)
class NoDefect:
    """There was no such defect."""

    defect: int
    kind: Literal["no defect"] = "no defect"


@dataclass(frozen=True, slots=True)
class DefectBefore:
    """A defect was this."""

    defect: Defect
    kind: Literal["defect"] = "defect"


@dataclass(frozen=True, slots=True)
class NoStatus:
    """This status had not been given; `change` is the casebook's number of it."""

    change: int
    defect: int
    kind: Literal["no status"] = "no status"


@dataclass(frozen=True, slots=True)
class VerdictBefore:
    """This was said of an entry of the survey; no verdict and no note stand for nothing."""

    page: int
    take: int
    entry: EntryKey
    verdict: str | None
    note: str
    kind: Literal["verdict"] = "verdict"


@dataclass(frozen=True, slots=True)
class NoAttachment:
    """This had not been attached; `attachment` is the casebook's number of it."""

    attachment: int
    defect: int
    kind: Literal["no attachment"] = "no attachment"


Before = NoDefect | DefectBefore | NoStatus | VerdictBefore | NoAttachment
"""What stood before a change."""


@dataclass(frozen=True, slots=True)
class Change:
    """A change that can be taken back.

    Attributes:
        id: the casebook's number of it.
        words: what it is called.
        before: what stood before it.
    """

    id: int
    words: str
    before: tuple[Before, ...]

    @property
    def defect(self) -> int | None:
        """The number of the defect it was about, where that stands again once it is taken back."""
        last = self.before[-1] if self.before else None
        if isinstance(last, DefectBefore):
            return last.defect.id
        return last.defect if isinstance(last, NoStatus | NoAttachment) else None

    @property
    def entry(self) -> EntryKey | None:
        """The key of the entry of the survey it was about, None if it was about none."""
        last = self.before[-1] if self.before else None
        return last.entry if isinstance(last, VerdictBefore) else None
