"""A lead as plain data: what leaves a process, a run or the program."""

from __future__ import annotations

from dataclasses import dataclass, field

from murvel.checks.engine.check import Certainty, Check
from murvel.checks.engine.lead import Lead
from murvel.checks.tables.criteria import Level
from murvel.loading.problems import Problem, ProblemKind
from murvel.text import collapse


@dataclass(frozen=True, slots=True)
class Record:
    """A lead.

    Attributes:
        check, topic, title, certainty, criteria, level, means, repair: as of the check; certainty as of the finding.
        detail: what in particular.
        heard, expected: what is heard, and what should be once it is repaired.
        moves: the moves that lead there, as commands of `murvel listen`.
        xpath, line, column, snippet: where it is; line and column None and the snippet empty if there are none.
        line_above: for what scripts made or changed, the line of the nearest element around it that the file has.
        fingerprint: what tells it from others of the page, from one run to the next.
        is_hidden_now: whether it is about something that is hidden when the page arrives.
        times, on_pages: in a summary, how often the same was noticed, and on how many pages.
    """

    check: str
    topic: str
    title: str
    certainty: Certainty
    criteria: tuple[str, ...]
    level: Level
    detail: str
    means: str
    heard: str
    repair: str
    expected: str
    moves: tuple[str, ...]
    xpath: str
    line: int | None
    column: int | None
    snippet: str
    fingerprint: str
    is_hidden_now: bool = False
    line_above: int | None = None
    times: int = 1
    on_pages: int = 1

    @property
    def says(self) -> str:
        """What is wrong, with the particulars."""
        says = f"{self.title}: {self.detail}" if self.detail else self.title
        return f"{says} ({HIDDEN_NOW})" if self.is_hidden_now else says


HIDDEN_NOW = "hidden now"
"""How what is about something hidden is marked."""


@dataclass(slots=True)
class PageResult:
    """What came of one page.

    Attributes:
        page: as it was named.
        title: its title.
        records: its leads, in reading order; known ones left out.
        known: how many known ones were left out.
        failure: why the page could not be checked, a sentence; None if it was.
        problems: what of the page could not be honoured.
        seconds: how long it took.
        width: the viewport's width in CSS pixels, where the page was opened at several.
    """

    page: str
    title: str = ""
    records: list[Record] = field(default_factory=list)
    known: int = 0
    failure: str | None = None
    problems: list[Problem] = field(default_factory=list)
    seconds: float = 0.0
    width: int | None = None

    @property
    def name(self) -> str:
        """The page as it was named, with its width where that tells it from others."""
        return self.page if self.width is None else f"{self.page} ({self.width} pixels wide)"

    @property
    def is_judged(self) -> bool:
        """Whether its leads say something of the page as people have it: scripts do not make it."""
        return self.failure is None and not any(each.kind is ProblemKind.SCRIPTS for each in self.problems)

    @property
    def is_incomplete(self) -> bool:
        """Whether the page could not be checked, or not by all checks: it is an error, whatever else was found."""
        return self.failure is not None or any(each.kind is ProblemKind.CHECK for each in self.problems)

    def count(self, certainty: Certainty) -> int:
        """Return how many leads are as sure."""
        return sum(record.certainty is certainty for record in self.records)


def record_of(lead: Lead, *, is_hidden_now: bool = False) -> Record:
    """Return a lead as plain data."""
    check: Check = lead.check
    position = lead.position
    return Record(
        check=check.id,
        topic=check.topic,
        title=check.title,
        certainty=lead.certainty,
        criteria=check.criteria,
        level=check.level,
        detail=lead.detail,
        means=check.means,
        heard=collapse(lead.heard),
        repair=check.repair,
        expected=lead.expected,
        moves=tuple(lead.moves),
        xpath=lead.xpath,
        line=position.line if position is not None else None,
        column=position.column if position is not None else None,
        snippet=lead.page.document.snippet(lead.element, 200) if lead.page.is_source else "",
        fingerprint=lead.fingerprint,
        is_hidden_now=is_hidden_now,
        line_above=lead.page.document.line_above(lead.element) if lead.page.is_source else None,
    )
