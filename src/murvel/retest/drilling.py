"""What became of a defect that a drill found: its widget is drilled again, on a page of its own."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from murvel.checks.engine.check import Check
from murvel.drills.errors import DrillError
from murvel.drills.found import Drilled, Kind
from murvel.drills.run import drill, split
from murvel.reader.acting import load
from murvel.reader.session import ReadingSession
from murvel.retest.answer import Answer, Ground, Proposal

_NO_WIDGET = "its element is no widget that is drilled any more; work it by hand"
_FORM = "a re-test sends no form; drill it by hand"


def by_drill(base: Answer, check: Check, reopen: Callable[[], ReadingSession]) -> Answer:
    """Return what drilling says of a defect.

    Args:
        base: where its element stands now.
        check: what the drill found then.
        reopen: opens the page once more; closing the sessions is up to the caller.
    """
    session = reopen()
    drilled, left = split(session)
    kinds = [each.kind for each in drilled if each.path == base.xpath]
    if not kinds:
        is_form = any(each.path == base.xpath and each.kind is Kind.FORM for each in left)
        return replace(base, why=_FORM if is_form else _NO_WIDGET)
    base = replace(base, ground=Ground.DRILL)
    outcomes: list[Drilled] = []
    for kind in kinds:
        session = reopen()
        session.arrive()
        load(session)
        widget = next(each for each in split(session)[0] if (each.kind, each.path) == (kind, base.xpath))
        try:
            outcomes.append(drill(session, widget))
        except DrillError as error:
            return replace(base, ground=Ground.NOTHING, why=f"it cannot be drilled: {error.message}")
    faults = [fault for each in outcomes for fault in each.faults]
    same = next((fault for fault in faults if fault.check.id == check.id), None)
    if same is not None:
        detail = f": {same.detail}" if same.detail else ""
        return replace(base, proposal=Proposal.STILL_FAILS, why=f"the drill finds it again: {same.check.title}{detail}")
    away = next((each.not_reached for each in outcomes if each.not_reached), "")
    if away:
        return replace(base, why=f"the drill did not reach it: {away}")
    if faults:
        return replace(base, why=f"the drill finds something else now: {faults[0].check.title}")
    tried = dict.fromkeys(key for each in outcomes for key in each.tried)
    needed = {step.words.partition(" ")[0] for step in base.defect.steps}
    untried = sorted(needed.intersection(key for each in outcomes for key in each.left) - tried.keys())
    if untried:
        return replace(base, why=f"the drill did not try {', '.join(untried)} this time, which found it")
    if session.stage is None or not session.stage.is_live:
        return replace(base, why="the drill finds nothing, on a page whose scripts do not run; drill it in a browser")
    words = ", ".join(tried)
    return replace(base, proposal=Proposal.CONFIRMED, why=f"the drill does not find it any more, with {words}")
