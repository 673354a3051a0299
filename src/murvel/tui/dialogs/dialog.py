"""What dialogs have in common: each is answered once, and says which keys it takes."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar

from textual.app import ComposeResult
from textual.await_complete import AwaitComplete
from textual.binding import Binding, BindingType
from textual.screen import ModalScreen, ScreenResultType
from textual.widget import Widget

from murvel.tui.widgets.lines import KeyHint, KeyLine

_NEEDED_MOST = frozenset({"Enter", "Esc", "Ctrl+S"})
"""Keys that are shown also where there is no room for all."""


def arrow_bindings(action: str, *hows: str) -> list[BindingType]:
    """Return bindings for a list or text while a line has the keys: down, up, a screenful down, a screenful up.

    Args:
        action: the dialog's action.
        hows: what it is told for each of the four.
    """
    keys = ("down", "up", "pagedown", "pageup")
    return [Binding(key, f"{action}('{how}')", show=False, priority=True) for key, how in zip(keys, hows, strict=True)]


class Dialog(ModalScreen[ScreenResultType]):
    """A dialog over a view."""

    KEYS: ClassVar[tuple[tuple[str, str], ...]] = ()
    """The keys it takes, with a word or two each."""

    _is_answered = False

    def compose(self) -> ComposeResult:
        """What it shows, and below it the line of its keys."""
        yield from self.body()
        line = KeyLine()
        line.hints = tuple(KeyHint(key, words, is_last=key in _NEEDED_MOST) for key, words in self.KEYS)
        yield line

    def body(self) -> Iterable[Widget]:
        """Yield what it shows, as Textual composes; nothing but the keys unless a dialog says more."""
        return ()

    @property
    def is_asking(self) -> bool:
        """Whether it waits for an answer."""
        return not self._is_answered

    def dismiss(self, result: ScreenResultType | None = None) -> AwaitComplete:
        """Close the dialog with an answer; a second answer counts for nothing."""
        if self._is_answered:
            return AwaitComplete()
        self._is_answered = True
        answered: AwaitComplete = super().dismiss(result)
        return answered
