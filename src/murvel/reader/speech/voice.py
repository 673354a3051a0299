"""Voices: what a listener prefers to hear, in which order, and how fast. A voice holds settings only."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum

from murvel.reader.speech.pronunciation import Punctuation
from murvel.reader.speech.timing import DEFAULT_RATE
from murvel.reader.speech.wording.words import LANGUAGES, Words
from murvel.tree.roles.aria_roles import LANDMARKS, TABLES


class Piece(StrEnum):
    """What may be said of a node, in the order a voice gives."""

    NAME = "name"
    ROLE = "role"
    VALUE = "value"
    STATES = "states"
    POSITION = "position"
    DESCRIPTION = "description"
    HINT = "hint"


class Surrounding(StrEnum):
    """Groups of containers whose entering and leaving a voice may announce."""

    LANDMARKS = "landmarks"
    LISTS = "lists"
    TABLES = "tables"
    GROUPS = "groups"
    FRAMES = "frames"


def surrounding(role: str) -> Surrounding:
    """Return which group a container's role belongs to."""
    if role in LANDMARKS:
        return Surrounding.LANDMARKS
    if role in TABLES:
        return Surrounding.TABLES
    if role == "iframe":
        return Surrounding.FRAMES
    return Surrounding.LISTS if role in ("list", "listbox", "tree", "menu", "menubar") else Surrounding.GROUPS


class Unit(StrEnum):
    """What one step of reading holds."""

    ITEM = "item"
    OBJECT = "object"


PAGE = "page"
"""The word for the language of the page, where a language is named."""

ALL_AROUND = frozenset(Surrounding)


@dataclass(frozen=True, slots=True)
class Voice:
    """A listener's preferences.

    Attributes:
        name: what it is called.
        about: for whom it is, in a sentence.
        order: what is said of a node, in this order; what is not in it is not said.
        entering: containers that are announced when reading comes into them.
        leaving: containers whose end is announced.
        leaving_before_text: containers whose end is announced where text follows that could be taken for a part.
        headers: whether the headers of a cell are said where they change.
        coordinates: whether row and column of a cell are said.
        nesting: whether lists say how deep they stand in each other.
        marks: whether text that is deleted, inserted or marked is said to be.
        abbreviations: whether abbreviations are followed by what they stand for.
        languages: whether a change of language is announced.
        punctuation: how much of the punctuation is spoken.
        blank_lines: whether a line that holds nothing but spaces is announced.
        visited: whether links that were followed before are said to be.
        capitals: whether capitals are told when words are read one by one.
        unit: what one step of reading holds.
        rate: words a minute.
        language: the language of its own words, for roles, states and the like; empty for the page's language.
        words: words of a person's own, None for those of the language's table.
    """

    name: str
    about: str
    order: tuple[Piece, ...] = (
        Piece.NAME, Piece.ROLE, Piece.VALUE, Piece.STATES, Piece.POSITION, Piece.DESCRIPTION,
    )  # fmt: skip
    entering: frozenset[Surrounding] = ALL_AROUND
    leaving: frozenset[Surrounding] = frozenset()
    leaving_before_text: frozenset[Surrounding] = ALL_AROUND - {Surrounding.LANDMARKS}
    headers: bool = True
    coordinates: bool = True
    nesting: bool = False
    marks: bool = True
    abbreviations: bool = False
    languages: bool = True
    punctuation: Punctuation = Punctuation.SOME
    blank_lines: bool = True
    visited: bool = True
    capitals: bool = False
    unit: Unit = Unit.ITEM
    rate: int = DEFAULT_RATE
    language: str = "en"
    words: Words | None = None

    @property
    def title(self) -> str:
        """What it is called, with the language of its words where that is not English."""
        if self.language == "en":
            return self.name
        return f"{self.name} in {self.language or PAGE}"

    @property
    def role_first(self) -> bool:
        """Whether roles come before names."""
        if Piece.ROLE not in self.order or Piece.NAME not in self.order:
            return False
        return self.order.index(Piece.ROLE) < self.order.index(Piece.NAME)


NAME_FIRST = Voice("name first", "Names, then roles and states, in moderate words; the one to begin with.")

BUILT_IN: tuple[Voice, ...] = (
    NAME_FIRST,
    Voice(
        "role first",
        "What a thing is before what it is called, each object by itself; ends of containers are told.",
        order=(Piece.ROLE, Piece.NAME, Piece.STATES, Piece.VALUE, Piece.POSITION, Piece.DESCRIPTION),
        leaving=frozenset({Surrounding.LISTS, Surrounding.TABLES, Surrounding.LANDMARKS}),
        unit=Unit.OBJECT,
    ),
    Voice(
        "spare",
        "For those who know the page: names, roles and states, fast, without positions or descriptions.",
        order=(Piece.NAME, Piece.ROLE, Piece.VALUE, Piece.STATES),
        entering=frozenset({Surrounding.LANDMARKS, Surrounding.TABLES}),
        leaving_before_text=frozenset(),
        coordinates=False,
        marks=False,
        languages=False,
        blank_lines=False,
        visited=False,
        punctuation=Punctuation.NONE,
        rate=320,
    ),
    Voice(
        "full",
        "For those who begin: everything that is known, with hints on how to operate it.",
        order=tuple(Piece),
        leaving=ALL_AROUND,
        nesting=True,
        abbreviations=True,
        punctuation=Punctuation.MOST,
        capitals=True,
        rate=150,
    ),
)
"""The voices that come with the program, the first of them the usual one."""


def in_language(voice: Voice, language: str) -> Voice:
    """Return a voice that says roles, states and the like in a language, one of `LANGUAGES` or `PAGE`."""
    return replace(voice, language="" if language == PAGE else language, words=None)


def next_language(voice: Voice) -> Voice:
    """Return a voice with its words in the next language: English, the page's, then the others."""
    order = ["en", PAGE, *(each for each in LANGUAGES if each != "en")]
    now = voice.language or PAGE
    at = order.index(now) if now in order else -1
    return in_language(voice, order[(at + 1) % len(order)])
