"""What a re-test says: of each defect, of entries that were judged, and of the page as a whole."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum

from murvel.casebook.defect import Defect
from murvel.casebook.records import Page
from murvel.casebook.status import Status
from murvel.checks.engine.record import Record
from murvel.survey.entry import EntryKey, Judgement


class Proposal(StrEnum):
    """What a re-test proposes to say of a defect; a person says it."""

    CONFIRMED = "confirmed"
    STILL_FAILS = "still fails"
    CANNOT_TELL = "cannot tell"

    def status_after(self, status: Status) -> Status | None:
        """Return the status that a defect gets where the proposal is accepted; None if it keeps the one it has."""
        if self is Proposal.CONFIRMED:
            return Status.CONFIRMED if status is not Status.CONFIRMED else None
        if self is Proposal.STILL_FAILS and status in (Status.REPAIRED, Status.CONFIRMED):
            return Status.REOPENED
        return None


class Sureness(StrEnum):
    """How sure it is that the element that was found is the one that is meant."""

    CERTAIN = "certain"
    LIKELY = "likely"
    GONE = "gone"


class Ground(StrEnum):
    """What an answer rests on."""

    STEPS = "its steps were made again"
    CHECK = "the check that noticed it ran on its element"
    DRILL = "its widget was drilled again"
    LOOK = "it was looked at again in a browser"
    HEARD = "what is heard there was compared"
    NOTHING = "nothing was judged"


@dataclass(frozen=True, slots=True)
class Answer:
    """What a re-test says of a defect.

    Attributes:
        defect: the defect.
        status: where it stood before.
        proposal: what is proposed.
        why: why, in a sentence without its full stop.
        sureness: how sure it is that its element was found.
        ground: what it rests on.
        likeness: how much of what its element was known by is still there, from 0 to 1.
        heard: what is heard there now; empty if its element is gone.
        xpath: where its element stands now; empty if it is gone.
        line: the line of its start tag now, None if that is not known.
        moves: the moves that were made.
        picture: its element as it looks now, as PNG; None if no browser took one.
        elsewhere: the casebook's numbers of other pages that the defect has places on, which are to be re-tested as
            well before it is confirmed.
    """

    defect: Defect
    status: Status
    proposal: Proposal
    why: str
    sureness: Sureness
    ground: Ground = Ground.NOTHING
    likeness: float = 1.0
    heard: str = ""
    xpath: str = ""
    line: int | None = None
    moves: tuple[str, ...] = ()
    picture: bytes | None = None
    elsewhere: frozenset[int] = frozenset()

    @property
    def next_status(self) -> Status | None:
        """The status it gets where the proposal is accepted, None if it keeps the one it has."""
        if self.elsewhere and self.proposal is Proposal.CONFIRMED:
            return None
        return self.proposal.status_after(self.status)

    @property
    def found(self) -> str:
        """How sure it is that its element was found, and where, in words, as "likely, 52% alike, line 12"."""
        alike = f", {self.likeness:.0%} alike" if self.sureness is Sureness.LIKELY else ""
        return f"{self.sureness}{alike}" + (f", line {self.line}" if self.line is not None else "")

    @property
    def is_sure(self) -> bool:
        """Whether the proposal can be accepted without a look."""
        return self.sureness is Sureness.CERTAIN and self.proposal is not Proposal.CANNOT_TELL

    @property
    def rank(self) -> tuple[int, int]:
        """What the answer that counts has least of, where a defect has several places."""
        worst_first = (Proposal.STILL_FAILS, Proposal.CANNOT_TELL, Proposal.CONFIRMED)
        surest_last = (Sureness.GONE, Sureness.LIKELY, Sureness.CERTAIN)
        return worst_first.index(self.proposal), surest_last.index(self.sureness)


@dataclass(frozen=True, slots=True)
class ChangedEntry:
    """An entry of the survey that was judged, and is not the same any more.

    Attributes:
        key: its key when it was judged.
        judgement: what was said of it.
        heard: what was heard of it then.
        now: what is heard of it now; empty if it is gone.
        sureness: how sure it is that what is heard now is the same entry.
        change: what has changed, in words.
    """

    key: EntryKey
    judgement: Judgement
    heard: str
    now: str
    sureness: Sureness
    change: str


@dataclass(slots=True)
class PageRetest:
    """What a re-test says of a page.

    Attributes:
        page: the page, as the casebook knows it.
        address: where it was opened now.
        take: the number of the new take; the last one's where nothing has changed.
        answers: of each defect.
        new_leads: what checks notice now and did not in the take before.
        carried: how many verdicts stand for entries that are the same.
        changed: entries that were judged, and changed.
        failure: why the page could not be re-tested, a sentence; None if it was.
    """

    page: Page
    address: str
    take: int = 0
    answers: list[Answer] = field(default_factory=list)
    new_leads: list[Record] = field(default_factory=list)
    carried: int = 0
    changed: list[ChangedEntry] = field(default_factory=list)
    failure: str | None = None

    def count(self, proposal: Proposal) -> int:
        """Return how many defects a proposal is made for."""
        return sum(each.proposal is proposal for each in self.answers)
