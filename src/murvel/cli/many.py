"""The trees of many pages at once, over all processors; one bad page never ends the run."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import NamedTuple

from murvel.browser.open import opened_tree
from murvel.cli.opening import Asked
from murvel.cli.output import print_error, problem_with
from murvel.cli.pages import NamedPage, pages_in
from murvel.cli.pool import work_on
from murvel.files.outputs import must_be_replaceable
from murvel.files.writing import replacing
from murvel.page.errors import PageError
from murvel.page.problems import Problem
from murvel.page.setup import Setup
from murvel.page.text import visible
from murvel.tree.write import to_json


class _Written(NamedTuple):
    """What came of one tree: why it could not be written, None where it was; what of its page was not honoured."""

    failure: str | None
    problems: list[Problem]


def write_trees(
    pages: list[str], folder: Path, asked: Asked, tell: Callable[[int, int], None], *, force: bool = False
) -> bool:
    """Write the JSON tree of every page to a folder, keeping the layout of folders that were named.

    Args:
        pages: pages, and folders that are walked.
        folder: where the trees go, made if it is not there.
        asked: how pages are opened; it is told what could not be honoured of each.
        tell: is told how many pages are done, and of how many.
        force: whether files are replaced that Murvel did not write.

    Returns:
        Whether all went well.

    Raises:
        KeyboardInterrupt: it was stopped; the trees that are done are written.
    """
    jobs = list(_jobs(pages, folder))
    done = work_on(jobs, partial(_write_tree, setup=asked.setup(), force=force), _died, tell)
    well = bool(jobs)
    for (_, page), written in zip(jobs, done.results, strict=True):
        if written is not None:
            asked.tell(written.problems, visible(page.address))
            if written.failure is not None:
                print_error(written.failure)
                well = False
    if not jobs:
        print_error("There is no page among what was named; give pages, or folders that hold some.")
    if done.is_stopped:
        raise KeyboardInterrupt
    return well


def _jobs(pages: list[str], folder: Path) -> Iterator[tuple[Path, NamedPage]]:
    """Yield each tree's file and its page; files of the same name from different places are numbered."""
    taken: set[Path] = set()
    for page in pages_in(pages):
        relative = page.place
        target = folder / relative.with_name(f"{relative.name}.json")
        number = 2
        while target in taken:
            target = folder / relative.with_name(f"{relative.name}.{number}.json")
            number += 1
        taken.add(target)
        yield target, page


def _died(job: tuple[Path, NamedPage]) -> _Written:
    return _Written(f"The process that read {visible(job[1].address)} died; the page was left out.", [])


def _write_tree(job: tuple[Path, NamedPage], setup: Setup, *, force: bool) -> _Written:
    """Write one tree; whatever goes wrong is told in the result."""
    target, page = job
    try:
        must_be_replaceable(target, PageError, force=force)
        target.parent.mkdir(parents=True, exist_ok=True)
        with (
            opened_tree(page.address, page.setup(setup)) as tree,
            replacing(target, "tree", PageError) as made,
            made.open("w", encoding="utf-8", errors="backslashreplace") as stream,
        ):
            stream.writelines(to_json(tree))
    except OSError as error:
        name = visible(page.address)
        return _Written(f"The tree of {name} cannot be written ({error.strerror}); choose another folder.", [])
    except Exception as error:
        return _Written(problem_with(page.address, error), [])
    return _Written(None, list(tree.document.problems))
