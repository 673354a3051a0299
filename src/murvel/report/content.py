"""What a report holds, gathered from a casebook and independent of its form."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from datetime import date

from murvel.casebook.attachment import Attachment
from murvel.casebook.defect import RATED, Defect, Impact
from murvel.casebook.records import Noted, Page
from murvel.casebook.status import Status, StatusChange, standing
from murvel.casebook.store import Casebook
from murvel.checks.tables.criteria import BY_NUMBER, Criterion
from murvel.survey.entry import Judgement, Slice
from murvel.text import collapse

_HEADING_LENGTH = 70


@dataclass(frozen=True, slots=True)
class ReportedDefect:
    """A defect as the report shows it.

    Attributes:
        defect: the defect.
        heading: its number and what is heard, short enough for a heading.
        take: the number of the take it was found in.
        criterion: the success criterion, None while none was picked.
        attachments: pictures, drawings and texts that belong to it.
        changes: the statuses that were given to it, the last one last.
    """

    defect: Defect
    heading: str
    take: int
    criterion: Criterion | None
    attachments: tuple[Attachment, ...] = ()
    changes: tuple[StatusChange, ...] = ()

    @property
    def status(self) -> Status:
        """Where it stands."""
        return standing(self.defect, {self.defect.id or 0: self.changes})


@dataclass(frozen=True, slots=True)
class ReportedVerdict:
    """What was said of an entry of the survey.

    Attributes:
        list: the list it is in.
        heard: what is heard of it.
        judgement: the verdict and the note.
    """

    list: Slice
    heard: str
    judgement: Judgement

    @property
    def verdict(self) -> str:
        """The verdict in a word, or that there is only a note."""
        return self.judgement.word


@dataclass(frozen=True, slots=True)
class Section:
    """A page at a width, and its defects, the worst first.

    Attributes:
        page: the page.
        entries: its defects.
        problems: what could not be honoured of the takes they were found in, a sentence each.
        judged: what was said of the entries of its survey, list by list.
        notes: what was noted while listening.
    """

    page: Page
    entries: tuple[ReportedDefect, ...]
    problems: tuple[str, ...] = ()
    judged: tuple[ReportedVerdict, ...] = ()
    notes: tuple[Noted, ...] = ()

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
    attachments, statuses = casebook.attachments(), casebook.statuses()
    takes = {take.id: take for take in casebook.takes()}
    sections = []
    for page in sorted(casebook.pages(), key=lambda page: page.id):
        entries = tuple(
            ReportedDefect(
                defect,
                _heading(defect),
                takes[defect.take].number,
                BY_NUMBER.get(defect.criterion),
                tuple(each for each in attachments if each.defect == defect.id),
                tuple(statuses.get(defect.id or 0, ())),
            )
            for defect in defects
            if defect.page == page.id
        )
        verdicts = casebook.judgements(page).items()
        judged = sorted((ReportedVerdict(key.slice, key.heard, said) for key, said in verdicts), key=_in_order)
        notes = tuple(casebook.notes(page))
        if entries or judged or notes:
            problems = [words for entry in entries for words in takes[entry.defect.take].problems]
            sections.append(Section(page, entries, tuple(dict.fromkeys(problems)), tuple(judged), notes))
    impacts = Counter(defect.impact for defect in defects)
    criteria = Counter(defect.criterion for defect in defects)
    return Report(
        made=made,
        sections=tuple(sections),
        impacts=tuple((each, impacts[each]) for each in Impact if each in RATED or impacts[each]),
        criteria=tuple((BY_NUMBER[number], criteria[number]) for number in BY_NUMBER if criteria[number]),
    )


def _in_order(each: ReportedVerdict) -> tuple[int, str]:
    return list(Slice).index(each.list), each.heard


def _heading(defect: Defect) -> str:
    words = collapse(defect.headline)
    if len(words) > _HEADING_LENGTH:
        words = words[:_HEADING_LENGTH].rsplit(" ", 1)[0] + "…"
    return f"Defect {defect.id}: {words}"
