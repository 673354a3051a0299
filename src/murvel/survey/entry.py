"""An entry of a list of the survey, and what a person may say of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from murvel.checks.engine.check import Certainty
    from murvel.checks.engine.lead import Lead
    from murvel.dom.document import Element
    from murvel.reader.speech.utterance import Utterance
    from murvel.tree.node import Node


class Slice(StrEnum):
    """The lists a page is pulled apart into."""

    HEADINGS = "headings"
    LANDMARKS = "landmarks"
    LINKS = "links"
    FIELDS = "fields"
    IMAGES = "images"
    TABLES = "tables"
    LISTS = "lists"
    LIVE = "live"
    LANGUAGES = "languages"
    FRAMES = "frames"
    LOOKS = "look-alikes"
    SIGHT = "sight"
    CONTRAST = "contrast"
    TARGETS = "targets"
    FOCUS = "focus"
    OTHER = "others"

    @property
    def words(self) -> str:
        """What it is called where its entries are counted."""
        return "fields and buttons" if self is Slice.FIELDS else self.value

    @property
    def about(self) -> str:
        """What is in it."""
        return _ABOUT[self]


_ABOUT = {
    Slice.HEADINGS: "the outline of the page",
    Slice.LANDMARKS: "its large parts, and what lies outside of them",
    Slice.LINKS: "as they are heard alone",
    Slice.FIELDS: "as they are heard alone",
    Slice.IMAGES: "what is heard in their place",
    Slice.TABLES: "their size, headers and names",
    Slice.LISTS: "and how many entries they have",
    Slice.LIVE: "what announces changes",
    Slice.LANGUAGES: "where the language changes",
    Slice.FRAMES: "pages within the page",
    Slice.LOOKS: "text that only looks like a heading, a table or a list",
    Slice.SIGHT: "what is heard and not seen, or seen and not heard",
    Slice.CONTRAST: "of text and of fields with what is behind them, the least first",
    Slice.TARGETS: "what a pointer presses, the smallest first",
    Slice.FOCUS: "how it shows at each Tab stop",
    Slice.OTHER: "whatever else was noticed",
}


class Verdict(StrEnum):
    """What a person says of an entry."""

    PASS = "pass"
    FAIL = "fail"
    CONTEXT = "needs-context"


@dataclass(frozen=True, slots=True)
class Judgement:
    """A verdict with a note."""

    verdict: Verdict | None
    note: str = ""

    @property
    def word(self) -> str:
        """The verdict in a word, or that there is only a note."""
        return self.verdict.value if self.verdict is not None else "note"


OPEN = Judgement(None)
"""Not judged yet."""


@dataclass(frozen=True, slots=True)
class EntryKey:
    """What tells an entry of a page from all others, also in a later take: what it is and says, not where it stands.

    Attributes:
        slice: its list.
        tag: the tag of its element.
        target: where that leads, as it is written; empty if it leads nowhere.
        heard: what is heard of it alone, in the usual voice.
        twin: which it is among those that are the same in all of this, from 1.
        earlier: the key that an earlier version of Murvel gave to it, where that was cut off or could be read in two
            ways; empty for all others. `murvel.survey.verdicts` finds its entry.
    """

    slice: Slice
    tag: str
    target: str
    heard: str
    twin: int = 1
    earlier: str = ""

    @classmethod
    def of(cls, slice_: Slice, tag: str, target: str, heard: str) -> EntryKey:
        """Return a key from texts of a page, which may be of any length and hold anything."""
        return cls(slice_, tag, _bounded(target), _bounded(heard))


_LONGEST_TEXT = 1_000


def _bounded(text: str) -> str:
    """A text as UTF-8 has it; of a long one its beginning, and a digest of the whole."""
    whole = text.encode("utf-8", "backslashreplace")
    if len(text) <= _LONGEST_TEXT:
        return whole.decode("utf-8")
    from hashlib import sha256  # few texts are so long, and it takes a while to load

    return f"{whole.decode('utf-8')[:_LONGEST_TEXT]}… {sha256(whole).hexdigest()}"


@dataclass(frozen=True, slots=True)
class Entry:
    """An entry.

    Attributes:
        slice: the list it is in.
        number: its place there, from 1.
        element: what it stands for.
        node: its node, None if it is hidden from those who listen.
        utterance: what is heard of it alone; empty if nothing is.
        depth: how deep it stands: by its level or by what it stands in.
        time: at which second of listening it comes, None if nothing of it is read.
        leads: what checks noticed there.
        key: what tells it from others, also in a later take of the page and in another voice.
        remark: what is to be seen in its list only, as a level that is missing before it; empty if nothing is.
    """

    slice: Slice
    number: int
    element: Element
    node: Node | None
    utterance: Utterance
    depth: int
    time: float | None
    leads: tuple[Lead, ...]
    key: EntryKey
    remark: str = ""

    @property
    def heard(self) -> str:
        """What is heard of it alone, as text."""
        from murvel.checks.engine.lead import NOTHING  # the words for lists are asked for where no page is read

        return self.utterance.text or NOTHING

    @property
    def is_heard(self) -> bool:
        """Whether anything of it is heard."""
        return self.node is not None

    @property
    def counts(self) -> bool:
        """Whether it is to be judged: something is heard of it, or was noticed although nothing is heard."""
        return self.is_heard or bool(self.leads)

    def count(self, certainty: Certainty) -> int:
        """Return how many of its leads are as sure."""
        return sum(lead.certainty is certainty for lead in self.leads)

    def matches(self, words: str) -> bool:
        """Whether all of some words stand in what is heard or noticed."""
        text = (
            f"{self.heard} {self.remark} {' '.join(lead.says + ' ' + lead.check.id for lead in self.leads)}".casefold()
        )
        return all(word in text for word in words.casefold().split())


Judged = Callable[[Entry], Judgement]
"""Tells what was said of an entry."""
