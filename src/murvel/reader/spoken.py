"""The readout in a voice: what is heard at each item, and at which second."""

from __future__ import annotations

from itertools import accumulate

from murvel.reader.readout import Container, Readout
from murvel.reader.timing import seconds
from murvel.reader.utterance import Utterance
from murvel.reader.voice import Voice


class Spoken:
    """All items read straight through.

    Attributes:
        readout, voice: what is read, and how.
        utterances: what is heard at each item when reading comes from the item before.
        starts: at which second each item begins.
        total: how many seconds the whole page takes.
    """

    def __init__(self, readout: Readout, voice: Voice) -> None:
        self.readout = readout
        self.voice = voice
        self.utterances: list[Utterance] = []
        before: Container | None = None
        for item in readout.items:
            self.utterances.append(voice.say(item.objects, before))
            before = item.objects[-1].container
        ends = list(accumulate(seconds(utterance.text, voice.rate) for utterance in self.utterances))
        self.starts = [0.0, *ends[:-1]]
        self.total = ends[-1] if ends else 0.0
