"""The re-test of one page: its defects, what is noticed anew, and what became of what was judged."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from operator import attrgetter

from murvel.casebook.defect import Defect
from murvel.casebook.status import Status
from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.record import Record, record_of
from murvel.dom.document import Element
from murvel.dom.places import find_xpath
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import Voice
from murvel.retest.again import Found, find_again
from murvel.retest.answer import Answer, ChangedEntry, Proposal
from murvel.retest.defects import Judge
from murvel.retest.verdicts import changed_entries
from murvel.survey.entry import EntryKey, Judgement
from murvel.survey.survey import Survey, survey_of
from murvel.survey.verdicts import placed
from murvel.text import counted
from murvel.tree.model import Tree


@dataclass(frozen=True, slots=True)
class Before:
    """What is known of a page from before.

    Attributes:
        page: the casebook's number of it.
        defects: the defects with places on it, each with where it stands.
        judged: what was said of entries of its survey, by their keys.
        takes: its takes that are kept, by the casebook's numbers.
        last: the number of the last of them, None if none is kept.
    """

    page: int
    defects: Sequence[tuple[Defect, Status]]
    judged: Mapping[EntryKey, Judgement]
    takes: Mapping[int, ReadingSession]
    last: int | None


@dataclass(frozen=True, slots=True)
class Now:
    """What a re-test finds.

    Attributes:
        answers: what became of each defect.
        new_leads: what checks notice that they did not notice in the last take.
        changed: entries that were judged, and changed.
        carried: how many verdicts stand for entries that are the same.
    """

    answers: list[Answer]
    new_leads: list[Record]
    changed: list[ChangedEntry]
    carried: int


def retest(
    before: Before,
    new: ReadingSession,
    reopen: Callable[[Voice], ReadingSession],
    catalogue: Catalogue,
    as_taken: ReadingSession | None = None,
) -> Now:
    """Return what became of a page's defects and verdicts, and what is noticed there anew.

    Args:
        before: what is known of it from before.
        new: the page as it is now; reading is not moved.
        reopen: opens the page once more in a voice, for steps that change it; closing those sessions is up to the
            caller.
        catalogue: the checks.
        as_taken: the page as its new take keeps it, where that is to be compared with earlier ones in place of the
            page at work in a browser.

    Raises:
        MurvelError: the page does not answer, or a check cannot be run on it.
    """
    judge = Judge(new, reopen, catalogue)
    places = [(defect, each) for defect, _ in before.defects for each in _places_of(defect, before.page)]
    found = _found(before, [each for _, each in places], new.tree)
    answers = []
    for defect, status in before.defects:
        here = [
            judge.answer(each, status, found.get(each), before.takes.get(each.take))
            for whole, each in places
            if whole is defect
        ]
        answers.append(_together(defect, here, before.page))
    survey = survey_of(new, catalogue)
    last = before.takes.get(before.last) if before.last is not None else None
    old = survey_of(last, catalogue) if last is not None else None
    shown = survey_of(as_taken, catalogue) if as_taken is not None and old is not None else survey
    new_leads = _new_leads(old, shown) if old is not None else []
    judged = placed(before.judged, old if old is not None else survey)
    changed = list(changed_entries(judged, old, survey))
    return Now(answers, new_leads, changed, len(judged) - len({each.key for each in changed}))


def _places_of(defect: Defect, page: int) -> list[Defect]:
    """A defect as one for each of its places on a page; its steps are those of its first place."""
    found = [defect] if defect.page == page else []
    for each in defect.further:
        if each.page == page:
            there = replace(defect, take=each.take, place=each.place, heard=each.heard)
            found.append(replace(there, page=page, steps=(), straight=(), acceptance="", further=()))
    return found


def _together(defect: Defect, answers: Sequence[Answer], page: int) -> Answer:
    """What is said of a defect as a whole: it is repaired where all of its places are."""
    counts = min(answers, key=attrgetter("rank"))
    why = counts.why
    if len(answers) > 1:
        done = sum(each.proposal is Proposal.CONFIRMED for each in answers)
        why = f"{why}; {done} of {len(answers)} places are repaired"
    elsewhere = frozenset({defect.page, *(each.page for each in defect.further)} - {page})
    if elsewhere and counts.proposal is Proposal.CONFIRMED:
        why = f"{why}; it has places on {counted(len(elsewhere), 'other page', 'other pages')}"
    return replace(counts, defect=defect, why=why, elsewhere=elsewhere)


def _found(before: Before, places: Sequence[Defect], new: Tree) -> dict[Defect, Found]:
    """The elements of defects as they were found again, for each of their places."""
    found: dict[Defect, Found] = {}
    by_take: dict[int, list[tuple[Defect, Element]]] = {}
    for place in places:
        take = before.takes.get(place.take)
        if take is None:
            same = _at_same_place(place, new)
            if same is not None:
                found[place] = same
            continue
        element = find_xpath(take.tree.document, place.place.xpath)
        if element is not None:
            by_take.setdefault(place.take, []).append((place, element))
    for number, wanted in by_take.items():
        again = find_again(before.takes[number].tree, new, [element for _, element in wanted])
        found |= {place: again[element] for place, element in wanted if element in again}
    return found


def _at_same_place(defect: Defect, new: Tree) -> Found | None:
    """What stands now where a defect was, in a take that is not kept: likely at best."""
    element = find_xpath(new.document, defect.place.xpath)
    node = new.node_of(element) if element is not None else None
    if element is None or node is None or node.role != defect.place.role:
        return None
    return Found(element, 1.0 if node.name == defect.place.name else 0.5, is_certain=False)


def _new_leads(old: Survey, new: Survey) -> list[Record]:
    known = Counter(lead.fingerprint for lead in old.leads)
    more = []
    for lead in new.leads:
        if known[lead.fingerprint]:
            known[lead.fingerprint] -= 1
        else:
            more.append(record_of(lead))
    return more
