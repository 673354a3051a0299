"""What dialogs have in common: each is answered once, however fast keys come."""

from __future__ import annotations

from textual.await_complete import AwaitComplete
from textual.screen import ModalScreen, ScreenResultType


class Dialog(ModalScreen[ScreenResultType]):
    """A dialog. Keys that come after its answer, and before it is gone, are lost with it."""

    _is_answered = False

    def dismiss(self, result: ScreenResultType | None = None) -> AwaitComplete:
        """Close the dialog with an answer; a second answer counts for nothing."""
        if self._is_answered:
            return AwaitComplete()
        self._is_answered = True
        answered: AwaitComplete = super().dismiss(result)
        return answered
