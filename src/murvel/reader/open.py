"""Opening a page to be read and worked: the one way from an address to a session."""

from __future__ import annotations

from pathlib import Path

from murvel.page.open import DEFAULT_WIDTH, open_text
from murvel.reader.session import ReadingSession
from murvel.reader.voice import Voice
from murvel.stage.cues import cues_beside, read_cues
from murvel.stage.stage import Stage
from murvel.tree.imported import import_tree


def open_session(
    address: str, width: int = DEFAULT_WIDTH, voice: Voice | None = None, cues: Path | None = None
) -> ReadingSession:
    """Return a session on a page that is put on the built-in stage, or on a tree that comes as JSON.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        width: the viewport's width in CSS pixels.
        voice: the voice, the usual one by default.
        cues: the cue file; by default the one beside the page, if there is one.

    Raises:
        PageError: the page cannot be had.
        StageError: the cue file cannot be used.
    """
    text, final = open_text(address)
    if text.lstrip().startswith("{"):
        return ReadingSession(import_tree(text, final, width), voice)
    path = cues or cues_beside(final)
    stage = Stage(text, final, width, read_cues(path) if path is not None else [])
    return ReadingSession(stage.tree, voice, stage)
