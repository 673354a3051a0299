"""The readout as a voice says it: what is heard at each item, and at which second."""

from __future__ import annotations

from collections.abc import Set
from itertools import accumulate

from murvel.reader.readout import Container, Object, Readout
from murvel.reader.speaker import Speaker
from murvel.reader.timing import seconds
from murvel.reader.utterance import Utterance
from murvel.reader.voice import Voice


class Spoken:
    """All items read straight through.

    Attributes:
        readout: what is read.
        speaker: who reads it.
        utterances: what is heard at each item when reading comes from the item before.
        starts: at which second each item begins.
        total: how many seconds the whole page takes.
    """

    def __init__(self, readout: Readout, voice: Voice, visited: Set[str] = frozenset()) -> None:
        self.readout = readout
        self.speaker = Speaker(readout.tree, voice, visited)
        self.utterances: list[Utterance] = []
        before: Container | None = None
        last: Object | None = None
        for item in readout.items:
            self.utterances.append(self.speaker.say(item.objects, before, last))
            last = item.objects[-1]
            before = last.container
        ends = list(accumulate(seconds(utterance.text, voice.rate) for utterance in self.utterances))
        self.starts = [0.0, *ends[:-1]]
        self.total = ends[-1] if ends else 0.0

    def lasts(self, index: int) -> float:
        """Return how many seconds an item takes."""
        end = self.starts[index + 1] if index + 1 < len(self.starts) else self.total
        return end - self.starts[index]
