"""The demo without a terminal: the main job on the welcome page, as plain lines."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from dataclasses import replace
from datetime import date
from pathlib import Path

from murvel.casebook.defect import Impact
from murvel.checks.engine.catalogue import built_in
from murvel.demo.site import casebook_path, install, page_path
from murvel.reader.moves.commands import command
from murvel.report.formats import Format
from murvel.report.write import render
from murvel.work.work import open_work


def tour(made: date) -> Iterator[str]:
    """Yield the lines of the tour: arrival, readout, jumps, a defect documented, the report on it.

    It works in a folder of its own, which is gone afterwards.

    Raises:
        PageError, CasebookError: the folder cannot be written.
    """
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        install(folder)
        work = open_work(str(page_path(folder, "welcome", repaired=False)), casebook_path(folder), built_in())
        with work.casebook:
            session = work.session
            yield "Fernhollow Allotments, the welcome page as found."
            yield ""
            yield f"Heard on arrival: {session.arrive().text}"
            yield ""
            yield "Read straight through:"
            yield from session.spoken.lines()
            yield ""
            yield "Jumping by field:"
            for _ in range(3):
                heard = command(session, "jump fields")
                yield f"  next field: {heard.text}"
            draft = work.evidence()
            assert draft is not None, "a jump is always heard"
            work.document(
                replace(
                    draft,
                    expected="Email address, text box, required",
                    impact=Impact.BLOCKS,
                    criterion="4.1.2",
                    repair='Let the label’s for attribute name the field’s id: for="email".',
                )
            )
            yield ""
            yield "Documented and reported:"
            yield ""
            yield from render(work.casebook, Format.MARKDOWN, made).replace(name, "demo").splitlines()
