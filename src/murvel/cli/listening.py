"""The line mode: one command a line, one utterance a line; no cursor addressing, no colour.

Made so that somebody who reads the terminal with software of their own can do the whole job, documenting included.
"""

from __future__ import annotations

import sys
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

from murvel.casebook.defect import Defect, Impact
from murvel.cli.defects import DEFECT_COMMANDS, Defects
from murvel.cli.explaining import explanation_lines
from murvel.cli.surveying import SURVEY_COMMANDS, Surveying
from murvel.errors import MurvelError
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.reader import acting
from murvel.reader.moves.commands import COMMANDS, command
from murvel.reader.moves.ring import Ring, press_through
from murvel.reader.readout.kinds import TARGETS
from murvel.reader.speech.voice_files import all_voices, voice_named
from murvel.report.path_text import path_lines
from murvel.report.timeline import timeline_lines
from murvel.survey.counts import count_words
from murvel.survey.entry import Slice
from murvel.survey.eyes import EYES
from murvel.text import visible
from murvel.tree.names.explain import explain
from murvel.work.work import Work

PROMPT = "> "

_OWN = {
    "help": "list the commands",
    "history": "list what was heard",
    "read on": "read from here to the end",
    "said as": "say this in all voices",
    "voice NAME": "go on in another voice",
    "timeline": "list what was spoken when, and what never was",
    "why": "the facts of what was heard last, and where its name comes from",
    "document": "document a defect in what was heard last, question by question",
    **SURVEY_COMMANDS,
    "document LIST N": "document a defect about an entry, with its evidence filled in",
    "document LIST N all": "the same, with all other places at which the same is noticed",
    "keyboard": "list the Tab stops beside the reading order, and what Tab does not reach",
    "keyboard keys": "in a browser, press Tab through the whole page, on and back, and list where it went",
    "look": "in a browser, look at the page: contrast, targets and focus, for those lists of the survey",
    "walk": "begin to keep what is done and heard as a walk; once more: write it into a file",
    **DEFECT_COMMANDS,
    "undo": "take back what was documented or judged last",
    "quit": "keep the place and leave",
}
"""Commands of the line mode itself, beside the moves."""


