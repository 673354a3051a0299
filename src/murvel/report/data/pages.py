"""What is read of a page, its lists, its survey and explanations, as JSON output."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import fields
from typing import Any

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Check
from murvel.reader.readout.lists import entries
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import Voice
from murvel.report.data.shapes import VERSION, Data, document, heard, leads, node_data, place
from murvel.survey.choice import Choice
from murvel.survey.entry import Entry, Judged, Slice
from murvel.survey.facts import facts_of
from murvel.survey.survey import Survey
from murvel.tree.model import Tree
from murvel.tree.names.explain import Explanation, hidden_words, node_facts


def reading_data(session: ReadingSession) -> Data:
    """Return what is heard on arrival and reading straight through; times are seconds of listening."""
    arrival = session.arrive()
    items = [
        {"number": at + 1, "time": round(time, 2), **heard(utterance), **_subject(session, at)}
        for at, (time, utterance) in enumerate(session.spoken.straight_through())
    ]
    return document("reading", session, arrival=arrival.text, seconds=round(session.spoken.total, 2), items=items)


def _subject(session: ReadingSession, at: int) -> Data:
    return node_data(session.tree, session.readout.items[at].subject)


def list_data(session: ReadingSession, name: str) -> Data:
    """Return one list of a page."""
    found = [
        {"time": _rounded(each.time), **heard(each.utterance), **node_data(session.tree, each.node)}
        for each in entries(session, name)
    ]
    return document("list", session, list=name, entries=found)


def survey_data(survey: Survey, slices: Iterable[Slice], choice: Choice, judged: Judged) -> Data:
    """Return lists of the survey with the entries that are chosen."""
    session = survey.page.session
    lists = [
        {
            "list": slice_.value,
            "about": slice_.about,
            "is_looked_at": survey.is_known(slice_),
            "entries": [_entry(survey, entry, judged) for entry in choice.shown(survey, slice_, judged)],
        }
        for slice_ in slices
    ]
    return document("survey", session, lists=lists)


def _entry(survey: Survey, entry: Entry, judged: Judged) -> Data:
    judgement = judged(entry)
    return {
        "number": entry.number,
        "time": _rounded(entry.time),
        "depth": entry.depth,
        **heard(entry.utterance),
        "is_heard": entry.is_heard,
        "remark": entry.remark,
        "verdict": judgement.verdict.value if judgement.verdict is not None else None,
        "note": judgement.note,
        "facts": dict(facts_of(survey.page, entry)),
        "leads": leads(entry.leads),
        **place(survey.page.session.tree, entry.element),
    }


def explanation_data(tree: Tree, explanation: Explanation) -> Data:
    """Return why an element is announced as it is."""
    node, hidden = explanation.node, explanation.hidden
    return {
        "element": explanation.element.tag,
        **place(tree, explanation.element),
        "is_exposed": node is not None,
        "hidden_by": hidden_words(hidden, tree.styles) if hidden is not None else None,
        "role": explanation.role,
        "role_from": explanation.rule,
        "name": node.name if node is not None else None,
        "name_steps": [
            {"source": str(step.source), "outcome": step.outcome.value, "given": step.given, "text": step.text}
            for step in explanation.steps
        ],
        "facts": [{"kind": kind, "words": words} for kind, words in (node_facts(tree, node) if node else ())],
    }


def checks_data(catalogue: Catalogue, checks: Iterable[Check]) -> Data:
    """Return checks with all there is to know of each."""
    return {
        "format": "murvel-checks",
        "version": VERSION,
        "topics": list(catalogue.topics),
        "checks": [
            {
                "id": check.id,
                "topic": check.topic,
                "title": check.title,
                "certainty": check.certainty.value,
                "criteria": list(check.criteria),
                "level": check.level,
                "means": check.means,
                "repair": check.repair,
                "looks_at": check.looks_at,
            }
            for check in checks
        ],
    }


def voices_data(voices: Iterable[Voice]) -> Data:
    """Return voices with their settings."""
    names = [field.name for field in fields(Voice) if field.name != "words"]
    every = [{name: _setting(getattr(voice, name)) for name in names} for voice in voices]
    return {"format": "murvel-voices", "version": VERSION, "voices": every}


def _setting(value: Any) -> Any:
    if isinstance(value, frozenset):
        return sorted(map(str, value))
    if isinstance(value, tuple):
        return list(map(str, value))
    return value if isinstance(value, (bool, str)) or type(value) is int else value.name.lower()


def _rounded(time: float | None) -> float | None:
    return round(time, 2) if time is not None else None
