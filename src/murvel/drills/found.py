"""What drills work on, and what they find."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from murvel.checks.engine.check import Certainty, Check
    from murvel.drills.walker import Walked


class Kind(StrEnum):
    """Kinds of widgets, each with a drill of its own."""

    DISCLOSURE = "disclosure"
    MENU = "menu"
    DIALOG = "dialog"
    COMBOBOX = "combobox"
    COMPOSITE = "composite"
    RANGE = "range"
    TOGGLE = "toggle"
    TIP = "tip"
    CAROUSEL = "carousel"
    FORM = "form"


@dataclass(frozen=True, slots=True)
class Widget:
    """A widget of a page.

    Attributes:
        kind: which drill it gets.
        path: its element's absolute XPath as the page arrives: a page is opened again for each drill.
        words: its role and name.
        is_guess: whether only a handler shows that something may open; it may do something else.
    """

    kind: Kind
    path: str
    words: str
    is_guess: bool = False


@dataclass(frozen=True, slots=True)
class Fault:
    """Something that a drill found.

    Attributes:
        check: what it is.
        detail: what in particular.
        certainty: how sure, where that differs from the check's own.
        at: how many steps of the walk led to it.
    """

    check: Check
    detail: str = ""
    certainty: Certainty | None = None
    at: int = 0


@dataclass(slots=True)
class Drilled:
    """What came of a drill.

    Attributes:
        widget: what was drilled.
        walk: the keys, each with what was heard.
        faults: what was found.
        is_restored: whether the page is as it was before, as far as the drill can tell.
    """

    widget: Widget
    walk: list[Walked] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)
    is_restored: bool = True

    def fault(self, check: Check, detail: str = "", certainty: Certainty | None = None) -> None:
        """Note a fault at the present step; of a guess, a person judges, if nothing else is said."""
        from murvel.checks.engine.check import NEEDS_EARS  # the kinds of widgets are asked for where none is drilled

        if certainty is None and self.widget.is_guess:
            certainty = NEEDS_EARS
        self.faults.append(Fault(check, detail, certainty, len(self.walk)))
