"""Opening a page to be read and worked: the one way from an address to a session."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from murvel.browser.open_in_browser import open_page
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import Voice


def open_session(
    address: str, setup: Setup = DEFAULT_SETUP, voice: Voice | None = None, cues: Path | None = None
) -> ReadingSession:
    """Return a session on a page, on a capture, or on a tree that comes as JSON; its stage is to be closed.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        setup: how it is opened.
        voice: the voice, the usual one by default.
        cues: the cue file of the built-in stage; by default the one beside the page, if there is one.

    Raises:
        PageError: the page cannot be loaded.
        StageError: the cue file cannot be used.
        BrowserError: there is no browser, or the page cannot be opened in it.
    """
    opened = open_page(address, setup, cues)
    return ReadingSession(opened.tree, voice, opened.stage)


@contextmanager
def opened_session(address: str, setup: Setup = DEFAULT_SETUP, voice: Voice | None = None) -> Iterator[ReadingSession]:
    """Open a session for as long as the block runs; its stage is closed at the end.

    Args:
        address, setup, voice: as in `open_session`.

    Raises:
        PageError, StageError, BrowserError: as in `open_session`.
    """
    session = open_session(address, setup, voice)
    try:
        yield session
    finally:
        if session.stage is not None:
            session.stage.close()
