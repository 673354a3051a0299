"""Making walks for a command: the files, each on a page of its own, over all processors."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from difflib import unified_diff
from pathlib import Path
from time import perf_counter
from typing import NamedTuple

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.own import load_catalogue
from murvel.cli.output import problem_with
from murvel.files.replacing import write_text
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader.speech.voice import Voice
from murvel.reader.speech.voice_files import voice_named
from murvel.text import visible
from murvel.walks.addresses import address_of
from murvel.walks.errors import WalkError
from murvel.walks.parsing import SUFFIXES, read_walk
from murvel.walks.replay import Outcome, replay, updated
from murvel.walks.result import WalkResult
from murvel.walks.walk import Walk
from murvel.work.sessions import opened_session


class WalkJob(NamedTuple):
    """A walk to be made.

    Attributes:
        path: its file.
        setup: how pages are opened.
        page: the page that is taken in place of its own; empty for its own.
        voices: the folder of the person's voices.
        is_to_update: whether what is heard now is written into the file.
        own: the files with checks of your own, which each process loads for itself.
        voice: the voice of walks that name none; None for the usual one.
    """

    path: Path
    setup: Setup
    page: str
    voices: Path
    is_to_update: bool
    own: tuple[Path, ...] = ()
    voice: Voice | None = None


def walk_files(given: Sequence[Path]) -> Iterator[Path]:
    """Yield the files that were named, and the walks in folders that were.

    Raises:
        WalkError: something that was named is not there.
    """
    for path in given:
        if path.is_dir():
            yield from sorted(each for each in path.rglob("*") if each.name.endswith(SUFFIXES) and each.is_file())
        elif path.exists():
            yield path
        else:
            raise WalkError(f"There is no {visible(str(path))}", "check the path.")


def made(job: WalkJob) -> WalkResult:
    """Make a walk; where that cannot be done, for whatever reason, the result says why."""
    result, began = WalkResult(str(job.path)), perf_counter()
    try:
        catalogue = load_catalogue(job.own)
        walk = read_walk(job.path, catalogue)
        result.title = walk.title
        outcome = _made(walk, job, catalogue)
        result.made = outcome.made
        if job.is_to_update and outcome.unmet:
            result.difference = _update(job.path, outcome)
    except WalkError as error:
        result.failure = str(error)
    except Exception as error:
        result.failure = problem_with(str(job.path), error)
    result.seconds = perf_counter() - began
    return result


def died(job: WalkJob) -> WalkResult:
    """Return the result of a walk whose process died."""
    return WalkResult(str(job.path), failure=f"The process that made {visible(str(job.path))} died.")


def _made(walk: Walk, job: WalkJob, catalogue: Catalogue) -> Outcome:
    address = job.page or address_of(walk.page, job.path)
    setup = job.setup if walk.width is None else replace(job.setup, width=walk.width)
    if walk.stage:
        setup = replace(setup, browser=(setup.browser or BrowserSetup()) if walk.stage == "browser" else None)
    voice = voice_named(walk.voice, job.voices) if walk.voice else job.voice
    with opened_session(address, setup, voice) as session:
        return replay(walk, session, catalogue)


def _update(path: Path, outcome: Outcome) -> str:
    """Write what is heard now into a walk, and return the difference."""
    before = path.read_text(encoding="utf-8")
    after = updated(before, outcome)
    write_text(after, path, "walk", WalkError)
    name = visible(str(path))
    return "".join(unified_diff(before.splitlines(True), after.splitlines(True), name, f"{name}, as heard now"))
