"""What drills work on, and what they find."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from types import MappingProxyType
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
    ROUTE = "route"
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


_KEYS: Mapping[Kind, tuple[str, ...]] = MappingProxyType(
    {
        Kind.DISCLOSURE: ("tab", "enter", "space", "escape"),
        Kind.MENU: ("tab", "enter", "space", "arrow", "escape"),
        Kind.DIALOG: ("tab", "enter", "space", "escape"),
        Kind.COMBOBOX: ("tab", "arrow", "escape"),
        Kind.COMPOSITE: ("tab", "arrow", "shift+tab"),
        Kind.RANGE: ("tab", "arrow"),
        Kind.TOGGLE: ("tab", "space"),
        Kind.TIP: ("tab", "hover", "escape"),
        Kind.CAROUSEL: ("wait", "tab", "enter"),
        Kind.ROUTE: ("tab", "enter", "wait"),
        Kind.FORM: ("tab", "enter"),
    }
)
"""What the drill of each kind tries, by the first word of the move."""
assert set(_KEYS) == set(Kind), "a kind has no keys"


@dataclass(slots=True)
class Drilled:
    """What came of a drill.

    Attributes:
        widget: what was drilled.
        walk: the keys, each with what was heard.
        faults: what was found.
        is_restored: whether the page is as it was before, as far as the drill can tell.
        not_reached: why the widget was not reached, so that nothing is concluded; empty if it was.
    """

    widget: Widget
    walk: list[Walked] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)
    is_restored: bool = True
    not_reached: str = ""

    @property
    def tried(self) -> tuple[str, ...]:
        """What was tried, by the first words of the moves."""
        moves = {each.move.partition(" ")[0] for each in self.walk}
        return tuple(each for each in _KEYS[self.widget.kind] if each in moves)

    @property
    def left(self) -> tuple[str, ...]:
        """What a drill of this kind may try, and was not tried here."""
        return tuple(each for each in _KEYS[self.widget.kind] if each not in self.tried)

    @property
    def outcome(self) -> str:
        """What came of it in a few words, as "2 found" or "nothing found with tab, enter; not tried: escape"."""
        parts = [f"{len(self.faults)} found"] if self.faults else []
        if self.not_reached:
            return "; ".join([*parts, f"not reached, and nothing is concluded: {self.not_reached}"])
        if not parts:
            parts.append(f"nothing found with {', '.join(self.tried)}")
        if self.left:
            parts.append(f"not tried: {', '.join(self.left)}")
        return "; ".join(parts)

    def fault(self, check: Check, detail: str = "", certainty: Certainty | None = None) -> None:
        """Note a fault at the present step; of a guess, a person judges, if nothing else is said."""
        from murvel.checks.engine.check import NEEDS_EARS  # the kinds of widgets are asked for where none is drilled

        if certainty is None and self.widget.is_guess:
            certainty = NEEDS_EARS
        self.faults.append(Fault(check, detail, certainty, len(self.walk)))
