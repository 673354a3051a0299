"""Opening a page in steps, so that a person sees what is being done and can stop it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from itertools import islice
from typing import NamedTuple

from murvel.browser.open_in_browser import open_page
from murvel.casebook.defect import Defect
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import Catalogue
from murvel.loading.fetch import PageSource, fetch
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import Voice
from murvel.stage.open_stage import stage_of
from murvel.walks.walk import Walk
from murvel.work.work import Work

_FIRST_LINES = 100
"""How many lines are shown while the rest is worked out; more than a screen has."""

_PATIENCE = 0.4
"""Seconds that the application waits for a page in a browser; later results arrive by themselves."""


class WantedPage(NamedTuple):
    """A page that a person asks for while another one is open.

    Attributes:
        address: a path, a folder or an http(s) address.
        width: the viewport's width in CSS pixels.
        defect: the defect to go to once the page is open, None for none.
        walk: the walk to make once the page is open, None for none.
    """

    address: str
    width: int
    defect: Defect | None = None
    walk: Walk | None = None


@dataclass(slots=True)
class Opening:
    """A page that is to be opened.

    Attributes:
        address: a path, a folder, "-" or an http(s) address.
        setup: how it is opened.
        defect: the defect to go to once the page is open, None for none.
        walk: the walk to make once the page is open, None for none.
        voice: the voice it is read in, None for the usual one.
        source: the page itself, where it was fetched already, as standard input has to be.
        title: the page's title, as soon as its tree is built.
        first: what is heard first, a line each with its time, as soon as the page is in reading order.
        work: the open page, None before the last step is done.
        is_under_way: whether a step is being done now.
    """

    address: str
    setup: Setup = DEFAULT_SETUP
    defect: Defect | None = None
    walk: Walk | None = None
    voice: Voice | None = None
    source: PageSource | None = None
    title: str = ""
    first: list[str] = field(default_factory=list)
    work: Work | None = None
    is_under_way: bool = False

    def __post_init__(self) -> None:
        """Keep credentials apart from the address, which is shown and kept."""
        self.address, self.setup = self.setup.without_credentials(self.address)

    def steps(self, casebook: Casebook, catalogue: Catalogue) -> Iterator[str]:
        """Open the page, and yield before each step what it does, in a word or two.

        Where it is given up between two steps, nothing is kept of it.

        Args:
            casebook: the casebook the page is documented in.
            catalogue: the checks that look through the page.

        Raises:
            PageError: the page cannot be loaded.
            StageError: the page's cues cannot be used.
            BrowserError: there is no browser, or the page cannot be opened in it.
            CasebookError: the casebook cannot be written.
        """
        self.is_under_way = True
        try:
            yield from self._steps(casebook, catalogue)
        finally:
            self.is_under_way = False

    def _steps(self, casebook: Casebook, catalogue: Catalogue) -> Iterator[str]:
        if self.setup.browser is not None:
            yield "loading the page in a browser, until it comes to rest"
            browser = replace(self.setup.browser, patience=_PATIENCE)
            opened = open_page(self.address, replace(self.setup, browser=browser))
        else:
            yield "fetching the page"
            source = self.source if self.source is not None else fetch(self.address, self.setup)
            yield "building its tree"
            opened = stage_of(source, self.setup.width)
        self.title = opened.tree.document.title
        yield "putting it in reading order"
        session = ReadingSession(opened.tree, self.voice, opened.stage)
        self.first = list(islice(session.spoken.lines(), _FIRST_LINES))
        yield "working out what is heard"
        session.spoken.start(len(session.readout.items))
        yield "keeping the take"
        self.work = Work(casebook, session, catalogue)
