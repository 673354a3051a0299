"""Pieces of text put together to a name, with spaces where one is set apart (AccName 1.2 §4.3.2, step 2F.i).

The standard leaves to the browser what counts as inline. What is done here was asked of one (docs/standards.md).
"""

from __future__ import annotations

from typing import NamedTuple


class Piece(NamedTuple):
    """What an element adds to the text around it.

    Attributes:
        text: the text.
        is_apart_before, is_apart_after: whether it is set apart from what stands before and after it.
    """

    text: str
    is_apart_before: bool = False
    is_apart_after: bool = False


NOTHING = Piece("")


class Joined:
    """Pieces put together: a space where one is set apart and there is no white space yet."""

    __slots__ = ("_apart", "_apart_before", "_pieces")

    def __init__(self) -> None:
        self._pieces: list[str] = []
        self._apart_before = False
        self._apart = False

    def add(self, text: str, *, before: bool = False, after: bool = False) -> None:
        """Add a text; `before` and `after` say whether it is set apart there."""
        if not text:
            self._apart = self._apart or before or after
            return
        if not self._pieces:
            self._apart_before = before or self._apart
        elif (before or self._apart) and not (self._pieces[-1][-1].isspace() or text[0].isspace()):
            self._pieces.append(" ")
        self._pieces.append(text)
        self._apart = after

    @property
    def piece(self) -> Piece:
        """All of it as one piece."""
        return Piece("".join(self._pieces), self._apart_before if self._pieces else self._apart, self._apart)
