"""Opening a page in steps, so that a person sees what is being done and can stop it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from murvel.casebook.defect import Defect
from murvel.casebook.store import Casebook
from murvel.checks.catalogue import Catalogue
from murvel.page.open import DEFAULT_WIDTH, open_text
from murvel.reader.session import ReadingSession
from murvel.stage.open import stage_of
from murvel.work.work import Work


@dataclass(slots=True)
class Opening:
    """A page that is to be opened.

    Attributes:
        address: a path, a folder, "-" or an http(s) address.
        width: the viewport's width in CSS pixels.
        defect: the defect to go to once the page is open, None for none.
        source: its source, where it was read already, as standard input has to be.
        work: the open page, None before the last step is done.
        is_under_way: whether a step is being done now.
    """

    address: str
    width: int = DEFAULT_WIDTH
    defect: Defect | None = None
    source: str | None = None
    work: Work | None = None
    is_under_way: bool = False

    def steps(self, casebook: Casebook, catalogue: Catalogue | None = None) -> Iterator[str]:
        """Open the page, and yield before each step what it does, in a word or two.

        Where it is given up between two steps, nothing is kept of it.

        Args:
            casebook: the casebook the page is documented in.
            catalogue: the checks that look through the page; the built-in ones by default.

        Raises:
            PageError: the page cannot be had.
            StageError: the page's cues cannot be used.
            CasebookError: the casebook cannot be written.
        """
        self.is_under_way = True
        try:
            yield from self._steps(casebook, catalogue)
        finally:
            self.is_under_way = False

    def _steps(self, casebook: Casebook, catalogue: Catalogue | None) -> Iterator[str]:
        yield "fetching the page"
        text, final = open_text(self.address) if self.source is None else (self.source, self.address)
        yield "building its tree"
        opened = stage_of(text, final, self.width)
        yield "putting it in reading order"
        session = ReadingSession(opened.tree, stage=opened.stage)
        yield "working out what is heard"
        session.spoken.start(len(session.readout.items))
        yield "keeping the take"
        self.work = Work(casebook, session, catalogue)
