"""Records of pages, their takes, and where they were left."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Page:
    """A page of the casebook: what is tested, at a width."""

    id: int
    address: str
    title: str
    width: int


@dataclass(frozen=True, slots=True)
class Take:
    """One state of a page, numbered from 1 for each page.

    Attributes:
        id: the casebook's number of it.
        number: its number among those of its page.
        is_kept: whether the casebook holds what it was made of.
    """

    id: int
    number: int
    is_kept: bool = True


@dataclass(frozen=True, slots=True)
class TakeRecord:
    """The record of a take.

    Attributes:
        id: the casebook's number of it.
        page: the casebook's number of its page.
        address, number: its page, and its number among the takes of that.
        taken: when it was taken (ISO 8601).
        is_kept: whether the casebook holds what it was made of.
        problems: what of the page could not be honoured, a sentence each.
    """

    id: int
    page: int
    address: str
    number: int
    taken: str
    is_kept: bool
    problems: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Noted:
    """What a listener noted of something that was heard.

    Attributes:
        move: the move it was heard on, in words.
        heard: what was heard.
        xpath: where, as an absolute XPath; empty if it was about no one place.
        note: what was noted, empty for a note without words.
    """

    move: str
    heard: str
    xpath: str
    note: str = ""


@dataclass(frozen=True, slots=True)
class Left:
    """Where reading stood when a page was left, as absolute XPaths."""

    cursor: str
    focus: str | None
