"""The trees and captures of many pages at once, over all processors; one bad page never ends the run."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from functools import partial
from pathlib import Path
from typing import NamedTuple, TypeVar

from murvel.browser.open_in_browser import open_in_browser, opened_tree
from murvel.cli.opening import Asked
from murvel.cli.output import print_error, problem_with
from murvel.cli.pages import NamedPage, at_widths, pages_in
from murvel.cli.pool import work_on
from murvel.files.outputs import must_be_replaceable
from murvel.files.replacing import replacing
from murvel.loading.errors import PageError
from murvel.loading.problems import Problem
from murvel.loading.setup import Setup
from murvel.text import visible
from murvel.tree.exchange.write import to_json

_Job = TypeVar("_Job", tuple[Path, NamedPage], tuple[Path, NamedPage, int])


class _Written(NamedTuple):
    """What came of one page: why nothing could be written, None if it was; what of the page was not honoured."""

    failure: str | None
    problems: list[Problem]


def write_trees(
    pages: Sequence[str], folder: Path, asked: Asked, tell: Callable[[int, int], None], *, force: bool = False
) -> bool:
    """Write the JSON tree of every page to a folder; all else is as in `write_captures`."""
    return _write(_jobs(pages, folder), partial(_write_tree, setup=asked.setup(), force=force), asked, tell)


def write_captures(
    pages: Sequence[str],
    widths: Sequence[int],
    folder: Path,
    asked: Asked,
    tell: Callable[[int, int], None],
    *,
    force: bool = False,
) -> bool:
    """Write a capture of every page at every width to a folder, keeping the layout of folders that were named.

    Args:
        pages: pages, and folders that are walked.
        widths: widths of the viewport in CSS pixels.
        folder: where the files go, made if it is not there.
        asked: how pages are opened; it collects what could not be honoured on each.
        tell: called with how many pages are done, and how many there are.
        force: whether files are replaced that Murvel did not write.

    Returns:
        Whether all went well.

    Raises:
        KeyboardInterrupt: it was stopped; what is done is written.
    """
    named = list(_jobs(pages, folder))
    jobs = [(_at_width(target, each.width), each) for target, page in named for each in at_widths([page], widths)]
    setup = asked.setup(widths[0])
    return _write(jobs, partial(_write_capture, setup=setup, force=force), asked, tell)


def _at_width(target: Path, width: int | None) -> Path:
    """The file of a page at one width; where there are several, its name tells which."""
    return target if width is None else target.with_name(f"{target.stem}.{width}{target.suffix}")


def _write(
    asked_for: Iterable[_Job], work: Callable[[_Job], _Written], asked: Asked, tell: Callable[[int, int], None]
) -> bool:
    """Write what is asked for, and tell what went wrong; return whether nothing did."""
    jobs = list(asked_for)
    done = work_on(jobs, work, _died, tell, lambda job: job[1].size())
    well = bool(jobs)
    for job, written in zip(jobs, done.results, strict=True):
        if written is not None:
            asked.tell(written.problems, visible(job[1].address))
            if written.failure is not None:
                print_error(written.failure)
                well = False
    if not jobs:
        print_error("There is no page among what was named; give pages, or folders that hold some.")
    if done.is_stopped:
        raise KeyboardInterrupt
    return well


def _jobs(pages: Sequence[str], folder: Path) -> Iterator[tuple[Path, NamedPage]]:
    """Yield each page's file and the page; files of the same name from different places are numbered."""
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


def _died(job: _Job) -> _Written:
    return _Written(f"The process that read {visible(job[1].address)} died; the page was left out.", [])


def _write_tree(job: tuple[Path, NamedPage], setup: Setup, *, force: bool) -> _Written:
    """Write one tree; the result says what went wrong."""
    target, page = job

    def tree(write: Callable[[Iterable[str]], None]) -> list[Problem]:
        with opened_tree(page.address, page.setup(setup)) as opened:
            write(to_json(opened))
            return list(opened.document.problems)

    return _written(target, page, tree, force=force)


def _write_capture(job: tuple[Path, NamedPage], setup: Setup, *, force: bool) -> _Written:
    """Write one capture; the result says what went wrong."""
    target, page = job

    def capture(write: Callable[[Iterable[str]], None]) -> list[Problem]:
        stage = open_in_browser(page.address, page.setup(setup))
        try:
            write([stage.take().to_json(), "\n"])
            return list(stage.tree.document.problems)
        finally:
            stage.close()

    return _written(target, page, capture, force=force)


def _written(
    target: Path, page: NamedPage, made: Callable[[Callable[[Iterable[str]], None]], list[Problem]], *, force: bool
) -> _Written:
    """Let a file be filled, and return what came of it."""

    def write(pieces: Iterable[str]) -> None:
        with (
            replacing(target, "file", PageError) as file,
            file.open("w", encoding="utf-8", errors="backslashreplace") as stream,
        ):
            stream.writelines(pieces)

    try:
        must_be_replaceable(target, PageError, force=force)
        target.parent.mkdir(parents=True, exist_ok=True)
        return _Written(None, made(write))
    except OSError as error:
        name = visible(page.address)
        return _Written(f"The file of {name} cannot be written ({error.strerror}); choose another folder.", [])
    except Exception as error:
        return _Written(problem_with(page.address, error), [])
