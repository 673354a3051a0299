"""The trees of many pages at once, over all processors; one bad page never ends the run."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from concurrent.futures.process import BrokenProcessPool
from pathlib import Path

from murvel.cli.output import problem_with
from murvel.cli.pages import NamedPage, pages_in
from murvel.files.writing import replacing
from murvel.page.errors import PageError
from murvel.page.setup import Setup
from murvel.page.text import visible
from murvel.tree.open import open_tree
from murvel.tree.write import to_json


def write_trees(
    pages: list[str], folder: Path, setup: Setup, complain: Callable[[str], None], tell: Callable[[int, int], None]
) -> bool:
    """Write the JSON tree of every page to a folder, keeping the layout of folders that were named.

    Args:
        pages: pages, and folders that are walked.
        folder: where the trees go, made if it is not there.
        setup: how they are opened.
        complain: is told one sentence for each page that could not be read or written.
        tell: is told how many pages are done, and of how many.

    Returns:
        Whether all went well.
    """
    jobs = dict(_jobs(pages, folder))
    well = True
    with ProcessPoolExecutor() as pool:
        running = {pool.submit(_write_tree, page, target, setup): page.address for target, page in jobs.items()}
        for number, done in enumerate(as_completed(running), 1):
            tell(number, len(running))
            try:
                problem = done.result()
            except BrokenProcessPool:
                problem = f"The process that read {visible(running[done])} died; the page was left out."
            if problem:
                complain(problem)
                well = False
    if not jobs:
        complain("There is no page among what was named; give pages, or folders that hold some.")
    return well and bool(jobs)


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


def _write_tree(page: NamedPage, target: Path, setup: Setup) -> str | None:
    """Write one tree; return what went wrong as a sentence, None where nothing did."""
    try:
        tree = open_tree(page.address, page.setup(setup))
        target.parent.mkdir(parents=True, exist_ok=True)
        with (
            replacing(target, "tree", PageError) as made,
            made.open("w", encoding="utf-8", errors="backslashreplace") as stream,
        ):
            stream.writelines(to_json(tree))
    except OSError as error:
        return f"The tree of {visible(page.address)} cannot be written ({error.strerror}); choose another folder."
    except Exception as error:
        return problem_with(page.address, error)
    return None
