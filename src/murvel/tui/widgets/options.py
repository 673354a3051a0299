"""A list of options that takes every key, also in a terminal so small that nothing of the list shows."""

from __future__ import annotations

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
