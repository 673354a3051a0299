"""Actions: what a person can do, with its keys and words. Bindings, key line, help and palette are made from them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from textual.binding import Binding, BindingType

from murvel.tui.keys import key_words

ANYWHERE = "anywhere"
"""The place of actions whose keys work in every view."""


@dataclass(frozen=True, slots=True)
class Action:
    """An action.

    Attributes:
        place: where its keys work: the name of a view, or `ANYWHERE`.
        name: its name within the place; with the place it is the id that settings use.
        run: what does it, as Textual writes actions.
        keys: Textual's names of its keys, the main one first, with commas between them.
        words: what it does, as a sentence without a full stop.
        brief: a word or two for the key line; empty if it does not stand there.
        is_at_once: whether its key is taken before anything else sees it. What opens a dialog is, so that letters typed
            right behind the key are the dialog's.
    """

    place: str
    name: str
    run: str
    keys: str
    words: str
    brief: str = ""
    is_at_once: bool = False

    @property
    def id(self) -> str:
        """What settings call it, as "listen.next"."""
        return f"{self.place}.{self.name}"


Keymap = dict[str, str]
"""Keys by the ids of actions, where a person chose others than the usual ones."""


def bindings(actions: Iterable[Action]) -> list[BindingType]:
    """Return Textual's bindings for actions."""
    return [
        Binding(action.keys, action.run, action.words, show=False, id=action.id, priority=action.is_at_once)
        for action in actions
    ]


def keys_of(action: Action, keymap: Keymap) -> list[str]:
    """Return the keys of an action as they are written for people, the main one first."""
    return [key_words(key) for key in keymap.get(action.id, action.keys).split(",")]
