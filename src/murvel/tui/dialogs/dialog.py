"""What dialogs have in common: each is answered once, however fast keys come, and says which keys it takes."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar

from textual import events
from textual.app import ComposeResult
from textual.await_complete import AwaitComplete
from textual.binding import Binding, BindingType
from textual.screen import ModalScreen, ScreenResultType
from textual.widget import Widget
from textual.widgets import Input

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

    TYPES_INTO: ClassVar[str] = ""
    """A selector of the line that takes whatever is typed; empty for none."""

    _is_answered = False
    _is_ready = False
    _early: tuple[ScreenResultType | None] | None = None
    """The answer of a key that was faster than the dialog itself."""

    def compose(self) -> ComposeResult:
        """What it shows, and below it the line of its keys."""
        yield from self.body()
        line = KeyLine()
        line.hints = tuple(KeyHint(key, words, is_last=key in _NEEDED_MOST) for key, words in self.KEYS)
        yield line

    def body(self) -> Iterable[Widget]:
        """Yield what it shows, as Textual composes; nothing but the keys unless a dialog says more."""
        return ()

    def on_key(self, event: events.Key) -> None:
        """Put a letter that came before the dialog's line had the keys into the line; pass on what came too late."""
        if self._is_answered:
            event.stop()
            event.prevent_default()
            self.app.post_message(events.Key(event.key, event.character))
        elif self.TYPES_INTO and event.is_printable and event.character:
            event.stop()
            self.query_one(self.TYPES_INTO, Input).insert_text_at_cursor(event.character)

    @property
    def is_asking(self) -> bool:
        """Whether what it shows is there, and it waits for an answer."""
        return self._is_ready and not self._is_answered

    def on_mount(self) -> None:
        """Give the answer that came before the dialog was there; its own `on_mount` has run by now."""
        self._is_ready = True
        if self._early is not None:
            super().dismiss(self._early[0])

    def dismiss(self, result: ScreenResultType | None = None) -> AwaitComplete:
        """Close the dialog with an answer; a second answer counts for nothing."""
        if self._is_answered:
            return AwaitComplete()
        self._is_answered = True
        if not self._is_ready:
            self._early = (result,)
            return AwaitComplete()
        answered: AwaitComplete = super().dismiss(result)
        return answered
