"""The same page once more, in a wide window: what it shows there is compared with a narrow one."""

from __future__ import annotations

from dataclasses import replace

from murvel.browser.quiet import until_quiet
from murvel.browser.tab import Tab
from murvel.browser.taking import take
from murvel.page.captured.capture import Capture
from murvel.page.setup import DEFAULT_WIDTH


async def taken_wide(tab: Tab) -> Capture:
    """Return a capture of a tab's page as it arrives in a window of the usual width, in a tab of its own.

    Raises:
        BrowserError: the page cannot be opened again.
    """
    assert tab.setup.browser is not None
    setup = replace(tab.setup, width=DEFAULT_WIDTH, browser=replace(tab.setup.browser, zoom=100))
    again = Tab(tab.browser, setup, tab.gate.again())
    try:
        await again.open()
        await until_quiet(again)
        return await take(again, whole=False)
    finally:
        await again.close()
