"""What a report holds, gathered from a casebook and independent of its form."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from datetime import date

from murvel.casebook.defect import Defect, Impact
from murvel.casebook.records import Page
from murvel.casebook.store import Casebook
from murvel.checks.criteria import BY_NUMBER, Criterion
from murvel.page.text import collapse

_HEADING_LENGTH = 70


@dataclass(frozen=True, slots=True)
class ReportedDefect:
    """A defect as the report shows it.

    Attributes:
        defect: the defect.
        heading: its number and what is heard, short enough for a heading.
        take: the number of the take it was found in.
        criterion: the success criterion, None while none was picked.
    """

    defect: Defect
    heading: str
    take: int
    criterion: Criterion | None


@dataclass(frozen=True, slots=True)
class Section:
    """A page and its defects, the worst first.

    Attributes:
        page: the page.
        entries: its defects.
        problems: what could not be honoured of the takes they were found in, a sentence each.
    """

    page: Page
    entries: tuple[ReportedDefect, ...]
    problems: tuple[str, ...] = ()

    @property
    def heading(self) -> str:
        """The page's title, or its address where it has none."""
        return self.page.title or self.page.address


@dataclass(frozen=True, slots=True)
class Report:
    """A whole report.

    Attributes:
        made: the day it was made.
        sections: the pages with defects.
        impacts: how many defects there are of each impact, the worst first.
        criteria: how many there are against each criterion, in WCAG's order.
    """

    made: date
    sections: tuple[Section, ...]
    impacts: tuple[tuple[Impact, int], ...]
    criteria: tuple[tuple[Criterion, int], ...]

    @property
    def total(self) -> int:
        """How many defects there are."""
        return sum(count for _, count in self.impacts)


_ORDER = {impact: rank for rank, impact in enumerate(Impact)}


def gather(casebook: Casebook, made: date) -> Report:
    """Return what a report on a casebook holds.

    Raises:
        CasebookError: the casebook cannot be read.
    """
    defects = sorted(casebook.defects(), key=lambda defect: (_ORDER[defect.impact], defect.id or 0))
    takes = {take.id: take for take in casebook.takes()}
    sections = []
    for page in sorted(casebook.pages(), key=lambda page: page.id):
        entries = tuple(
            ReportedDefect(defect, _heading(defect), takes[defect.take].number, BY_NUMBER.get(defect.criterion))
            for defect in defects
            if defect.page == page.id
        )
        if entries:
            problems = [words for entry in entries for words in takes[entry.defect.take].problems]
            sections.append(Section(page, entries, tuple(dict.fromkeys(problems))))
    impacts = Counter(defect.impact for defect in defects)
    criteria = Counter(defect.criterion for defect in defects)
    return Report(
        made=made,
        sections=tuple(sections),
        impacts=tuple((impact, impacts[impact]) for impact in Impact),
        criteria=tuple((BY_NUMBER[number], criteria[number]) for number in BY_NUMBER if criteria[number]),
    )


def _heading(defect: Defect) -> str:
    words = collapse(defect.headline)
    if len(words) > _HEADING_LENGTH:
        words = words[:_HEADING_LENGTH].rsplit(" ", 1)[0] + "…"
    return f"Defect {defect.id}: {words}"
