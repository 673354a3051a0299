"""Trying acceptance steps while a defect is written: they should fail for as long as it is there."""

from __future__ import annotations

from typing import NamedTuple

from murvel.casebook.content import TakeContent
from murvel.casebook.defect import Defect
from murvel.checks.engine.catalogue import Catalogue
from murvel.drills.faults import drill_catalogue
from murvel.reader.session import ReadingSession
from murvel.retest.takes import session_of_take
from murvel.walks.acceptance import proposed_steps, proves, work_the_page
from murvel.walks.parsing import steps_of
from murvel.walks.replay import replay
from murvel.walks.serialising import steps_text
from murvel.walks.walk import Expects, Walk


class Tried(NamedTuple):
    """What came of trying steps.

    Attributes:
        acceptance: the steps, proposed where none were written.
        words: what came of them, in a sentence or two.
        is_well: whether they fail as they should.
        is_doubtful: whether they prove nothing as they are: nothing in them fails, or they cannot be run.
    """

    acceptance: str
    words: str
    is_well: bool = False
    is_doubtful: bool = False


def try_steps(defect: Defect, session: ReadingSession, catalogue: Catalogue, content: TakeContent | None) -> Tried:
    """Run the acceptance steps of a defect on the page as its take has it; where there are none, propose some first.

    Args:
        defect: the defect as it is written so far.
        session: the reading of its page; it is not moved.
        catalogue: the checks that steps may name.
        content: what the take was made of, None if that is not kept.

    Raises:
        WalkError: the steps cannot be read.
        MurvelError: the take cannot be opened.
    """
    steps = steps_of(defect.acceptance, catalogue)
    text = defect.acceptance
    if not steps and drill_catalogue().get(defect.check) is not None:
        return Tried(text, "There is nothing to try: a drill found it, and a re-test drills it again.")
    if not steps:
        steps = proposed_steps([each.words for each in defect.steps], defect.check, defect.expected)
        text = steps_text(steps)
    if not proves(steps):
        return Tried(text, "There is nothing to try: write what should be heard, or steps that expect something.")
    document = session.tree.document
    trial = ReadingSession(session.tree, session.voice)
    if work_the_page(steps):
        if content is None or (session.stage is not None and session.stage.is_live):
            return Tried(text, "These steps act on the page; they are run when it is re-tested.")
        trial = session_of_take(content, document.address, document.width)
    outcome = replay(Walk(document.address, steps), trial, catalogue)
    count = sum(len(each.expected) for each in steps)
    if not outcome.unmet:
        words = "These pass already: nothing in them fails while the defect is there."
        return Tried(text, words, is_doubtful=True)
    lost = next((each for each in outcome.unmet if each.expectation.expects is Expects.ARRIVES), None)
    if lost is not None:
        return Tried(text, f"These steps do not come to their end: {lost.words}.", is_doubtful=True)
    words = f"{len(outcome.unmet)} of {count} fail now, as they should: {outcome.unmet[0].words}."
    return Tried(text, words, is_well=True)
