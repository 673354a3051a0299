"""All that Murvel does with a page, in one go: what hostile pages are tried with."""

from __future__ import annotations

import json
from xml.etree import ElementTree

from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.record import PageResult, record_of
from murvel.checks.engine.run import leads_of
from murvel.loading.fetch import PageSource
from murvel.reader.moves.commands import command
from murvel.reader.session import ReadingSession
from murvel.report.data.pages import reading_data, survey_data
from murvel.report.formats import LeadFormat
from murvel.report.leads import render_leads
from murvel.report.path_text import path_lines
from murvel.stage.html.stage import HtmlStage
from murvel.survey.choice import Choice
from murvel.survey.entry import OPEN, Slice
from murvel.survey.path import KeyboardPath
from murvel.survey.survey import survey_of
from murvel.tree.exchange.imported import import_tree
from murvel.tree.exchange.write import to_json, to_text

MOVES = (
    "next", "jump headings", "jump fields", "tab", "tab", "activate", "space", "arrow down", "escape", "shift+tab", "jump links",
    "activate", "jump buttons", "enter", "jump tables", "cell right", "cell down", "read row", "into", "out", "object", "word",
    "character", "spell", "find a", "last", "previous", "where", "wait 3", "first",
)  # fmt: skip


def work_through(markup: str, *, moves: tuple[str, ...] = MOVES, reports: bool = True) -> ReadingSession:
    """Open a page, read, move, survey, check and write it; whatever raises is a fault."""
    stage = HtmlStage(PageSource(markup))
    session = ReadingSession(stage.tree, stage=stage)
    session.arrive()
    for move in moves:
        command(session, move)
    session.spoken.start(len(session.readout.items))
    leads = leads_of(session, built_in())
    if reports:
        _write(session, PageResult("a page", records=[record_of(lead) for lead in leads]))
    return session


def _write(session: ReadingSession, result: PageResult) -> None:
    result.problems = list(session.tree.document.problems)
    for form in LeadFormat:
        text = render_leads([result], form, built_in())
        text.encode("utf-8")
        if form is LeadFormat.JUNIT:
            ElementTree.fromstring(text)
        elif form in (LeadFormat.JSON, LeadFormat.SARIF):
            json.loads(text)
    written = "".join(to_json(session.tree))
    import_tree(written, "a.json", 1280)  # it stands deeper than Python reads by itself
    for line in to_text(session.tree):
        line.encode("utf-8", "surrogatepass")
    json.dumps(reading_data(session))
    json.dumps(survey_data(survey_of(session, built_in()), list(Slice), Choice(), lambda entry: OPEN))
    list(path_lines(KeyboardPath(survey_of(session, built_in()))))
