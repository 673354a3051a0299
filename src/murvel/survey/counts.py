"""How far the judging of a list is, in words."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence

from murvel.survey.entry import Entry, Judgement, Slice, Verdict


def count_words(slice_: Slice, entries: Sequence[Entry], judgement: Callable[[Entry], Judgement]) -> str:
    """Return, as "links: 9 pass, 3 fail, 2 open", what was said of the entries; hidden ones are told apart."""
    heard = [entry for entry in entries if entry.is_heard or entry.leads]
    counts = Counter(judgement(entry).verdict for entry in heard)
    said = [f"{counts[verdict]} {verdict.value}" for verdict in Verdict if counts[verdict]]
    if counts[None] or not said:
        said.append(f"{counts[None]} open")
    hidden = len(entries) - len(heard)
    return f"{slice_.value}: {', '.join(said)}" + (f"; {hidden} more hidden" if hidden else "")
