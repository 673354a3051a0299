"""The survey as plain lines: its lists, and the entries of each with verdicts, facts and leads."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.reader.speech.timing import clock
from murvel.survey.choice import Choice
from murvel.survey.counts import count_words
from murvel.survey.entry import Entry, Judged, Slice
from murvel.survey.facts import facts_of
from murvel.survey.survey import Survey
from murvel.text import counted, visible


def survey_lines(survey: Survey, judged: Judged) -> Iterator[str]:
    """Yield a line for each list: what was said of its entries, and how many leads it has."""
    for slice_, entries in survey.entries.items():
        count = sum(len(entry.leads) for entry in entries)
        leads = f"; {counted(count, 'lead', 'leads')}" if survey.is_known(slice_) else ""
        yield f"{count_words(survey, slice_, judged)}{leads}; {slice_.about}"


def slice_lines(survey: Survey, slice_: Slice, choice: Choice, judged: Judged) -> Iterator[str]:
    """Yield the entries of a list that are chosen, each with its number, and below it what was noticed."""
    yield count_words(survey, slice_, judged)
    if not survey.is_known(slice_):
        yield "A browser looks at this: --browser, and look in the line mode."
    shown = choice.shown(survey, slice_, judged)
    if choice.about:
        yield f"shown: {choice.about}; {len(shown)} of {len(survey.entries[slice_])}"
    for entry in shown:
        judgement = judged(entry)
        verdict = f" ({judgement.verdict})" if judgement.verdict is not None else ""
        note = f" note: {judgement.note}" if judgement.note else ""
        remark = f", {entry.remark}" if entry.remark else ""
        depth = "  " * entry.depth
        time = clock(entry.time) if entry.time is not None else ""
        yield visible(f"{entry.number:>4} {time:>6} {depth}{entry.heard}{remark}{verdict}{note}")
        for lead in entry.leads:
            yield visible(f"{'':>12}{depth}{lead.certainty}: {lead.says} [{lead.check.id}]")


def entry_lines(survey: Survey, entry: Entry, judged: Judged) -> Iterator[str]:
    """Yield everything that is known of one entry."""
    judgement = judged(entry)
    yield visible(f"heard: {entry.heard}")
    yield f"verdict: {judgement.verdict or 'not judged yet'}"
    if judgement.note:
        yield visible(f"note: {judgement.note}")
    for label, value in facts_of(survey.page, entry):
        yield visible(f"{label}: {value}")
    for lead in entry.leads:
        yield visible(f"{lead.certainty}: {lead.says}. {lead.check.means} Repair: {lead.check.repair}")
        yield visible(f"then heard: {lead.expected}; WCAG 2.2 {', '.join(lead.check.criteria)}")
