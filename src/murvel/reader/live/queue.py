"""The speech queue: what is asked to be said when, and what becomes of it in time.

Polite announcements wait for the end of what is spoken; assertive ones cut in, and what was cut is lost; the person's
own keys interrupt everything, and what was waiting is dropped.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from murvel.reader.speech.timing import seconds


class Source(StrEnum):
    """Who asks for something to be said."""

    KEY = "key"
    FOCUS = "focus"
    """The page moved the focus by itself: what is there interrupts like the answer to a key."""
    POLITE = "polite"
    ASSERTIVE = "assertive"


class Fate(StrEnum):
    """What became of it."""

    WAITING = "waiting"
    SPEAKING = "speaking"
    SPOKEN = "spoken"
    CUT_OFF = "cut off"
    DROPPED = "dropped"
    NEVER = "never announced"


@dataclass(slots=True)
class Announcement:
    """An entry of the timeline; times are in seconds since the page was loaded.

    Attributes:
        asked: when it was asked for.
        text: what was to be said.
        source: who asked.
        about: whose announcement it is: a move in words, or a region's name.
        begun, ended: when it was spoken from and to, None if it was not.
        fate: what became of it.
        why: why it was cut off, dropped or never announced; empty otherwise.
    """

    asked: float
    text: str
    source: Source | None
    about: str
    begun: float | None = None
    ended: float | None = None
    fate: Fate = Fate.WAITING
    why: str = ""


class SpeechQueue:
    """What is spoken, in time.

    Attributes:
        rate: words a minute.
        language: the language of the page.
        timeline: everything that was asked, in the order it was asked in.
    """

    def __init__(self, rate: int, language: str = "en") -> None:
        self.rate = rate
        self.language = language
        self.timeline: list[Announcement] = []
        self._waiting: list[Announcement] = []
        self._current: Announcement | None = None

    def ask(self, now: float, text: str, source: Source, about: str) -> Announcement:
        """Ask for something to be said."""
        self.advance(now)
        entry = Announcement(now, text, source, about)
        self.timeline.append(entry)
        if source is Source.POLITE:
            self._waiting.append(entry)
            self.advance(now)
            return entry
        if source is Source.KEY:
            self.interrupt(now)
        elif source is Source.FOCUS:
            self._silence(now, "the page moved the focus")
        else:
            self._cut(now, f"{about} cut in")
        self._begin(entry, now)
        return entry

    def interrupt(self, now: float) -> None:
        """Let a key of the listener's end what is spoken and what waits."""
        self.advance(now)
        self._silence(now, "a key was pressed")

    def never(self, now: float, text: str, about: str, why: str) -> None:
        """Note something that a listener never learns of."""
        self.timeline.append(Announcement(now, text, None, about, fate=Fate.NEVER, why=why))

    def advance(self, now: float) -> None:
        """Let time pass: what is spoken ends, and what waits has its turn."""
        while self._current is not None or self._waiting:
            if self._current is None:
                following = self._waiting.pop(0)
                self._begin(following, max(following.asked, self._free_since()))
                continue
            if self._current.ended is None or self._current.ended > now:
                return
            self._current.fate = Fate.SPOKEN
            self._current = None

    @property
    def free_at(self) -> float:
        """When everything asked so far will have been spoken."""
        end = self._current.ended if self._current is not None and self._current.ended is not None else 0.0
        return end + sum(seconds(each.text, self.rate, self.language) for each in self._waiting)

    def _free_since(self) -> float:
        return max((each.ended for each in self.timeline if each.ended is not None), default=0.0)

    def _begin(self, entry: Announcement, at: float) -> None:
        entry.begun, entry.ended, entry.fate = at, at + seconds(entry.text, self.rate, self.language), Fate.SPEAKING
        self._current = entry

    def _silence(self, now: float, why: str) -> None:
        self._cut(now, why)
        for each in self._waiting:
            each.fate, each.why = Fate.DROPPED, f"{why} before its turn came"
        self._waiting.clear()

    def _cut(self, now: float, why: str) -> None:
        if self._current is not None:
            self._current.ended, self._current.fate, self._current.why = now, Fate.CUT_OFF, why
            self._current = None
