"""The readout as a voice says it: what is heard at each item, and at which second; worked out when it is asked for."""

from __future__ import annotations

from collections.abc import Iterator, Set
from dataclasses import replace

from murvel.reader.readout.heard_text import HeardText
from murvel.reader.readout.items import Item
from murvel.reader.readout.readout import Readout, Reread
from murvel.reader.speech.speaker import Speaker
from murvel.reader.speech.timing import at_rate, clock
from murvel.reader.speech.utterance import Utterance
from murvel.reader.speech.voice import Voice

_AT_ONCE = 200
"""How many items one step of working out is."""


class Spoken:
    """All items read straight through.

    Attributes:
        readout: what is read.
        speaker: who reads it.
    """

    def __init__(self, readout: Readout, voice: Voice, visited: Set[str] = frozenset()) -> None:
        self.readout = readout
        self.speaker = Speaker(readout.tree, voice, visited)
        self._said: dict[Item, Utterance] = {}
        self._lasts: dict[Item, float] = {}
        self._starts = [0.0]
        self._text: HeardText | None = None

    def in_voice(self, voice: Voice, visited: Set[str]) -> Spoken:
        """Return how the readout is said in another voice; one that is only faster or slower says the same.

        Args:
            voice: the voice.
            visited: the addresses of links that were followed before.
        """
        now = Spoken(self.readout, voice, visited)
        before = self.speaker.voice
        is_other_rate = replace(voice, name=before.name, about=before.about, rate=before.rate) == before
        if is_other_rate and now._take_over(self):
            now._lasts = {item: at_rate(time, before.rate, voice.rate) for item, time in self._lasts.items()}
        return now

    def follow(self, reread: Reread, visited: Set[str]) -> Spoken:
        """Return how the readout is said after its page changed; what is heard as before is not worked out again.

        Args:
            reread: what was read again.
            visited: the addresses of links that were followed before.
        """
        now = Spoken(self.readout, self.speaker.voice, visited)
        if now._take_over(self):
            for item in reread.gone:
                self._said.pop(item, None)
                self._lasts.pop(item, None)
            now._lasts = self._lasts
            now._starts = self._starts[: reread.first + 1]
        return now

    def _take_over(self, before: Spoken) -> bool:
        """Take over what was worked out, where it is said as before; whether it is."""
        if not self.speaker.says_like(before.speaker):
            return False
        self._said = before._said
        return True

    def says_the_same_as(self, other: Spoken) -> bool:
        """Whether the same is heard of the same page, though perhaps at other times."""
        return self._said is other._said and self.speaker.tree is other.speaker.tree

    def work_out(self) -> Iterator[float]:
        """Work out what is heard at each item, and when, in small steps; yield after each which part is done, from 0
        to 1."""
        count = len(self.readout.items)
        for index in range(0, count, _AT_ONCE):
            self.start(min(index + _AT_ONCE, count))
            yield min(index + _AT_ONCE, count) / count

    def utterance(self, index: int) -> Utterance:
        """Return what is heard at an item when reading comes from the item before."""
        item = self.readout.items[index]
        said = self._said.get(item)
        if said is None:
            last = self.readout.items[index - 1].objects[-1] if index else None
            before = last.container if last is not None else None
            said = self._said[item] = self.speaker.say(item.objects, before, last)
        return said

    @property
    def utterances(self) -> list[Utterance]:
        """What is heard at each item, in order."""
        return [self.utterance(index) for index in range(len(self.readout.items))]

    @property
    def text(self) -> HeardText:
        """All that is heard, to be searched; worked out once."""
        if self._text is None:
            self._text = HeardText(each.text for each in self.utterances)
        return self._text

    def straight_through(self) -> Iterator[tuple[float, Utterance]]:
        """Yield what is heard at each item, in order, with the second at which it begins."""
        for index in range(len(self.readout.items)):
            yield self.start(index), self.utterance(index)

    def lines(self) -> Iterator[str]:
        """Yield what is heard at each item as a line, with the time at which it begins."""
        for start, utterance in self.straight_through():
            yield f"{clock(start):>6}  {utterance.text or 'nothing'}"

    def start(self, index: int) -> float:
        """Return at which second an item begins."""
        starts = self._starts
        while len(starts) <= index:
            starts.append(starts[-1] + self.lasts(len(starts) - 1))
        return starts[index]

    def lasts(self, index: int) -> float:
        """Return how many seconds an item takes."""
        item = self.readout.items[index]
        known = self._lasts.get(item)
        if known is None:
            known = self._lasts[item] = self.speaker.lasts(self.utterance(index).text)
        return known

    @property
    def total(self) -> float:
        """How many seconds the whole page takes."""
        return self.start(len(self.readout.items))
