"""The settings of a project, as a value; `murvel.checks.engine.config_file` reads them."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from murvel.checks.engine.failing import FailOn
from murvel.checks.tables.criteria import Level
from murvel.loading.setup import DEFAULT_WIDTH


@dataclass(frozen=True, slots=True)
class Config:
    """The settings of a project.

    Attributes:
        only, skip: identifiers of checks, or topics.
        level: the highest level of WCAG that counts.
        fail_on: from which certainty on leads make a run fail.
        baseline: the file of known leads.
        width: the viewport's width in CSS pixels.
        root: the folder that holds all that belongs to the pages.
        voice: the voice that pages are read in, by its name or the path of its file; empty for the usual one.
        checks: Python files with checks of your own.
    """

    only: tuple[str, ...] = ()
    skip: tuple[str, ...] = ()
    level: Level = Level.AAA
    fail_on: FailOn = FailOn.FAILS
    baseline: Path | None = None
    width: int = DEFAULT_WIDTH
    root: Path | None = None
    voice: str = ""
    checks: tuple[Path, ...] = ()
