"""What a widget's role promises to those who work it by keyboard, from WAI-ARIA 1.2's own text (§5.4, by role).

WAI-ARIA names keys for few roles only. For the others it says that authors manage the focus of what a composite holds
(§5.3.2, §5.4): some arrow has to lead on, and any does.
"""

from __future__ import annotations

from collections.abc import Mapping
from enum import StrEnum
from types import MappingProxyType
from typing import NamedTuple

from murvel.stage.inputs import Keystroke


class Promise(StrEnum):
    """What follows from a key."""

    MOVES = "an arrow leads to another part"
    CHANGES = "an arrow changes the value"
    TOGGLES = "Space changes the state"
    OPENS = "Enter or Space opens it"


class Promised(NamedTuple):
    """What a role promises.

    Attributes:
        promise: what follows.
        strokes: the keys; one of them has to do it.
        section: where WAI-ARIA 1.2 says so.
    """

    promise: Promise
    strokes: tuple[Keystroke, ...]
    section: str


_ARROWS = (Keystroke.DOWN, Keystroke.RIGHT, Keystroke.UP, Keystroke.LEFT)
_MOVES = Promised(Promise.MOVES, _ARROWS, "§5.4: authors manage the focus of its descendants")
_TOGGLES = Promised(Promise.TOGGLES, (Keystroke.SPACE,), "§5.4: its state is checked by its user")

PROMISES: Mapping[str, Promised] = MappingProxyType(
    {
        **dict.fromkeys(("grid", "listbox", "menu", "menubar", "radiogroup", "tablist", "tree", "treegrid"), _MOVES),
        "toolbar": Promised(Promise.MOVES, _ARROWS, "§5.4 toolbar: authors SHOULD manage focus"),
        "slider": Promised(Promise.CHANGES, _ARROWS, "§5.4 slider: its user selects a value from a range"),
        "spinbutton": Promised(
            Promise.CHANGES, (Keystroke.UP, Keystroke.DOWN), "§5.4 spinbutton: a range of discrete choices"
        ),
        "checkbox": _TOGGLES,
        "switch": _TOGGLES,
        "menuitemcheckbox": _TOGGLES,
    }
)
"""By role."""

PARTS = frozenset("menuitem menuitemcheckbox menuitemradio option radio tab treeitem gridcell row".split())
"""The roles of the parts between which arrows lead (WAI-ARIA 1.2 §5.4, required owned elements)."""
