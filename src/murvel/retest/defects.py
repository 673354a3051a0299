"""What became of a defect: its steps are run on the page as it is now, or its lead and its words are looked for."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import replace
from functools import partial

from murvel.casebook.defect import Defect, voice_of
from murvel.casebook.status import Status
from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Certainty, Check
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.lead import way_to, way_to_element
from murvel.dom.document import Element
from murvel.drills.faults import drill_catalogue
from murvel.reader.errors import ReaderError
from murvel.reader.moves.commands import command
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import Voice
from murvel.retest.again import Found
from murvel.retest.answer import Answer, Ground, Proposal, Sureness
from murvel.retest.doubting import FoundNow, doubted
from murvel.retest.drilling import by_drill
from murvel.retest.noticed import Noticed
from murvel.text import collapse, counted
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.walks.acceptance import proves, way_of, work_the_page
from murvel.walks.errors import WalkError
from murvel.walks.judging import stands_at
from murvel.walks.parsing import steps_of
from murvel.walks.replay import Made, Outcome, replay
from murvel.walks.walk import Expects, Step, Walk


class Judge:
    """Says of defects on one page what became of them.

    Args:
        new: the page as it is now.
        reopen: opens the page once more, for steps that change it; the sessions are closed by who calls.
        catalogue: the checks.
    """

    def __init__(self, new: ReadingSession, reopen: Callable[[Voice], ReadingSession], catalogue: Catalogue) -> None:
        self._new = new
        self._reopen = reopen
        self._catalogue = catalogue
        self._page = Facts(new)
        self._earlier: dict[ReadingSession, Facts] = {}
        """Earlier takes as checks see them."""
        self._noticed = Noticed()

    def answer(self, defect: Defect, status: Status, found: Found | None, old: ReadingSession | None) -> Answer:
        """Return what became of a defect.

        Args:
            defect: the defect.
            status: where it stands.
            found: its element as it was found again; None if it is gone.
            old: the take it was documented in, None if that is not kept.
        """
        answer = self._judged(defect, found, old)
        if answer.proposal is Proposal.CONFIRMED and found is not None:
            answer = self._unless_doubted(answer, found, old)
        if found is None:
            return replace(answer, status=status, sureness=Sureness.GONE)
        sureness = Sureness.CERTAIN if found.is_certain else Sureness.LIKELY
        return replace(answer, status=status, sureness=sureness, likeness=found.likeness)

    def _judged(self, defect: Defect, found: Found | None, old: ReadingSession | None) -> Answer:
        base = self._here(defect, found)
        try:
            steps = steps_of(defect.acceptance, self._catalogue)
        except WalkError as error:
            return replace(base, why=f"its steps cannot be read: {error.message}")
        if proves(steps):
            return self._by_steps(base, steps, found)
        if found is None:
            return self._gone(base)
        return self._by_lead_and_words(base, found, old)

    def _gone(self, base: Answer) -> Answer:
        """Its element is not there any more, and no step says that it is to go: what noticed it is asked elsewhere."""
        why = "its element is not on the page any more"
        check = self._catalogue.get(base.defect.check)
        if check is None or (check.needs_browser and not self._page.seen):
            return replace(base, why=f"{why}; look for what it was for")
        count = len(self._noticed.of(check, self._page))
        others = f"in {counted(count, 'other place', 'other places')}" if count else "nowhere"
        return replace(base, why=f"{why}, and the same is noticed {others}; look for what it was for")

    def _unless_doubted(self, answer: Answer, found: Found, old: ReadingSession | None) -> Answer:
        """A confirmation, or what is said in its place where something speaks against it."""
        check = self._catalogue.get(answer.defect.check)
        if check is not None and check.needs_browser and self._new.stage is not None and not self._page.seen:
            self._new.stage.look()  # no steps stand for what is seen
        now = FoundNow(self._page, found, self._facts_of(old) if old is not None else None)
        others = [each for each in self._catalogue if each is not check]
        return doubted(answer, now, check, others, self._noticed)

    def _here(self, defect: Defect, found: Found | None) -> Answer:
        """Where the element of a defect stands now, and what is heard there."""
        unknown = Answer(defect, Status.OPEN, Proposal.CANNOT_TELL, "", Sureness.GONE)
        if found is None:
            return unknown
        moves = tuple(way_to_element(self._page, found.element))
        position = self._page.document.position(found.element)
        return replace(
            unknown,
            heard=heard_by(self._new.tree, moves, voice_of(defect)),
            xpath=self._page.xpath(found.element),
            line=position.line if position is not None else None,
            moves=moves,
        )

    # With steps

    def _by_steps(self, base: Answer, steps: Sequence[Step], found: Found | None) -> Answer:
        """Run the steps; where they begin with the way to the element, that is the way that leads there now."""
        made = [each.words for each in base.defect.steps]
        way = way_of(steps)
        is_led = bool(way) and list(way) == made[len(made) - len(way) :]
        if is_led:
            if found is None:
                return self._gone(base)
            steps = _led_by([each for each in base.moves if each != "open page"], steps, len(way))
        is_acting = work_the_page(steps)
        looks = any(self._needs_browser(one.wanted) for step in steps for one in step.expected)
        voice = voice_of(base.defect)
        session = self._reopen(voice) if is_acting or looks else ReadingSession(self._new.tree, voice)
        elsewhere: list[Node | None] = []

        def stand(step: Made) -> None:
            node = session.tree.node_at(base.xpath) if base.xpath else None
            if step.step.expected and node is not None and not stands_at(session, node):
                elsewhere.append(session.node)

        outcome = replay(Walk(self._page.document.address, tuple(steps)), session, self._catalogue, stand, self._page)
        answer = replace(
            _said_of(base, outcome), ground=Ground.STEPS, moves=tuple(step.move for step in steps if step.move)
        )
        if answer.proposal is not Proposal.STILL_FAILS or is_acting or is_led or not way or not elsewhere:
            return answer
        led = session.tree.words_of(elsewhere[0]) if elsewhere[0] is not None else "nothing"
        why = f"the steps lead to {led} now, and its element stands elsewhere"
        return replace(answer, proposal=Proposal.CANNOT_TELL, why=why)

    def _needs_browser(self, wanted: object) -> bool:
        check = self._catalogue.get(wanted) if isinstance(wanted, str) else None
        return check is not None and check.needs_browser

    # Without steps

    def _by_lead_and_words(self, base: Answer, found: Found, old: ReadingSession | None) -> Answer:
        """Whether its lead is still there; where none is known, whether what is heard is still the same."""
        check = self._catalogue.get(base.defect.check)
        before = self._heard_before(base.defect, old)
        drilled = drill_catalogue().get(base.defect.check)
        if drilled is not None:
            return by_drill(base, drilled, partial(self._reopen, voice_of(base.defect)))
        base = replace(base, ground=Ground.HEARD)
        is_same = base.heard == before
        if check is not None:
            return self._by_lead(base, check, found.element, is_same=is_same)
        if base.defect.expected and collapse(base.defect.expected) in base.heard and not is_same:
            return replace(base, proposal=Proposal.CONFIRMED, why="what should be heard is heard")
        if is_same:
            return replace(base, proposal=Proposal.STILL_FAILS, why="the same is heard as when it was documented")
        return replace(base, why=f"something else is heard than “{before}”; listen whether that is right")

    def _by_lead(self, base: Answer, check: Check, element: Element, *, is_same: bool) -> Answer:
        if check.needs_browser and not self._page.seen:
            return replace(base, ground=Ground.NOTHING, why="what noticed it looks at a page in a browser only")
        base = replace(base, ground=Ground.LOOK if check.needs_browser else Ground.CHECK)
        leads = self._noticed.on(check, self._page, element)
        if leads:
            return replace(base, proposal=Proposal.STILL_FAILS, why=f"it is still noticed: {leads[0].says}")
        if check.certainty is Certainty.FAILS or not is_same:
            return replace(base, proposal=Proposal.CONFIRMED, why="it is not noticed any more")
        return replace(base, why="it is not noticed any more, and the same is heard; listen whether that is right")

    def _heard_before(self, defect: Defect, old: ReadingSession | None) -> str:
        """What was heard by the same kind of way in the take it was documented in."""
        node = old.tree.node_at(defect.place.xpath) if old is not None else None
        if old is None or node is None:
            return collapse(defect.heard)
        return heard_by(old.tree, tuple(way_to(self._facts_of(old), node)), voice_of(defect))

    def _facts_of(self, old: ReadingSession) -> Facts:
        if old not in self._earlier:
            self._earlier[old] = Facts(old)
        return self._earlier[old]


def _said_of(base: Answer, outcome: Outcome) -> Answer:
    """What the outcome of steps says of a defect."""
    last = next((each.heard[0] for each in reversed(outcome.made) if each.step.move and each.heard), base.heard)
    answer = replace(base, heard=last)
    if not outcome.unmet:
        count = sum(len(each.step.expected) for each in outcome.made)
        asks = outcome.made[-1].step.expected if outcome.made else ()
        is_by_check = count == 1 and bool(asks) and asks[0].expects is Expects.NOT_NOTICED
        words = "it is not noticed any more" if is_by_check else "what is expected is so"
        words = words if count == 1 else f"all {count} expectations are met"
        return replace(answer, proposal=Proposal.CONFIRMED, why=words)
    first = outcome.unmet[0]
    if first.is_unknown:
        return replace(answer, why=first.instead)
    if first.expectation.expects is Expects.ARRIVES:
        return replace(answer, why=first.words)
    return replace(answer, proposal=Proposal.STILL_FAILS, why=first.words)


def _led_by(way: Sequence[str], steps: Sequence[Step], known: int) -> list[Step]:
    """Steps with another way to the place: what is expected there stays with the last move."""
    proof = steps[known - 1]
    return [*(Step(move) for move in way[:-1]), replace(proof, move=way[-1] if way else ""), *steps[known:]]


def heard_by(tree: Tree, moves: Sequence[str], voice: Voice) -> str:
    """Return what is heard on the last of some moves from the top of a page."""
    session = ReadingSession(tree, voice)
    heard = collapse(session.arrive().text)
    for move in moves:
        if move != "open page":
            with suppress(ReaderError):
                heard = collapse(command(session, move).text)
    return heard
