"""Opening a page to be read and worked: the one way from an address to a session."""

from __future__ import annotations

from pathlib import Path

from murvel.page.setup import DEFAULT_SETUP, Setup
from murvel.reader.session import ReadingSession
from murvel.reader.voice import Voice
from murvel.stage.open import open_stage


def open_session(
    address: str, setup: Setup = DEFAULT_SETUP, voice: Voice | None = None, cues: Path | None = None
) -> ReadingSession:
    """Return a session on a page, or on a tree that comes as JSON.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        setup: how it is opened.
        voice: the voice, the usual one by default.
        cues: the cue file; by default the one beside the page, if there is one.

    Raises:
        PageError: the page cannot be had.
        StageError: the cue file cannot be used.
    """
    opened = open_stage(address, setup, cues)
    return ReadingSession(opened.tree, voice, opened.stage)