class Listening:
    """A dialogue over a piece of work.

    Attributes:
        work: the work.
        is_over: whether it was left.
    """

    def __init__(self, work: Work, voice_folder: Path, is_interactive: bool, setup: Setup = DEFAULT_SETUP) -> None:
        self.work = work
        self._defects = Defects(work, setup)
        self._surveying = Surveying(work)
        self._voice_folder = voice_folder
        self.is_over = False
        self._prompt = PROMPT if is_interactive else ""
        self._draft: Defect | None = None
        self._question = 0

    def arrive(self) -> Iterator[str]:
        """Yield what is heard on arrival."""
        self.work.arrive()
        for entry in self.work.session.log:
            yield visible(entry.line)

    def lines(self) -> Iterator[str]:
        """Yield the lines that are typed, until there are no more or the dialogue is over."""
        while not self.is_over:
            if self._prompt:
                sys.stdout.write(self._prompt)
                sys.stdout.flush()
            line = sys.stdin.readline()
            if not line:
                return
            yield line.rstrip("\n")

    def answer(self, line: str) -> Iterator[str]:
        """Yield the lines that answer one that was typed."""
        if self._draft is not None:
            yield from self._answer_question(line.strip())
            return
        words = " ".join(line.split())
        if not words:
            words = "next"
        try:
            yield from self._do(words)
        except MurvelError as error:
            yield str(error)

    def _do(self, words: str) -> Iterator[str]:
        session = self.work.session
        match words.lower():
            case "help":
                yield from _help()
            case "history":
                for entry in session.log:
                    yield f"{entry.number}. {visible(entry.move)}: {visible(entry.line)}"
            case "read on":
                yield from self._read_on()
            case "said as":
                for voice, utterance, _ in session.said_as(all_voices(self._voice_folder)[0]):
                    yield f"{visible(voice.title)}: {visible(utterance.text)}"
            case "timeline":
                yield from timeline_lines(session)
            case "why":
                yield from self._why()
            case "document":
                yield from self._begin_document(self.work.evidence())
            case "undo":
                change = self.work.undo()
                yield f"Taken back: {change.words}." if change is not None else "There is nothing to take back."
            case "walk" if self.work.is_walking:
                yield f"The walk is written: {visible(str(self.work.end_walk()))}"
            case "walk":
                self.work.begin_walk()
                yield "The walk begins here."
            case "quit" | "exit":
                self.is_over = True
            case "keyboard":
                yield from path_lines(self.work.path)
            case "keyboard keys":
                yield from self._press_through()
            case "look":
                yield from self._look()
            case other if other.split()[0] == "survey":
                yield from self._surveying.lists(words.partition(" ")[2])
            case other if other.split()[0] == "entry":
                yield from self._surveying.entry(words.partition(" ")[2])
            case other if other.split()[0] == "judge":
                yield from self._surveying.judge(words.partition(" ")[2])
            case other if other.startswith("document "):
                named, more = self._surveying.named(words.partition(" ")[2])
                draft = self.work.evidence_of_entry(named)
                if more == "all":
                    draft = replace(draft, further=self.work.same_fault(draft))
                yield from self._begin_document(draft)
            case other if other.startswith("voice "):
                voice = voice_named(words.partition(" ")[2], self._voice_folder)
                known = len(session.log)
                session.change_voice(voice)
                yield from (visible(each.line) for each in session.log[known:])
            case _:
                told = self._defects.answer(words)
                yield from told if told is not None else self._move(words)

    def _move(self, words: str) -> Iterator[str]:
        """Do a move; then time passes until all of it was spoken, and live regions have their say."""
        session = self.work.session
        known = len(session.log)
        command(session, words)
        yield from (visible(each.line) for each in session.log[known:])
        known = len(session.log)
        acting.hear_out(session)
        yield from (visible(each.line) for each in session.log[known:])

    def _read_on(self) -> Iterator[str]:
        session = self.work.session
        while True:
            before = session.item
            command(session, "next")
            yield visible(session.log[-1].line)
            if session.item is before:
                return
            acting.wait(session, session.speaker.lasts(session.log[-1].utterance.text))

    def _press_through(self) -> Iterator[str]:
        session = self.work.session
        if session.stage is None or not session.stage.is_live:
            yield "Keys are pressed in a browser only; open the page with --browser."
            return
        ring = Ring()
        for _ in press_through(session, ring):
            pass
        yield from map(visible, ring.lines())
        yield from path_lines(self.work.path)

    def _look(self) -> Iterator[str]:
        stage = self.work.session.stage
        if stage is None or not stage.is_live:
            yield "Contrast, targets and focus are seen in a browser only; open the page with --browser."
            return
        for _ in self.work.look():
            pass
        yield from (count_words(self.work.survey, each, self.work.judgement) for each in Slice if each in EYES)

    def _why(self) -> Iterator[str]:
        session = self.work.session
        node = session.node
        if node is None:
            yield "Nothing was heard yet."
            return
        if node.is_text:
            yield "Static text is read as it stands. It stands in:"
        yield from map(visible, explanation_lines(session.tree, explain(session.tree, node.element)))

    # Documenting, question by question

    def _begin_document(self, draft: Defect | None) -> Iterator[str]:
        if draft is None:
            yield "Nothing was heard yet, so there is nothing to document."
            return
        self._draft, self._question = draft, 0
        yield f"Heard: {visible(draft.heard)}"
        for each in draft.further:
            yield f"also at: {visible(each.place.words)}, {each.place.in_source}"
        yield self._asked()

    def _asked(self) -> str:
        """The question that is to be answered now, with what stands there already."""
        field, question = _QUESTIONS[self._question]
        given = visible(str(getattr(self._draft, field)))
        return f"{question} Empty keeps: {given}." if given else question

    def _answer_question(self, answer: str) -> Iterator[str]:
        assert self._draft is not None
        is_confirmed = self._question == len(_QUESTIONS)
        if answer == "." or (is_confirmed and answer.lower() != "yes"):
            self._draft = None
            yield "Nothing was documented."
            return
        if is_confirmed:
            yield from self._keep_draft()
            return
        field = _QUESTIONS[self._question][0]
        if field == "impact":
            names = [each.value for each in Impact]
            if answer and answer not in names:
                yield f"It is one of: {', '.join(names)}."
                return
            if answer:
                self._draft = replace(self._draft, impact=Impact(answer))
        elif answer:
            self._draft = _filled(self._draft, field, answer)
        self._question += 1
        if self._question < len(_QUESTIONS):
            yield self._asked()
            return
        if self._draft.is_unwritten:
            yield "Nothing is written but what was heard. yes keeps it so, anything else drops it."
            return
        yield from self._keep_draft()

    def _keep_draft(self) -> Iterator[str]:
        assert self._draft is not None
        kept = self.work.document(self._draft)
        self._draft = None
        yield f"Defect {kept.id} is kept in {visible(self.work.casebook.path.name)}."


_QUESTIONS = (
    ("expected", "What should be heard? A dot alone stops."),
    ("impact", f"How badly does it hurt: {', '.join(each.value for each in Impact)}?"),
    ("criterion", "Which criterion, as in 4.1.2?"),
    ("repair", "How can it be repaired?"),
    ("title", "What is it called, in a line?"),
)
"""What is asked of a defect beside the evidence, one question a line."""


def _filled(draft: Defect, field: str, answer: str) -> Defect:
    match field:
        case "expected":
            return replace(draft, expected=answer)
        case "criterion":
            return replace(draft, criterion=answer)
        case "title":
            return replace(draft, title=answer)
        case _:
            return replace(draft, repair=answer)


def _help() -> Iterator[str]:
    for each in COMMANDS:
        yield f"{each.words}: {each.about}"
    for words, about in _OWN.items():
        yield f"{words}: {about}"
    yield "An empty line reads the next item. A move followed by, say, “, 3 times” is made three times."
    yield f"A KIND is one of: {', '.join(kind.id for kind in TARGETS)}."
