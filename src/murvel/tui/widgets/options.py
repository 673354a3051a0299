"""A list of options that takes every key, also in a terminal so small that nothing of the list shows."""

from __future__ import annotations

from textual import events
from textual.widgets import OptionList


class Options(OptionList):
    """The library's list, which fails at the page keys where it has no lines."""

    def action_page_up(self) -> None:
        """Go up a page, where there is any."""
        if self.scrollable_content_region:
            super().action_page_up()  # type: ignore[no-untyped-call]

    def action_page_down(self) -> None:
        """Go down a page, where there is any."""
        if self.scrollable_content_region:
            super().action_page_down()  # type: ignore[no-untyped-call]


class PickedOptions(Options):
    """A list in which a click picks, and two clicks choose."""

    def on_click(self, event: events.Click) -> None:
        """Pick what is clicked; choose what is clicked twice."""
        at = event.style.meta.get("option")
        if at is None or self.get_option_at_index(at).disabled:
            return
        event.prevent_default()
        self.highlighted = at
        if event.chain == 2:
            self.action_select()
