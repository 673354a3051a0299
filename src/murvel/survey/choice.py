"""Which entries of the lists are shown, and which of them is to be judged next."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

from murvel.survey.entry import Entry, Judged, Judgement, Slice, Verdict
from murvel.text import visible

if TYPE_CHECKING:
    from murvel.survey.survey import Survey


class Which(StrEnum):
    """Which entries are shown, by what was noticed or said of them."""

    ALL = "all"
    OPEN = "not-judged"
    LEADS = "with-leads"
    FAIL = "fail"
    CONTEXT = "needs-context"
    PASS = "pass"

    @property
    def following(self) -> Which:
        """The one after it; after the last the first."""
        every = list(Which)
        return every[(every.index(self) + 1) % len(every)]


_VERDICT_OF = {Which.OPEN: None, Which.FAIL: Verdict.FAIL, Which.CONTEXT: Verdict.CONTEXT, Which.PASS: Verdict.PASS}


@dataclass(frozen=True, slots=True)
class Choice:
    """What is shown of the lists.

    Attributes:
        which: by what was noticed or said.
        words: all of them are in what is heard or noticed; empty for any.
        hidden_too: whether what is hidden from those who listen is shown although nothing was noticed there.
    """

    which: Which = Which.ALL
    words: str = ""
    hidden_too: bool = False

    @property
    def about(self) -> str:
        """The choice in words, as "with leads, “map”, hidden ones too"; empty if nothing was chosen."""
        said = [] if self.which is Which.ALL else [self.which.value]
        said += [f"“{visible(self.words)}”"] if self.words else []
        said += ["hidden ones too"] if self.hidden_too else []
        return ", ".join(said)

    def shows(self, entry: Entry, judgement: Judgement) -> bool:
        """Whether an entry is shown."""
        if not (entry.counts or self.hidden_too) or not entry.matches(self.words):
            return False
        if self.which in _VERDICT_OF:
            return judgement.verdict is _VERDICT_OF[self.which]
        return self.which is Which.ALL or bool(entry.leads)

    def shown(self, survey: Survey, slice_: Slice, judged: Judged) -> list[Entry]:
        """Return the entries of a list that are shown, in its order."""
        return [entry for entry in survey.entries[slice_] if self.shows(entry, judged(entry))]

    def next_open(self, survey: Survey, judged: Judged, slice_: Slice, after: int = 0) -> Entry | None:
        """Return the next shown entry that is not judged.

        Args:
            survey: the lists.
            judged: what was said of an entry.
            slice_: the list one stands in.
            after: the number of the entry one stands at, 0 if one stands before all.

        Returns:
            The first one behind `after` in that list, else in the lists that follow, else from the first list on; None
            where everything that is shown is judged.
        """
        every = list(Slice)
        at = every.index(slice_)
        for step in range(len(every) + 1):
            for entry in self.shown(survey, every[(at + step) % len(every)], judged):
                if (step or entry.number > after) and judged(entry).verdict is None:
                    return entry
        return None
