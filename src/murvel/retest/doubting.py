"""Doubting that a defect is repaired: what speaks against it although its steps pass and its check is silent.

A check is silent about an element that has become something else, is hidden, or was only likely found again; and a
fault may have come back in another form.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from murvel.casebook.defect import Defect
from murvel.checks.engine.check import Certainty, Check
from murvel.checks.engine.facts import Facts
from murvel.checks.tables.forms_of_faults import ABOUT_WHAT_IS_AROUND, REPAIRED_BY_GOING, may_be_the_same
from murvel.dom.document import Element
from murvel.dom.places import find_xpath
from murvel.reader.speech.wording.words import role_words
from murvel.retest.again import Found
from murvel.retest.answer import Answer, Ground, Proposal
from murvel.retest.noticed import Noticed
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import PLAIN_ROLES

LIKE_ENOUGH = 0.6
"""An element that is not certain and less like the one that is meant than this may be another one."""


@dataclass(frozen=True, slots=True)
class FoundNow:
    """The element of a defect as it is now.

    Attributes:
        page: the page as checks see it.
        found: the element as it was found again.
        before: the page as it was when the defect was documented, None if that is not kept.
    """

    page: Facts
    found: Found
    before: Facts | None

    @property
    def element(self) -> Element:
        """The element."""
        return self.found.element


def doubted(answer: Answer, now: FoundNow, check: Check | None, others: Iterable[Check], noticed: Noticed) -> Answer:
    """Return a confirmation as it is, or what is to be said in its place.

    Args:
        answer: the confirmation.
        now: where the defect's element is now.
        check: the check that noticed the defect, None if none did.
        others: the other checks.
        noticed: what checks notice.
    """
    if check is not None:
        if check.needs_browser and now.page.seen:
            answer = replace(answer, ground=Ground.LOOK)
        if check.needs_browser and not now.page.seen:
            return _untold(answer, "what noticed it looks at a page in a browser only")
        if leads := noticed.on(check, now.page, now.element):
            return replace(answer, proposal=Proposal.STILL_FAILS, why=f"it is still noticed: {leads[0].says}")
    said = _in_another_form(answer, now, check, others, noticed)
    if said is not None:
        return said
    if not now.found.is_certain and now.found.likeness < LIKE_ENOUGH:
        return _untold(answer, "its element was not found for certain, and the one that is most like it may be another")
    was, lost = _role_before(answer.defect, now), now.page.tree.node_of(now.element)
    if was is None or was.role in PLAIN_ROLES or (check is not None and check.id in REPAIRED_BY_GOING):
        return answer
    if lost is None:
        return _untold(answer, f"its element is not exposed any more; it was {_a_role(was)}")
    if lost.role in PLAIN_ROLES:
        return _untold(answer, f"its element is not {_a_role(was)} any more")
    return answer


def _in_another_form(
    answer: Answer, now: FoundNow, check: Check | None, others: Iterable[Check], noticed: Noticed
) -> Answer | None:
    """What a check notices on the element that it did not notice there before, where that may be the same fault."""
    criteria = {answer.defect.criterion, *(check.criteria if check is not None else ())}
    known = find_xpath(now.before.document, answer.defect.place.xpath) if now.before is not None else None
    doubt = None
    for other in others:
        is_family = check is not None and may_be_the_same(check.id, other.id)
        if not (is_family or criteria.intersection(other.criteria)) or (other.needs_browser and not now.page.seen):
            continue
        on = noticed.around if is_family and check is not None and check.id in ABOUT_WHAT_IS_AROUND else noticed.on
        leads = on(other, now.page, now.element)
        if not leads or (now.before is not None and known is not None and on(other, now.before, known)):
            continue
        if is_family or leads[0].certainty is Certainty.FAILS:
            why = f"it fails in another form: {leads[0].says}"
            return replace(answer, proposal=Proposal.STILL_FAILS, why=why)
        doubt = doubt or _untold(answer, f"{answer.why}, and now this is noticed there: {leads[0].says}")
    return doubt


def _role_before(defect: Defect, now: FoundNow) -> Node | None:
    return now.before.tree.node_at(defect.place.xpath) if now.before is not None else None


def _a_role(node: Node) -> str:
    words = role_words(node)
    return f"{'an' if words[:1] in 'aeiou' else 'a'} {words}"


def _untold(answer: Answer, why: str) -> Answer:
    return replace(answer, proposal=Proposal.CANNOT_TELL, why=why)
