"""All actions, to be searched and run: recent ones first, then those of the view in front, then all others."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from rich.text import Text

from murvel.tui.actions import Action, Keymap, keys_of
from murvel.tui.dialogs.searched import Rows, Searched
from murvel.tui.widgets.wording import Ends

RECENT = "Used last"


@dataclass(frozen=True, slots=True)
class Group:
    """Actions that belong together.

    Attributes:
        title: what they have in common, as the name of a view.
        actions: the actions.
    """

    title: str
    actions: tuple[Action, ...]


class AllActions(Searched[Action]):
    """Answers with the action to run, with None if Escape was pressed.

    Args:
        groups: the actions, the group that matters most first.
        keymap: the keys a person chose.
        recent: the ids of the actions that were run from here, the last one first.
    """

    TITLE_OF_FRAME = "Actions"
    HINT = "words of an action"
    NOTHING = "No action has these words."
    KEYS = (("Typing", "searches"), ("↓ ↑", "pick"), ("Enter", "run it"), ("Esc", "close"))

    def __init__(self, groups: Sequence[Group], keymap: Keymap, recent: Sequence[str]) -> None:
        super().__init__()
        by_id = {action.id: action for group in groups for action in group.actions}
        used = tuple(by_id[each] for each in recent if each in by_id)
        self._groups = [Group(RECENT, used), *groups]
        self._keymap = keymap

    def found(self, words: list[str], styles: dict[str, str]) -> Iterable[tuple[str, Rows[Action]]]:
        """Return the actions that have the words, each in the first of its groups."""
        seen: set[str] = set()
        for group in self._groups:
            found = [each for each in group.actions if each.id not in seen and _has(each, group, words)]
            seen.update(each.id for each in found)
            yield group.title, [(each, self._row(each, styles)) for each in found]

    def _row(self, action: Action, styles: dict[str, str]) -> Ends:
        keys = " ".join(keys_of(action, self._keymap))
        return Ends(Text(f"  {action.words}", styles["plain"]), Text(keys, styles["mark"]))


def _has(action: Action, group: Group, words: list[str]) -> bool:
    text = f"{action.words} {group.title} {action.id}".casefold()
    return all(word in text for word in words)
