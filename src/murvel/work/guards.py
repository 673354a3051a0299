"""Walks out of a casebook: the acceptance steps of its defects as files that guard the repairs."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import Path

from murvel.casebook.defect import Defect
from murvel.casebook.records import Page
from murvel.files.writing import write_text
from murvel.walks.acceptance import proves
from murvel.walks.addresses import page_for
from murvel.walks.errors import WalkError
from murvel.walks.reading import SUFFIXES, steps_of
from murvel.walks.walk import Walk
from murvel.walks.writing import walk_text


def write_guards(defects: list[Defect], pages: Mapping[int, Page], folder: Path) -> Iterator[Path]:
    """Write a walk for each defect that has acceptance steps, and yield the paths.

    Args:
        defects: the defects.
        pages: the casebook's pages, by number.
        folder: where the files are written; made where it is not there. Older files of the same names are replaced.

    Raises:
        WalkError: a file cannot be written, or the steps of a defect cannot be read.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise WalkError(f"{folder} cannot be made ({error.strerror})", "name another folder.") from error
    for defect in defects:
        steps = steps_of(defect.acceptance, f"the steps of defect {defect.id}")
        page = pages.get(defect.page)
        if page is None or not proves(steps):
            continue
        path = folder / f"defect-{defect.id}{SUFFIXES[0]}"
        walk = Walk(page_for(page.address, folder), steps, f"Defect {defect.id}: {defect.headline}", page.width)
        write_text(walk_text(walk), path, "walk", WalkError)
        yield path
