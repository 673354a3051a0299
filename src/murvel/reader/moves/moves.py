"""The words of moves: which way they go, who gets the keys, and what is logged of each."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from murvel.reader.speech.utterance import Utterance
from murvel.tree.node import Node

WHERE_AM_I = "where am I"
CHANGE_VOICE = "change the voice"
LEAD_NOWHERE = frozenset({WHERE_AM_I, CHANGE_VOICE})
"""Moves that do not change the place and are not heard."""

TO_START, TO_END = "to the start", "to the end"
ABSOLUTE_MOVES = frozenset({TO_START, TO_END})
"""Moves that lead to the same place from everywhere."""


class Direction(StrEnum):
    """Which way a move goes."""

    FORWARD = "forward"
    BACK = "back"

    @property
    def neighbour(self) -> str:
        """What lies this way, in a word."""
        return "next" if self is Direction.FORWARD else "previous"

    @property
    def further(self) -> str:
        """Where nothing more was found, in words."""
        return "further on" if self is Direction.FORWARD else "further back"

    @property
    def edge(self) -> str:
        """Where the page ends this way, in words."""
        return "end of page" if self is Direction.FORWARD else "start of page"


class Mode(StrEnum):
    """Who gets the keys: the reading, or the page."""

    BROWSE = "browse"
    FOCUS = "focus"


@dataclass(frozen=True, slots=True)
class Heard:
    """An entry of the log: a move, what was heard on it, and where that left the cursor.

    Attributes:
        number: counted from 1.
        move: the move in words, as "next heading".
        utterance: what was heard.
        node: the node it was about, None if it was about no one node.
        notice: a remark about the move itself, as "no heading further on"; it is shown and never heard.
    """

    number: int
    move: str
    utterance: Utterance
    node: Node | None
    notice: str = ""

    @property
    def line(self) -> str:
        """What was heard, with the notice in brackets behind it."""
        told = f"({self.notice})" if self.notice else ""
        return " ".join(filter(None, (self.utterance.text, told)))


@dataclass(frozen=True, slots=True)
class Note:
    """A note on an announcement that puzzled the listener.

    Attributes:
        heard: the announcement.
        words: what the listener wrote, empty for a note without words.
    """

    heard: Heard
    words: str = ""
