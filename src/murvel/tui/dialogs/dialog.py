"""What dialogs have in common: each is answered once, however fast keys come."""

from __future__ import annotations

from textual.await_complete import AwaitComplete
from textual.command import CommandList, CommandPalette
from textual.screen import ModalScreen, Screen, ScreenResultType


class AnsweredOnce(Screen[ScreenResultType]):
    """A screen that closes itself. Keys that come after its answer, and before it is gone, are lost with it."""

    _is_answered = False

    def dismiss(self, result: ScreenResultType | None = None) -> AwaitComplete:
        """Close the screen with an answer; a second answer counts for nothing."""
        if self._is_answered:
            return AwaitComplete()
        self._is_answered = True
        answered: AwaitComplete = super().dismiss(result)
        return answered


class Dialog(ModalScreen[ScreenResultType], AnsweredOnce[ScreenResultType]):
    """A dialog over a view."""


class AllActions(CommandPalette, AnsweredOnce[None]):
    """All actions, to be searched."""

    DEFAULT_CSS = "AllActions SearchIcon { display: none; }"

    def _action_command_list(self, action: str) -> None:
        """Pass a key on to the list; the library's list fails at the page keys where it has no lines."""
        if action == "select" or self.query_one(CommandList).scrollable_content_region:
            super()._action_command_list(action)
