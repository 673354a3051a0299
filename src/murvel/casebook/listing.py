"""Which defects are shown, and in which order."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from murvel.casebook.defect import Defect, Impact
from murvel.casebook.status import Status, StatusChange, standing
from murvel.checks.tables.criteria import BY_NUMBER
from murvel.text import visible

Changes = Mapping[int, Sequence[StatusChange]]
"""The statuses that were given to each defect, by its number."""


class Order(StrEnum):
    """What defects are grouped and ordered by."""

    NUMBER = "number"
    IMPACT = "impact"
    STATUS = "status"
    CRITERION = "criterion"
    PAGE = "page"
    TAG = "tag"

    @property
    def following(self) -> Order:
        """The one after it; after the last the first."""
        every = list(Order)
        return every[(every.index(self) + 1) % len(every)]


_IMPACTS, _STATUSES, _CRITERIA = list(Impact), list(Status), list(BY_NUMBER)


@dataclass(frozen=True, slots=True)
class Listing:
    """What is shown of the defects.

    Attributes:
        order: what they are grouped and ordered by; within a group, by number.
        words: all of them are in what is written of a defect; empty for any.
    """

    order: Order = Order.NUMBER
    words: str = ""

    @property
    def about(self) -> str:
        """The choice in words, as "by impact, “plots”"; empty if nothing was chosen."""
        said = [] if self.order is Order.NUMBER else [f"by {self.order}"]
        return ", ".join([*said, *([f"“{visible(self.words)}”"] if self.words else [])])

    def shown(self, defects: Sequence[Defect], changes: Changes, addresses: Mapping[int, str]) -> list[Defect]:
        """Return the defects that are shown, in their order.

        Args:
            defects: all of them.
            changes: the statuses that were given to them.
            addresses: the addresses of pages, by the casebook's numbers.
        """
        words = self.words.casefold().split()
        found = [
            each
            for each in defects
            if all(word in _written(each, changes, addresses.get(each.page, "")) for word in words)
        ]
        place = self._place_by(changes)
        return sorted(found, key=lambda each: (place(each), each.id or 0))

    def group(self, defect: Defect, changes: Changes, addresses: Mapping[int, str]) -> str:
        """Return what the group of a defect is called; empty where they are not grouped."""
        match self.order:
            case Order.IMPACT:
                return defect.impact.value
            case Order.STATUS:
                return standing(defect, changes).value
            case Order.CRITERION:
                criterion = BY_NUMBER.get(defect.criterion)
                return criterion.label if criterion is not None else "no criterion"
            case Order.PAGE:
                return addresses.get(defect.page, "another page")
            case Order.TAG:
                return " ".join(defect.tags) or "no tag"
            case _:
                return ""

    def _place_by(self, changes: Changes) -> Callable[[Defect], tuple[int, str]]:
        places: dict[Order, Callable[[Defect], tuple[int, str]]] = {
            Order.NUMBER: lambda _: (0, ""),
            Order.IMPACT: lambda each: (_IMPACTS.index(each.impact), ""),
            Order.STATUS: lambda each: (_STATUSES.index(standing(each, changes)), ""),
            Order.CRITERION: lambda each: (_rank(each.criterion), ""),
            Order.PAGE: lambda each: (each.page, ""),
            Order.TAG: lambda each: (not each.tags, " ".join(each.tags)),
        }
        return places[self.order]


def _rank(criterion: str) -> int:
    return _CRITERIA.index(criterion) if criterion in BY_NUMBER else len(_CRITERIA)


def _written(defect: Defect, changes: Changes, address: str) -> str:
    """All that is written of a defect, for words to be looked for in."""
    criterion = BY_NUMBER.get(defect.criterion)
    parts = (
        str(defect.id),
        defect.headline,
        defect.heard,
        defect.expected,
        defect.repair,
        defect.stopped,
        defect.notes,
        criterion.label if criterion is not None else "",
        defect.impact.value,
        standing(defect, changes).value,
        " ".join(defect.tags),
        defect.place.words,
        defect.place.within,
        defect.stage,
        address,
    )
    return "\n".join(parts).casefold()


def alike(defect: Defect, defects: Sequence[Defect]) -> list[Defect]:
    """Return the defects that may be about the same fault, the likeliest first, three at most.

    The same place of the same page comes first, then what the same check noticed, then the same words heard under the
    same criterion.

    Args:
        defect: the one that is being written.
        defects: those that are documented.
    """

    def likeness(other: Defect) -> int:
        same_place = (other.page, other.place.xpath) == (defect.page, defect.place.xpath)
        same_check = bool(defect.check) and other.check == defect.check
        same_words = other.heard == defect.heard and other.place.role == defect.place.role
        same_title = other.headline == defect.headline
        return 4 * same_place + 2 * same_check + same_words + 2 * same_title

    found = [(likeness(each), each) for each in defects if each.id != defect.id]
    return [each for points, each in sorted(found, key=lambda pair: -pair[0]) if points >= 2][:3]
