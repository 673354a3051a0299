"""What came of a key, or of time passing, on a stage."""

from __future__ import annotations

from dataclasses import dataclass, field

from murvel.tree.following.change import TreeChange


@dataclass(slots=True)
class Reaction:
    """What came of a key or of time passing.

    Attributes:
        handled: whether the page did anything with it.
        notes: what came of it beside what changed, in words; the tool tells it, and nothing of it is heard.
        message: what the browser itself says of it, as of a field that is missing; empty if it says nothing.
        focus: the key of the element that now has the focus; None if that did not change.
        read_from: the key of the element that reading goes on from; None if it stays.
        followed: the address of a link that was followed, None if none was.
        typed: the character that was typed, empty otherwise.
        address: the address that the page took without another page coming; empty if it did not.
        has_arrived: whether another page has come in place of the one before.
        change: what became of the tree, None if that stayed as it was.
    """

    handled: bool = False
    notes: list[str] = field(default_factory=list)
    message: str = ""
    focus: int | None = None
    read_from: int | None = None
    followed: str | None = None
    typed: str = ""
    address: str = ""
    has_arrived: bool = False
    change: TreeChange | None = None
