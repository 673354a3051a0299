"""What the line mode does with documented defects: list, show, change several, try their steps, re-test the page."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from murvel.casebook.defect import Defect, Impact, MoveMade
from murvel.casebook.listing import Listing, Order
from murvel.casebook.status import standing
from murvel.checks.tables.criteria import BY_NUMBER
from murvel.errors import did_you_mean
from murvel.loading.setup import Setup
from murvel.report.retest import page_lines
from murvel.retest.answer import PageRetest
from murvel.text import visible
from murvel.work.documenting import they_are
from murvel.work.retest_casebook import accept, retest_page
from murvel.work.work import Work

DEFECT_COMMANDS = {
    "defects [by ORDER] [WORDS]": "list defects, by impact, status, criterion, page or tag; those with some words",
    "defect N": "show all of a defect",
    "edit N FIELD WORDS": "change a defect's title, heard, expected, impact, stopped, criterion, repair or notes",
    "status N,N WORDS": "say where defects stand: repaired, confirmed, reopened, open, or accepted REASON until DAY",
    "tag N,N WORDS": "give defects tags of your own",
    "attach N FILE": "attach a picture, a drawing or a text to a defect",
    "delete N,N": "delete defects",
    "steps N": "run a defect's acceptance steps on the page as it is; they should fail",
    "retest [ADDRESS]": "take this page anew, from another address if need be; tell which defects are repaired",
    "retest accept": "change the statuses as the re-test proposes, where it is sure",
}
"""Commands about defects, with what they do."""

_FIELDS = ("title", "heard", "expected", "impact", "stopped", "criterion", "repair", "notes")


class Defects:
    """The defects of a piece of work, line by line.

    Args:
        work: the work.
        setup: how pages are opened.
    """

    def __init__(self, work: Work, setup: Setup) -> None:
        self.work = work
        self._setup = setup
        self._result: PageRetest | None = None

    def answer(self, words: str) -> Iterator[str] | None:
        """Return the lines of a command about defects, None if it is none."""
        first, _, rest = words.strip().partition(" ")
        match first.lower():
            case "defects":
                return self._listed(rest)
            case "defect" if rest:
                return self._whole(rest)
            case "edit" if rest:
                return self._edited(rest)
            case "attach" if rest:
                return self._attached(rest)
            case "status" | "tag" | "delete" if rest:
                return self._changed(first.lower(), rest)
            case "steps" if rest:
                return self._tried(rest)
            case "retest":
                return self._accepted() if rest == "accept" else self._retested(rest)
        return None

    def _listed(self, words: str) -> Iterator[str]:
        listing = Listing(words=words)
        if words.startswith("by "):
            order, _, rest = words.removeprefix("by ").partition(" ")
            if order not in list(Order):
                yield f"There is no order {visible(order)!r}; {did_you_mean(order, [each.value for each in Order])}"
                return
            listing = Listing(Order(order), rest)
        statuses = self.work.statuses()
        addresses = {page.id: page.address for page in self.work.casebook.pages()}
        every = self.work.defects()
        shown = listing.shown(every, statuses, addresses)
        group = ""
        for each in shown:
            before, group = group, listing.group(each, statuses, addresses)
            if group != before:
                yield visible(group)
            heard, expected = visible(each.heard), visible(each.expected)
            status = standing(each, statuses)
            yield f"{each.id}. {visible(each.headline)} ({status}): heard {heard}, should be {expected}"
        yield f"{len(shown)} documented." if len(shown) == len(every) else f"{len(shown)} of {len(every)} documented."

    def _whole(self, number: str) -> Iterator[str]:
        found, problem = self._named(number)
        if problem:
            yield problem
            return
        (defect,) = found
        criterion = BY_NUMBER.get(defect.criterion)
        status = standing(defect, self.work.statuses())
        facts = {
            "defect": f"{defect.id}. {defect.headline}",
            "status": f"{status}: {status.meaning}",
            "heard": defect.heard,
            "expected": defect.expected,
            "impact": defect.impact.value,
            "who is stopped": defect.stopped,
            "criterion": criterion.label if criterion is not None else "",
            "repair": defect.repair,
            "tags": " ".join(defect.tags),
            "notes": defect.notes,
            "element": f"{defect.place.words}, {defect.place.in_source}, {defect.place.xpath}",
            "within": defect.place.within,
            "stage": defect.stage,
        }
        for label, value in facts.items():
            for line in value.splitlines():
                yield f"{label}: {visible(line)}"
        for each in defect.further:
            yield f"also at: {visible(each.place.words)}, {each.place.in_source}"
        for attachment in self.work.attachments(defect):
            yield f"attached: {attachment.name}, {visible(attachment.words)}"
        yield from _moves("way", defect.steps)
        yield from _moves("straight on", defect.straight)
        for line in defect.acceptance.splitlines():
            yield f"repaired when: {visible(line)}"

    def _edited(self, words: str) -> Iterator[str]:
        number, _, rest = words.partition(" ")
        field, _, value = rest.partition(" ")
        found, problem = self._named(number)
        if problem:
            yield problem
            return
        if field not in _FIELDS:
            yield f"There is no field {visible(field)!r}; {did_you_mean(field, _FIELDS)}"
            return
        if field == "impact" and value not in list(Impact):
            yield f"It is one of: {', '.join(Impact)}."
            return
        given = Impact(value) if field == "impact" else value.strip()
        self.work.edit(found[0], replace(found[0], **{field: given}))  # type: ignore[arg-type]
        yield f"Defect {found[0].id} is changed."

    def _attached(self, words: str) -> Iterator[str]:
        number, _, file = words.partition(" ")
        found, problem = self._named(number)
        if problem or not file.strip():
            yield problem or "Name a file: attach N FILE."
            return
        self.work.attach(found[0], file)
        yield f"It is attached to defect {found[0].id}."

    def _changed(self, verb: str, words: str) -> Iterator[str]:
        numbers, _, said = words.partition(" ")
        found, problem = self._named(numbers)
        if problem:
            yield problem
            return
        if verb == "status":
            status = self.work.give_status(found, said)
            yield f"{they_are(found)} {status}: {status.meaning}."
        elif verb == "tag":
            self.work.tag(found, said)
            yield (
                f"{they_are(found)} tagged {visible(said.strip())}."
                if said.strip()
                else f"{they_are(found)} without tags."
            )
        else:
            self.work.delete(found)
            yield f"{they_are(found)} deleted."

    def _tried(self, number: str) -> Iterator[str]:
        found, problem = self._named(number)
        if problem:
            yield problem
            return
        tried = self.work.try_steps(found[0])
        yield from map(visible, tried.acceptance.splitlines())
        yield visible(tried.words)

    def _retested(self, address: str) -> Iterator[str]:
        page = self.work.page
        setup = replace(self._setup, width=page.width)
        where = address.strip() or page.address
        self._result = retest_page(self.work.casebook, page, where, self.work.catalogue, setup)
        yield from map(visible, page_lines(self._result))
        if any(each.is_sure and each.next_status is not None for each in self._result.answers):
            yield "retest accept changes the statuses where it is sure."

    def _accepted(self) -> Iterator[str]:
        if self._result is None:
            yield "Nothing was re-tested yet."
            return
        changed = accept(self.work.casebook, [each for each in self._result.answers if each.is_sure], "re-tested")
        self._result = None
        yield from (f"Defect {each.defect.id} is {each.next_status}." for each in changed)
        if not changed:
            yield "No status has changed."

    def _named(self, numbers: str) -> tuple[list[Defect], str]:
        """The defects that numbers name, with commas between; a sentence where there is none of a number."""
        known = {str(each.id): each for each in self.work.defects()}
        wanted = [each for each in numbers.split(",") if each]
        missing = next((each for each in wanted if each not in known), None)
        if missing is not None or not wanted:
            return [], f"There is no defect {visible(missing or numbers)!r}; defects lists them."
        return [known[each] for each in wanted], ""


def _moves(label: str, moves: Sequence[MoveMade]) -> Iterator[str]:
    for each in moves:
        yield f"{label}: {visible(each.words)}" + (f": {visible(each.heard)}" if each.heard else "")
