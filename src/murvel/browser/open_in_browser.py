"""Opening pages as a person asked for it: on the built-in stage, or in a browser."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import TYPE_CHECKING

from murvel.browser.errors import BrowserError, NoBrowserError
from murvel.loading.problems import ProblemKind
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.tree.open_tree import open_tree

if TYPE_CHECKING:
    from murvel.browser.stage import BrowserStage
    from murvel.page.captured.capture import Capture
    from murvel.stage.open_stage import Opened
    from murvel.tree.model import Tree


def open_page(address: str, setup: Setup = DEFAULT_SETUP, cues: Path | None = None) -> Opened:
    """Return a page on the stage that the setup asks for; where there is no browser, that is a problem of the page on
    the built-in stage.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        setup: how it is opened.
        cues: the cue file of the built-in stage; by default the one beside the page, if there is one.

    Raises:
        PageError: the page cannot be loaded.
        StageError: the cue file cannot be used.
        BrowserError: the page cannot be opened in the browser.
    """
    from murvel.stage.open_stage import Opened, open_stage  # whoever only reads a page needs no stage

    if setup.browser is None:
        return open_stage(address, setup, cues)
    try:
        stage = open_in_browser(address, setup)
    except NoBrowserError as error:
        opened = open_stage(address, setup, cues)
        _tell_of_missing(opened.tree, error)
        return opened
    return Opened(stage.tree, stage)


def _tell_of_missing(tree: Tree, error: NoBrowserError) -> None:
    tree.document.problems.add(ProblemKind.BROWSER, f"The page is opened without its scripts: {error}")


@contextmanager
def opened_tree(address: str, setup: Setup = DEFAULT_SETUP) -> Iterator[Tree]:
    """Give the tree of a page as it arrives on the stage that the setup asks for; a browser's page is closed then.

    Raises:
        PageError: the page cannot be loaded.
        BrowserError: the page cannot be opened in the browser.
    """
    if setup.browser is None:
        yield open_tree(address, setup)
        return
    try:
        stage = open_in_browser(address, setup)
    except NoBrowserError as error:
        tree = open_tree(address, setup)
        _tell_of_missing(tree, error)
        yield tree
        return
    try:
        yield stage.tree
    finally:
        stage.close()


def open_in_browser(address: str, setup: Setup) -> BrowserStage:
    """Return a page at work in a browser; its stage is to be closed.

    Raises:
        PageError: the page cannot be loaded.
        BrowserError: there is no browser, or the page cannot be opened in it.
    """
    try:
        from murvel.browser.arriving import arrive
        from murvel.browser.launch import chromium
        from murvel.browser.stage import BrowserStage
        from murvel.browser.tab import Tab
    except ImportError as error:
        raise NoBrowserError(
            "A browser cannot be driven without Playwright", 'install it with pip install "murvel[browser]".'
        ) from error
    from murvel.browser.gate import Gate

    assert setup.browser is not None
    gate = Gate.of(address, setup)
    browser = chromium(setup.browser)
    tab = Tab(browser, setup, gate)

    async def arrived() -> Capture:
        await tab.open()
        return await arrive(tab)

    try:
        return BrowserStage(tab, browser.thread.run(arrived(), _PATIENCE))
    except BaseException:
        with suppress(BrowserError):
            browser.thread.run(tab.close(), patience=5)
        raise


_PATIENCE = 120.0
"""Seconds that a page has to load, to come to rest, and to be taken."""
