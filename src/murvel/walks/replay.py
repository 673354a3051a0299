"""Making a walk again: each move, and what of the expectations is met."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.facts import Facts
from murvel.reader.acting import load
from murvel.reader.moves.commands import command
from murvel.reader.moves.moves import Mode
from murvel.reader.session import ReadingSession
from murvel.text import collapse
from murvel.walks.errors import WalkError
from murvel.walks.judging import Moment, Unmet, judge, texts_of, unarrived
from murvel.walks.serialising import scalar
from murvel.walks.walk import Expectation, Expects, Step, Walk


@dataclass(frozen=True, slots=True)
class Made:
    """A step that was made.

    Attributes:
        step: the step.
        heard: what was heard on its move and since, in turn.
        unmet: what was expected and is not so.
    """

    step: Step
    heard: tuple[str, ...]
    unmet: tuple[Unmet, ...]


@dataclass(slots=True)
class Outcome:
    """What came of a walk.

    Attributes:
        walk: the walk.
        made: its steps, as they were made.
    """

    walk: Walk
    made: list[Made] = field(default_factory=list)

    @property
    def unmet(self) -> list[Unmet]:
        """All that is not so; the first is where the page and the walk part."""
        return [unmet for each in self.made for unmet in each.unmet]


def replay(
    walk: Walk,
    session: ReadingSession,
    catalogue: Catalogue,
    tell: Callable[[Made], None] = lambda _: None,
    page: Facts | None = None,
) -> Outcome:
    """Make a walk on a page that is open and was not read yet.

    Args:
        walk: the walk.
        session: the reading of the page.
        catalogue: the checks that it may name.
        tell: is called with each step as it is made; what it raises ends the walk.
        page: the page as checks see it, where that is known already.

    Raises:
        WalkError: it is not the page that the walk is about.
        MurvelError: the page does not answer.
    """
    session.arrive()
    load(session)
    outcome = Outcome(walk)
    for made in walked(walk, session, catalogue, page):
        outcome.made.append(made)
        tell(made)
    return outcome


def walked(walk: Walk, session: ReadingSession, catalogue: Catalogue, page: Facts | None = None) -> Iterator[Made]:
    """Make a walk on a page that is open, step by step, and yield each.

    Args:
        walk: the walk.
        session: the reading of the page; what was heard before counts as heard at the start.
        catalogue, page: as in `replay`.

    Raises:
        WalkError: it is not the page that the walk is about.
        MurvelError: the page does not answer.
    """
    why_not = walk.meant.why_not(session.tree)
    if why_not:
        raise WalkError(
            f"This is not the page of the walk: {why_not}", "check the address, or what stands behind is: in the walk."
        )
    if walk.mode:
        session.mode = Mode(walk.mode)
    arrival = texts_of(session, 0)
    moment = Moment(session, catalogue, arrival, list(arrival), page)
    for step in walk.steps:
        if step.move:
            known = len(session.log)
            own = collapse(command(session, step.move).text)
            heard = [own, *(each for each in texts_of(session, known) if each != own)]
            moment = Moment(session, catalogue, heard, [*moment.since_order, *heard], page)
            if session.failure:  # what is expected there cannot be judged elsewhere
                yield Made(step, tuple(heard), (unarrived(session, step),))
                continue
        unmet = [found for each in step.expected if (found := judge(each, moment)) is not None]
        yield Made(step, tuple(moment.heard), tuple(unmet))


def kept(session: ReadingSession, since: int = 0) -> Iterator[Step]:
    """Yield the moves of a session as steps, each with what was heard on it.

    Args:
        session: the reading.
        since: the number of moves that are left out, those before the walk began.
    """
    asked = session.asked[since:]
    for at, (words, known) in enumerate(asked):
        end = asked[at + 1][1] if at + 1 < len(asked) else len(session.log)
        texts = [text for text in texts_of(session, known)[: end - known] if text]
        expected = (Expectation(Expects.HEARD, texts[0]),) if texts else ()
        yield Step(words, expected)


def updated(text: str, outcome: Outcome) -> str:
    """Return the text of a walk with what is heard now in place of what was expected word by word.

    All else stays as it was written: remarks, order, quotes. So does an expectation in whose place nothing is heard.

    Args:
        text: the walk's file.
        outcome: what came of the walk in it.
    """
    changes = [
        (unmet.expectation.span, scalar(made.heard[0]))
        for made in outcome.made
        for unmet in made.unmet
        if unmet.expectation.expects is Expects.HEARD and unmet.expectation.span != (0, 0) and any(made.heard[:1])
    ]
    for (begin, end), words in sorted(changes, reverse=True):
        text = text[:begin] + words + text[end:]
    return text
