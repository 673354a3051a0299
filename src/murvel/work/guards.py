"""Walks out of a casebook: the acceptance steps of its defects as files that guard the repairs."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import Path

from murvel.casebook.defect import Defect
from murvel.casebook.records import Page
from murvel.checks.engine.catalogue import Catalogue
from murvel.files.outputs import write_into
from murvel.walks.acceptance import proves
from murvel.walks.addresses import page_for
from murvel.walks.errors import WalkError
from murvel.walks.parsing import SUFFIXES, steps_of
from murvel.walks.serialising import walk_text
from murvel.walks.walk import Walk


def write_guards(
    defects: list[Defect], pages: Mapping[int, Page], folder: Path, catalogue: Catalogue, *, force: bool = False
) -> Iterator[Path]:
    """Write a walk for each defect that has acceptance steps, and yield the paths.

    Args:
        defects: the defects.
        pages: the casebook's pages, by number.
        folder: where the files are written; made where it is not there.
        catalogue: the checks that steps may name.
        force: whether a file that holds something else is replaced.

    Raises:
        WalkError: a file cannot be written, or the steps of a defect cannot be read.
    """
    for defect in defects:
        steps = steps_of(defect.acceptance, catalogue, f"the steps of defect {defect.id}")
        page = pages.get(defect.page)
        if page is None or not proves(steps):
            continue
        walk = Walk(page_for(page.address, folder), steps, f"Defect {defect.id}: {defect.headline}", page.width)
        name, data = f"defect-{defect.id}{SUFFIXES[0]}", walk_text(walk).encode("utf-8", "backslashreplace")
        yield write_into(folder, name, data, "walk", WalkError, force=force)
