"""What can be given to a stage: keys, text, and time. Elements are named by their keys on the stage."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

BACKSPACE = "\b"
"""As text that is typed: takes the last character away."""


class Keystroke(StrEnum):
    """Keys that go to the page."""

    ENTER = "Enter"
    SPACE = " "
    ESCAPE = "Escape"
    UP = "ArrowUp"
    DOWN = "ArrowDown"
    LEFT = "ArrowLeft"
    RIGHT = "ArrowRight"


@dataclass(frozen=True, slots=True)
class Load:
    """The page arrives."""


@dataclass(frozen=True, slots=True)
class Focus:
    """The focus is put on an element, as Tab does."""

    key: int


@dataclass(frozen=True, slots=True)
class Activate:
    """An element is activated, as a click does."""

    key: int


@dataclass(frozen=True, slots=True)
class Press:
    """A key is pressed; `key` is the element it goes to, None for the page as a whole."""

    stroke: Keystroke
    key: int | None = None


@dataclass(frozen=True, slots=True)
class Tab:
    """Tab is pressed, or Shift+Tab with `is_back`; only a page that runs by itself is given it.

    `start` is the stop right before which it begins, right behind which for Shift+Tab; None for where the focus is.
    """

    is_back: bool
    start: int | None = None


@dataclass(frozen=True, slots=True)
class Hover:
    """The pointer is put on an element, and stays there; with None it is put where nothing is."""

    key: int | None


@dataclass(frozen=True, slots=True)
class Type:
    """A character is typed into an element."""

    key: int
    character: str


@dataclass(frozen=True, slots=True)
class Wait:
    """Time passes, up to a second since the page was loaded, but only as far as the first thing that happens."""

    until: float


Input = Load | Focus | Activate | Press | Tab | Hover | Type | Wait
"""Anything that can be given to a stage."""
