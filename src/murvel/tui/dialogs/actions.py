"""All actions, to be searched and run: recent ones first, then those of the view in front, then all others."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import ClassVar

from rich.table import Table
from rich.text import Text
from textual.binding import Binding, BindingType
from textual.containers import Vertical
from textual.widget import Widget
from textual.widgets import Input
from textual.widgets.option_list import Option

from murvel.tui.actions import Action, Keymap, keys_of
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.options import Options
from murvel.tui.widgets.palette import part_styles

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


class AllActions(Dialog[Action | None]):
    """Answers with the action to run, with None where Escape was pressed.

    Args:
        groups: the actions, the group that matters most first.
        keymap: the keys a person chose.
        recent: the ids of the actions that were run from here, the last one first.
    """

    KEYS = (("Typing", "searches"), ("↓ ↑", "pick"), ("Enter", "run it"), ("Esc", "close"))
    TYPES_INTO = "Input"
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape", "dismiss(None)", "Close", show=False),
        Binding("down", "pick('cursor_down')", "Next", show=False, priority=True),
        Binding("up", "pick('cursor_up')", "Previous", show=False, priority=True),
        Binding("pagedown", "pick('page_down')", "A screenful down", show=False, priority=True),
        Binding("pageup", "pick('page_up')", "A screenful up", show=False, priority=True),
    ]

    def __init__(self, groups: Sequence[Group], keymap: Keymap, recent: Sequence[str]) -> None:
        super().__init__()
        by_id = {action.id: action for group in groups for action in group.actions}
        used = tuple(by_id[each] for each in recent if each in by_id)
        self._groups = [Group(RECENT, used), *groups] if used else list(groups)
        self._keymap = keymap
        self._listed: list[Action | None] = []

    def body(self) -> Iterable[Widget]:
        """A line to search in, and the actions."""
        with Vertical() as frame:
            frame.border_title = "Actions"
            yield Input(placeholder="words of an action")
            listed = Options()
            listed.can_focus = False
            yield listed

    def on_mount(self) -> None:
        """Show all."""
        self._list("")

    def on_input_changed(self, event: Input.Changed) -> None:
        """Show those that have the words."""
        self._list(event.value)

    def _list(self, words: str) -> None:
        styles = part_styles(self.app)
        listed = self.query_one(Options)
        self._listed = []
        options = []
        seen: set[str] = set()
        for group in self._groups:
            found = [each for each in group.actions if each.id not in seen and _matches(each, group, words)]
            if not found:
                continue
            seen.update(each.id for each in found)
            options.append(Option(Text(group.title, styles["mark"]), disabled=True))
            self._listed.append(None)
            options.extend(Option(self._row(each, styles)) for each in found)
            self._listed.extend(found)
        if not options:
            options.append(Option(Text("No action has these words.", styles["faint"]), disabled=True))
            self._listed.append(None)
        listed.clear_options()
        listed.add_options(options)
        listed.highlighted = next((at for at, each in enumerate(self._listed) if each is not None), None)
        listed.scroll_home(animate=False)

    def _row(self, action: Action, styles: dict[str, str]) -> Table:
        row = Table.grid(padding=(0, 1), expand=True)
        row.add_column(ratio=1, no_wrap=True)
        row.add_column(justify="right", no_wrap=True)
        row.add_row(
            Text(f"  {action.words}", styles["plain"]), Text(" ".join(keys_of(action, self._keymap)), styles["mark"])
        )
        return row

    def action_pick(self, how: str) -> None:
        """Pick another one."""
        getattr(self.query_one(Options), f"action_{how}")()

    def on_input_submitted(self) -> None:
        """Run the one that is picked."""
        at = self.query_one(Options).highlighted
        self.dismiss(self._listed[at] if at is not None else None)

    def on_option_list_option_selected(self, event: Options.OptionSelected) -> None:
        """Run the one that was clicked."""
        self.dismiss(self._listed[event.option_index])


def _matches(action: Action, group: Group, words: str) -> bool:
    text = f"{action.words} {group.title} {action.id}".casefold()
    return all(word in text for word in words.casefold().split())
