"""What a walk is: a page, how it is read, and steps: moves with what is to be heard."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from murvel.walks.meant import ANY_PAGE, PageMeant

Wanted = str | float | tuple[str, ...] | Mapping[str, str]
"""What an expectation wants: a text, seconds, several texts, or facts of an element by name."""


class Expects(StrEnum):
    """What can be expected after a move, in the words of the file."""

    HEARD = "heard"
    CONTAINS = "heard contains"
    LACKS = "heard lacks"
    MATCHES = "heard matches"
    AT = "at"
    FOCUS = "focus"
    ANNOUNCED = "announced"
    SILENCE = "nothing announced for"
    REACHED = "reached"
    IN_ORDER = "heard in order"
    NOT_NOTICED = "not noticed"
    INCLUDES = "includes"
    """Behind the name of a list, as in `headings includes`."""

    ARRIVES = "arrives"
    """Expected of every move; files do not say it."""


@dataclass(frozen=True, slots=True)
class Expectation:
    """Something that is expected.

    Attributes:
        expects: what kind of thing.
        wanted: what is wanted.
        list: the list of the page it is about; empty for others.
        line: where it stands in its file, from 1; 0 if it is in none.
        span: where the text that is wanted stands in the file, from and to; (0, 0) if it is in none.
    """

    expects: Expects
    wanted: Wanted
    list: str = ""
    line: int = field(default=0, compare=False)
    span: tuple[int, int] = field(default=(0, 0), compare=False)

    @property
    def words(self) -> str:
        """What is expected, in words, as "heard: Rota, link"."""
        wanted = self.wanted
        if isinstance(wanted, Mapping):
            words = ", ".join(f"{name} {value}" for name, value in wanted.items())
        elif isinstance(wanted, tuple):
            words = ", ".join(wanted)
        else:
            words = f"{wanted:g} s" if isinstance(wanted, float) else wanted
        label = f"{self.list} {self.expects}" if self.list else str(self.expects)
        return f"{label}: {words}"


@dataclass(frozen=True, slots=True)
class Step:
    """A move, and what is expected after it.

    Attributes:
        move: the move in the line mode's words; empty for expectations alone.
        expected: what is expected then.
        line: where it stands in its file, from 1; 0 if it is in none.
    """

    move: str
    expected: tuple[Expectation, ...] = ()
    line: int = field(default=0, compare=False)


@dataclass(frozen=True, slots=True)
class Walk:
    """A walk.

    Attributes:
        page: the page's address; a path is meant from the folder of the walk's file.
        steps: what is done.
        title: what it is about, empty if nothing is said.
        width: the viewport's width in CSS pixels, None for the usual one.
        stage: "browser" or "built-in"; empty for whichever is asked for.
        voice: the voice's name, empty for the usual one.
        mode: the mode in which it begins, "browse" or "focus"; empty for the one the page opens in.
        meant: what the page is known by.
    """

    page: str
    steps: tuple[Step, ...]
    title: str = ""
    width: int | None = None
    stage: str = ""
    voice: str = ""
    mode: str = ""
    meant: PageMeant = ANY_PAGE
