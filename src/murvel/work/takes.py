"""Keeping a take of a page with what it was made of."""

from __future__ import annotations

from contextlib import suppress

from murvel.casebook.records import Page, Take
from murvel.casebook.store import Casebook
from murvel.errors import MurvelError
from murvel.reader.session import ReadingSession
from murvel.tree.exchange.write import to_json


def keep_take(casebook: Casebook, page: Page, session: ReadingSession) -> Take:
    """Return the take of a page as it is in a session: the last one while nothing has changed, else a new one.

    Raises:
        CasebookError: it cannot be written.
    """

    def capture() -> str:
        taken = None
        with suppress(MurvelError):  # a page that does not answer is kept without
            taken = session.stage.take() if session.stage is not None else None
        return taken.to_json() if taken is not None else ""

    return casebook.keep_take(page, session.tree.document, lambda: "".join(to_json(session.tree)), capture)
