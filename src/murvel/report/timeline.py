"""The timeline of a session as a drawing: what was spoken when, and what became of it."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.reader.live.queue import Announcement, Fate
from murvel.reader.session import ReadingSession
from murvel.report.drawing import Bars
from murvel.text import visible

_DRAWN = (Fate.SPOKEN, Fate.SPEAKING, Fate.CUT_OFF, Fate.DROPPED, Fate.WAITING)
_SHORTEST = 0.05
"""How long what was never begun is drawn, in seconds, so that it is seen."""


def timeline_bars(session: ReadingSession) -> Bars:
    """Return the timeline of a session: a bar from when each announcement was begun, a series for each fate."""
    entries = [entry for entry in session.speech.timeline if entry.fate is not Fate.NEVER]
    fates = [fate for fate in _DRAWN if any(entry.fate is fate for entry in entries)]
    title = session.tree.document.title or session.tree.document.address
    return Bars(
        f"What was spoken: {title}",
        "; ".join(_sentence(entry) for entry in entries) or "Nothing was spoken.",
        "seconds since the page was loaded",
        [entry.text for entry in entries],
        [(fate.value, [_length(entry) if entry.fate is fate else None for entry in entries]) for fate in fates],
        [entry.begun if entry.begun is not None else entry.asked for entry in entries],
    )


def timeline_lines(session: ReadingSession) -> Iterator[str]:
    """Yield the timeline line by line, what was never announced included."""
    for entry in session.speech.timeline:
        spoken = ""
        if entry.begun is not None and entry.ended is not None:
            spoken = f", spoken {entry.begun:.1f} to {entry.ended:.1f}"
        why = f", {entry.why}" if entry.why else ""
        yield visible(f"{entry.asked:.1f} s: {entry.about}: {entry.text} ({entry.fate}{spoken}{why})")


def _length(entry: Announcement) -> float:
    if entry.begun is None or entry.ended is None:
        return _SHORTEST
    return max(_SHORTEST, entry.ended - entry.begun)


def _sentence(entry: Announcement) -> str:
    why = f", {entry.why}" if entry.why else ""
    return f"{entry.asked:.1f} s, {entry.about}: {entry.text}, {entry.fate}{why}"
