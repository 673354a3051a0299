"""Checks of your own, beside the built-in ones: from files that a configuration names, and from packages.

A file, or the object that an entry point of the group `murvel.checks` names, holds a `Checks`
(`murvel.checks.engine.check`).
docs/how-to/own-checks.md has a worked example.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import cache
from importlib.metadata import entry_points
from importlib.util import module_from_spec, spec_from_file_location
from pathlib import Path

from murvel.checks.engine.border import interrupts
from murvel.checks.engine.catalogue import Catalogue, built_in
from murvel.checks.engine.check import Check, Checks
from murvel.checks.errors import CheckError, error_words
from murvel.text import visible

GROUP = "murvel.checks"
"""The group of entry points."""

_HINT = "a file of checks has checks = Checks(NAME) from murvel.checks, and functions under @checks.add."


def load_catalogue(files: Sequence[Path] = ()) -> Catalogue:
    """Return the built-in checks with those of your own.

    Args:
        files: Python files that hold some; their code is run.

    Raises:
        CheckError: a file or an entry point cannot be used, or an identifier stands twice.
    """
    return _loaded(tuple(path.resolve() for path in files))


@cache
def _loaded(files: tuple[Path, ...]) -> Catalogue:
    """One catalogue for the same files in a process: a worker loads them once, and not for each page."""
    return Catalogue([*built_in(), *_from_packages(), *(check for path in files for check in _from_file(path))])


def _from_packages() -> Iterable[Check]:
    for entry in entry_points(group=GROUP):
        try:
            with interrupts() as by_person:
                loaded = entry.load()
        except BaseException as error:  # whatever a package does when it is loaded
            if by_person:
                raise
            raise CheckError(
                f"The checks of {visible(entry.value)} cannot be loaded ({error_words(error)})", _HINT
            ) from error
        yield from _in(loaded, entry.value)


def _from_file(path: Path) -> Iterable[Check]:
    name = visible(str(path))
    spec = spec_from_file_location(f"murvel_own_checks_{path.stem}", path)
    if not path.is_file() or spec is None or spec.loader is None:
        raise CheckError(f"There is no file of checks {name}", "a file of checks ends in .py.")
    module = module_from_spec(spec)
    try:
        with interrupts() as by_person:
            spec.loader.exec_module(module)
    except BaseException as error:  # whatever the file does when it is run
        if by_person:
            raise
        raise CheckError(f"The checks in {name} cannot be loaded ({error_words(error)})", _HINT) from error
    held = [value for value in vars(module).values() if isinstance(value, Checks)]
    if not held:
        raise CheckError(f"{name} holds no checks", _HINT)
    return [check for each in held for check in each.all]


def _in(loaded: object, name: str) -> Iterable[Check]:
    if not isinstance(loaded, Checks):
        raise CheckError(f"{visible(name)} is no collection of checks", _HINT)
    return loaded.all
