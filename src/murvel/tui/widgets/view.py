"""What the application asks of each of its views."""

from __future__ import annotations

from typing import Protocol

from textual.widget import Widget


class View(Protocol):
    """A view: it shows the page and the work as they are when it is asked to."""

    @property
    def for_keys(self) -> Widget:
        """What gets the keys when the view comes up."""

    def show_now(self) -> None:
        """Show what there is now."""
