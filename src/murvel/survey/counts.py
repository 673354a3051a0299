"""How far the judging of a list is, in words."""

from __future__ import annotations

from collections import Counter

from murvel.survey.entry import Judged, Slice, Verdict
from murvel.survey.survey import Survey

NOT_LOOKED_AT = "not looked at"
"""What is said of a list that a browser fills, before it did."""


def count_words(survey: Survey, slice_: Slice, judged: Judged) -> str:
    """Return, as "links: 9 pass, 3 fail, 2 open", what was said of a list; hidden entries are told apart."""
    if not survey.is_known(slice_):
        return f"{slice_.words}: {NOT_LOOKED_AT}"
    entries = survey.entries[slice_]
    heard = [entry for entry in entries if entry.counts]
    counts = Counter(judged(entry).verdict for entry in heard)
    said = [f"{counts[verdict]} {verdict.value}" for verdict in Verdict if counts[verdict]]
    if counts[None] or not said:
        said.append(f"{counts[None]} open")
    hidden = len(entries) - len(heard)
    return f"{slice_.words}: {', '.join(said)}" + (f"; {hidden} more hidden" if hidden else "")
