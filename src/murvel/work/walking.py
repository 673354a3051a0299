"""Keeping a part of a session as a walk: where it begins, and the file it ends in."""

from __future__ import annotations

from itertools import count
from pathlib import Path

from murvel.files.replacing import write_text
from murvel.reader.moves.moves import Mode
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import NAME_FIRST
from murvel.walks.addresses import page_for
from murvel.walks.errors import WalkError
from murvel.walks.meant import meant_by
from murvel.walks.parsing import SUFFIXES
from murvel.walks.replay import kept
from murvel.walks.serialising import walk_text
from murvel.walks.walk import Step, Walk


class WalkBegun:
    """A walk that is being kept.

    Args:
        session: the session.
    """

    def __init__(self, session: ReadingSession) -> None:
        self._session = session
        self._asked = len(session.asked)
        self._meant = meant_by(session.tree)
        item = session.item
        is_at_start = item is None or (item.index == 0 and session.focus is None)
        self._way: tuple[Step, ...] = () if is_at_start or item is None else (Step(f"item {item.index + 1}"),)
        if session.mode is Mode.FOCUS:
            self._way += (Step("mode"),)

    def end(self, book: Path, width: int) -> Path:
        """Write the walk into a new file beside a casebook, and return its path.

        Args:
            book: the casebook.
            width: the viewport's width.

        Raises:
            WalkError: nothing was done since it began, or the file cannot be written.
        """
        steps = (*self._way, *kept(self._session, self._asked))
        if len(steps) == len(self._way):
            raise WalkError("Nothing was done on the page since the walk began", "make a move first.")
        session = self._session
        names = (book.with_name(f"{book.stem}-{number}{SUFFIXES[0]}") for number in count(1))
        path = next(each for each in names if not each.exists())
        is_live = session.stage is not None and session.stage.is_live
        walk = Walk(
            page=page_for(session.tree.document.address, path.parent),
            steps=steps,
            title=session.tree.document.title.strip(),
            width=width,
            stage="browser" if is_live else "built-in",
            voice="" if session.voice.title == NAME_FIRST.title else session.voice.title,
            meant=self._meant,
        )
        write_text(walk_text(walk), path, "walk", WalkError)
        return path
