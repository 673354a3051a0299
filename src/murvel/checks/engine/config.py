"""The settings of a project: `[tool.murvel]` of pyproject.toml, or murvel.toml, with that table or without."""

from __future__ import annotations

from pathlib import Path

from pydantic import BaseModel, ConfigDict, Field

from murvel.checks.engine.failing import FailOn
from murvel.checks.errors import CheckError
from murvel.checks.tables.criteria import Level
from murvel.files.toml import checked
from murvel.loading.settings import Found, table_in
from murvel.loading.setup import DEFAULT_WIDTH
from murvel.text import visible


class Config(BaseModel):
    """The keys of the table.

    Attributes:
        only, skip: identifiers of checks, or topics.
        level: the highest level of WCAG that counts.
        fail_on: from which certainty on leads make a run fail.
        baseline: the file of known leads.
        width: the viewport's width in CSS pixels.
        root: the folder that holds all that belongs to the pages.
        exclude: patterns of files that are kept from pages (`murvel.loading.settings` reads them too).
        voice: the voice that pages are read in, by its name or the path of its file; empty for the usual one.
        checks: Python files with checks of your own.
    """

    model_config = ConfigDict(extra="forbid", populate_by_name=True)

    only: list[str] = []
    skip: list[str] = []
    level: Level = Level.AAA
    fail_on: FailOn = Field(default=FailOn.FAILS, alias="fail-on")
    baseline: Path | None = None
    width: int = Field(default=DEFAULT_WIDTH, ge=200, le=10_000)
    root: Path | None = None
    exclude: list[str] = []
    voice: str = ""
    checks: list[Path] = []


def read_config(path: Path) -> Config:
    """Return the settings in a file; the defaults if it has no table for Murvel.

    Raises:
        PageError: it cannot be read, or is no TOML.
        CheckError: a key cannot be used; the message names it and the nearest spelling.
    """
    table = table_in(path)
    return config_of(Found(path, table)) if table is not None else Config()


def config_of(found: Found) -> Config:
    """Return the settings that a table holds; paths in it are meant from the folder of its file.

    Raises:
        CheckError: a key cannot be used; the message names the file, the key and the nearest spelling.
    """
    folder = found.path.parent
    config = checked(Config, found.table, f"The configuration {visible(str(found.path))}", CheckError)
    if config.baseline is not None:
        config.baseline = folder / config.baseline
    if config.root is not None:
        config.root = folder / config.root
    if config.voice.partition(" in ")[0].endswith(".toml"):
        config.voice = str(folder / config.voice)
    config.checks = [folder / each for each in config.checks]
    return config
