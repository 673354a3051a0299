"""A documented problem: what was heard, where, and what should be heard instead."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum

from murvel.reader.moves.commands import repeated
from murvel.reader.speech.voice import BUILT_IN, NAME_FIRST, PAGE, Voice, in_language
from murvel.reader.speech.wording.words import ENGLISH, LANGUAGES
from murvel.tree.roles.aria_roles import NEEDS_NAME


class Impact(StrEnum):
    """How badly a defect hurts."""

    BLOCKS = "blocks"
    HINDERS = "hinders"
    SLOWS = "slows"
    IRRITATES = "irritates"
    NOT_RATED = "not rated"

    @property
    def meaning(self) -> str:
        """What the word stands for, in a line."""
        return _MEANINGS[self]


_MEANINGS = {
    Impact.BLOCKS: "no way to do it by ear",
    Impact.HINDERS: "luck or help is needed",
    Impact.SLOWS: "it takes much longer",
    Impact.IRRITATES: "it is done, but it grates",
    Impact.NOT_RATED: "nobody has said how badly it hurts",
}
RATED: tuple[Impact, ...] = tuple(each for each in Impact if each is not Impact.NOT_RATED)
"""The impacts that a person chooses from, the worst first."""


@dataclass(frozen=True, slots=True)
class MoveMade:
    """A move that led to a defect, how often it was made in a row, and what was heard at last."""

    move: str
    times: int
    heard: str

    @property
    def words(self) -> str:
        """The move in words, as "next button, 2 times"."""
        return repeated(self.move, self.times)


def in_voice(title: str) -> str:
    """Return the step that says in which voice a defect was heard, by the voice's title."""
    return f"in the voice “{title}”"


@dataclass(frozen=True, slots=True)
class Place:
    """Where a defect is: an element of a page.

    Attributes:
        xpath: its absolute XPath.
        line, column: of its start tag in the source, from 1; None if no start tag made it.
        snippet: its source, empty if there is none.
        role, name: what it was announced as.
        within: the landmarks it stands in and the headings it stands under, in words; empty if there are none.
    """

    xpath: str
    line: int | None
    column: int | None
    snippet: str
    role: str
    name: str
    within: str = ""

    @property
    def in_source(self) -> str:
        """Where its start tag stands, in words."""
        return f"line {self.line}, column {self.column}" if self.line else "no start tag in the source"

    @property
    def words(self) -> str:
        """What is there, in a few words, as "text box without a name"."""
        words = ENGLISH.roles.get(self.role) or self.role
        if self.name:
            return f"“{self.name}”" if self.role == "text" else f"{words} “{self.name}”"
        return f"{words} without a name" if self.role in NEEDS_NAME else words


@dataclass(frozen=True, slots=True)
class FurtherPlace:
    """A further place of a defect: the same fault in another element, perhaps of another page.

    Attributes:
        page, take: the casebook's numbers of the page and its take.
        place: the element.
        heard: what is heard there.
    """

    page: int
    take: int
    place: Place
    heard: str


@dataclass(frozen=True, slots=True)
class Defect:
    """A defect. `id` is None until the casebook has kept it; ids are never used again.

    Attributes:
        page, take: the casebook's numbers of the page and its take.
        place: the element.
        heard: what is heard.
        steps: the moves that lead there, with what is heard on each.
        straight: the moves that lead there by reading straight on, empty if those are the steps.
        expected: what should be heard.
        impact: how badly it hurts.
        criterion: the number of a success criterion of WCAG 2.2, empty while none was picked.
        repair: how to repair it.
        title: what it is called, in a line; empty if nothing was entered.
        check: the identifier of the check that noticed it, empty if none did.
        acceptance: the steps that show that it is repaired, as a walk has them; empty if there are none.
        tags: words of the tester's own to sort by.
        notes: what else there is to say.
        further: further places of the same fault.
        stopped: who is stopped, and how.
        stage: what the page ran on when it was found, as "Chromium 130, 1280 pixels wide"; empty if nobody knows.
    """

    page: int
    take: int
    place: Place
    heard: str
    steps: tuple[MoveMade, ...] = ()
    expected: str = ""
    impact: Impact = Impact.NOT_RATED
    criterion: str = ""
    repair: str = ""
    title: str = ""
    id: int | None = None
    check: str = ""
    straight: tuple[MoveMade, ...] = ()
    acceptance: str = ""
    tags: tuple[str, ...] = ()
    notes: str = ""
    further: tuple[FurtherPlace, ...] = ()
    stopped: str = ""
    stage: str = ""

    @property
    def headline(self) -> str:
        """Its title; where it has none, what it is about."""
        return self.title or self.place.words

    @property
    def repair_words(self) -> str:
        """How to repair it, without the tags of `repair_tags`."""
        return self.repair.removesuffix(self.repair_tags).rstrip()

    @property
    def repair_tags(self) -> str:
        """The start tag as it is and as it would be right, a line each after - and +; empty if that is not known."""
        lines = self.repair.splitlines()
        is_known = len(lines) >= 2 and lines[-1].startswith("+ <") and any(each.startswith("- <") for each in lines)
        at = next((at for at, each in enumerate(lines) if each.startswith("- <")), 0)
        return "\n".join(lines[at:]) if is_known else ""

    @property
    def is_unwritten(self) -> bool:
        """Whether nothing is written but what was heard."""
        return not (self.expected or self.repair or self.criterion or self.stopped) and self.impact is Impact.NOT_RATED

    def with_id(self, identifier: int) -> Defect:
        """Return the same defect as the casebook keeps it."""
        return replace(self, id=identifier)


def voice_of(defect: Defect) -> Voice:
    """Return the built-in voice that a defect was heard in; the usual one if it was heard in another."""
    voices = (in_language(voice, language) for voice in BUILT_IN for language in (*LANGUAGES, PAGE))
    heard_in = {in_voice(voice.title): voice for voice in voices}
    return next((heard_in[step.move] for step in defect.steps if step.move in heard_in), NAME_FIRST)
