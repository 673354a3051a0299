"""Known leads: a file that keeps them, so that a run speaks of new ones only."""

from __future__ import annotations

import json
import os
from collections import Counter
from collections.abc import Container, Iterable
from dataclasses import replace
from pathlib import Path
from typing import Any

from murvel.checks.engine.record import PageResult
from murvel.checks.errors import CheckError
from murvel.files.replacing import write_text
from murvel.loading.addresses import STANDARD_INPUT, is_web_address
from murvel.text import visible

FORMAT, VERSION = "murvel-baseline", 2


class Baseline:
    """The known leads of pages; the same lead may be known several times.

    Args:
        pages: the fingerprints of the leads, by the names of the pages as the file has them.
        folder: the folder of the file.
    """

    def __init__(self, pages: dict[str, list[str]] | None = None, folder: Path | None = None) -> None:
        self._pages = pages or {}
        self._folder = folder
        self._missed: list[tuple[str, str]] = []
        """The known leads that did not occur, of the pages that were looked at, each with its page."""

    def leave_out_known(self, result: PageResult) -> None:
        """Take the known leads out of a result, and count them."""
        name = _name_in(self._folder, result)
        known = Counter(self._pages.get(name, ()))
        new = []
        for record in result.records:
            if known[record.fingerprint]:
                known[record.fingerprint] -= 1
            else:
                new.append(record)
        result.known = len(result.records) - len(new)
        if result.failure is None:
            self._missed += [(name, each) for each in known.elements()]
        result.records = new

    def gone(self, made: Container[str]) -> list[str]:
        """Return the known leads that do not occur any more, each behind its page.

        Args:
            made: the identifiers of the checks that were run; known leads of other checks are left out.
        """
        return [f"{name}: {each}" for name, each in self._missed if each.partition(" ")[0] in made]

    def keep_known(self, result: PageResult) -> None:
        """Take the leads out of a result that are not known."""
        known = Counter(self._pages.get(_name_in(self._folder, result), ()))
        kept = []
        for record in result.records:
            if known[record.fingerprint]:
                known[record.fingerprint] -= 1
                kept.append(record)
        result.records = kept


def read_baseline(path: Path) -> Baseline:
    """Return the known leads in a file.

    Raises:
        CheckError: it cannot be read, or is none.
    """
    name = visible(str(path))
    try:
        given: Any = json.loads(path.read_text(encoding="utf-8"))
    except OSError as error:
        raise CheckError(
            f"The baseline {name} cannot be read ({error.strerror})", "make one with --write-baseline."
        ) from error
    except (ValueError, RecursionError) as error:
        raise CheckError(f"{name} is no baseline", "make one with --write-baseline.") from error
    if not _is_baseline(given):
        raise CheckError(f"{name} is no baseline", "make one with --write-baseline.")
    if given["version"] != VERSION:
        raise CheckError(f"{name} is a baseline of another version", "make a new one with --write-baseline.")
    return Baseline(given["pages"], path.parent)


def _is_baseline(given: Any) -> bool:
    """Whether data has the shape of a baseline: its format, its version, and lists of fingerprints by page."""
    return (
        isinstance(given, dict)
        and given.keys() == {"format", "version", "pages"}
        and given["format"] == FORMAT
        and type(given["version"]) is int
        and isinstance(given["pages"], dict)
        and all(
            isinstance(known, list) and all(isinstance(each, str) for each in known)
            for known in given["pages"].values()
        )
    )


def _name_in(folder: Path | None, result: PageResult) -> str:
    """Return the name of a page in a baseline: relative to the folder of that, in whatever way the page was named."""
    page = result.page
    if folder is None or is_web_address(page) or page == STANDARD_INPUT:
        return result.name
    return replace(result, page=Path(os.path.relpath(os.path.realpath(page), os.path.realpath(folder))).as_posix()).name


def write_baseline(path: Path, results: Iterable[PageResult]) -> None:
    """Write the leads of results as known ones.

    Raises:
        CheckError: the file cannot be written.
    """
    pages = {
        _name_in(path.parent, result): sorted(record.fingerprint for record in result.records) for result in results
    }
    text = json.dumps({"format": FORMAT, "version": VERSION, "pages": dict(sorted(pages.items()))}, indent=1)
    write_text(text + "\n", path, "baseline", CheckError)
