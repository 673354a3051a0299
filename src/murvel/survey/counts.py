"""How far the judging of a list is, in words."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from murvel.survey.entry import Entry, Judged, Slice, Verdict


def count_words(slice_: Slice, entries: Sequence[Entry], judged: Judged) -> str:
    """Return, as "links: 9 pass, 3 fail, 2 open", what was said of the entries; hidden ones are told apart."""
    heard = [entry for entry in entries if entry.counts]
    counts = Counter(judged(entry).verdict for entry in heard)
    said = [f"{counts[verdict]} {verdict.value}" for verdict in Verdict if counts[verdict]]
    if counts[None] or not said:
        said.append(f"{counts[None]} open")
    hidden = len(entries) - len(heard)
    return f"{slice_.value}: {', '.join(said)}" + (f"; {hidden} more hidden" if hidden else "")
