"""What is announced at one moment: an utterance, made of typed parts."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class PartKind(StrEnum):
    """What a part of an utterance tells."""

    CONTEXT = "context"
    HEADER = "header"
    """A header of the cell that is entered."""
    LANGUAGE = "language"
    """That the language changes."""
    NAME = "name"
    TEXT = "text"
    HEADING = "heading"
    """Text of a heading: it is read on like text, and is the heading's name."""
    ROLE = "role"
    STATE = "state"
    VALUE = "value"
    POSITION = "position"
    DESCRIPTION = "description"
    HINT = "hint"
    LIVE = "live"
    """What a live region announces."""
    BLANK = "blank"
    """That nothing stands here: an empty line, an empty cell."""


@dataclass(frozen=True, slots=True)
class Part:
    """One part. A NAME with empty text is a name that is missing: nothing is heard where it should be."""

    kind: PartKind
    text: str

    @property
    def is_missing_name(self) -> bool:
        """Whether this part is the hole where a name should be."""
        return self.kind is PartKind.NAME and not self.text


@dataclass(frozen=True, slots=True)
class Utterance:
    """The parts of what is announced, in the order they are spoken."""

    parts: tuple[Part, ...]

    @property
    def text(self) -> str:
        """What is heard, as one line."""
        pieces: list[str] = []
        for part, separator in separated(self.parts):
            if separator.startswith(",") and pieces:
                pieces[-1] = pieces[-1].rstrip()
            pieces.append(separator)
            pieces.append(part.text)
        return "".join(pieces)


_RUNNING = (PartKind.TEXT, PartKind.HEADING)
_CLOSING = (".", ",", ";", ":", "!", "?", ")")
_ENDING = (".", ",", ";", ":", "!", "?")


def separated(parts: tuple[Part, ...]) -> list[tuple[Part, str]]:
    """Return the parts that are heard, each with what separates it from the one before.

    Running text goes on without a comma; everything else is set off by one.
    """
    result: list[tuple[Part, str]] = []
    before: Part | None = None
    for part in parts:
        if not part.text:
            continue
        if before is None or (before.kind in _RUNNING and part.kind in _RUNNING):
            separator = ""
        elif before.kind in _RUNNING and part.kind is PartKind.NAME:
            separator = "" if before.text.endswith(" ") or part.text.startswith(" ") else " "
        elif part.kind in _RUNNING and part.text.lstrip().startswith(_CLOSING):
            separator = ""
        elif before.text.rstrip().endswith(_ENDING) and before.kind is PartKind.TEXT:
            separator = "" if before.text.endswith(" ") else " "
        else:
            separator = "," if part.text.startswith(" ") else ", "
        result.append((part, separator))
        before = part
    return result


SILENCE = Utterance(())
"""Nothing is heard."""
