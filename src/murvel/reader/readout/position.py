"""Where reading stands, and what a move makes of that."""

from __future__ import annotations

from dataclasses import dataclass

from murvel.reader.live.queue import Source
from murvel.reader.readout.items import Container, Object
from murvel.reader.readout.kinds import Kind
from murvel.reader.speech.utterance import Utterance
from murvel.tree.node import Node

Spot = Container | Object
"""What moves by containers go between."""


@dataclass(frozen=True, slots=True)
class Position:
    """Where reading stands. A move replaces it as a whole.

    Attributes:
        cursor: the object at which reading stands, None on a page with nothing to read.
        subject: the node the last announcement was about, None if it was about no one node.
        span: where the word or character read last begins and ends in the text of the cursor's object.
        cell: the cell that was moved to last.
        slot: the row and column of that cell that were moved to, where it spans several.
        spot: the container or object that was moved to last by containers.
        anchor: the kind that was jumped to last, and the node it led to, until another move.
        has_arrived: whether anything of the page was read yet: before that, reading comes from nowhere.
        is_lost: whether what the cursor stood at is gone since the page changed.
        is_before: whether reading stands before the cursor, at the very start: what was first is gone.
    """

    cursor: Object | None
    subject: Node | None = None
    span: tuple[int, int] | None = None
    cell: Node | None = None
    slot: tuple[int, int] | None = None
    spot: Spot | None = None
    anchor: tuple[Kind, Node] | None = None
    has_arrived: bool = False
    is_lost: bool = False
    is_before: bool = False

    @classmethod
    def at(cls, cursor: Object, subject: Node) -> Position:
        """Return the position at an object; `subject` is what is announced there."""
        return cls(cursor, subject, has_arrived=True)

    @property
    def came_from(self) -> Object | None:
        """The object that a move leaves behind; None if reading stands before all of them."""
        return None if self.is_before else self.cursor

    @property
    def node(self) -> Node | None:
        """The node the last announcement was about; where it was about none, the cursor's."""
        if self.subject is not None:
            return self.subject
        return self.cursor.node if self.cursor is not None else None


@dataclass(frozen=True, slots=True)
class Step:
    """A move that is about to be made.

    Attributes:
        move: the move in words, as "next heading".
        said: what is heard on it.
        about: the node that is about, None if it is about no one node.
        position: where reading stands afterwards; None if it stays.
        source: who asks for it to be said.
        sought: what was jumped to or looked for, to be sought again on request; None for other moves.
        notice: a remark about the move itself; it is shown and never heard.
        failure: why the move leads nowhere, as "no heading further on"; empty if it arrives.
    """

    move: str
    said: Utterance
    about: Node | None
    position: Position | None = None
    source: Source = Source.KEY
    sought: Kind | str | None = None
    notice: str = ""
    failure: str = ""
