"""How checks are run: the table `[tool.murvel]` of pyproject.toml, or murvel.toml, with that table or without."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from murvel.checks.engine.failing import FailOn
from murvel.checks.errors import CheckError
from murvel.checks.tables.criteria import Level
from murvel.files.toml import checked, read_toml
from murvel.loading.settings import SETTINGS
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
    checks: list[Path] = []


def find_config(folder: Path) -> Config:
    """Return the configuration of the nearest file in a folder or those around it; the defaults if there is none.

    Raises:
        CheckError: a file was found and cannot be used; the message names the file, the key and the nearest spelling.
    """
    for around in (folder, *folder.parents):
        for name in SETTINGS:
            path = around / name
            if path.is_file():
                config = read_config(path)
                if config is not None:
                    return config
    return Config()


def read_config(path: Path) -> Config | None:
    """Return the configuration in a file, None if that has no table for Murvel.

    Raises:
        CheckError: it cannot be read or used.
    """
    table: Any = read_toml(path, "configuration", CheckError)
    tool = table.get("tool")
    pasted = tool.get("murvel") if isinstance(tool, dict) else None
    if path.name == "pyproject.toml" or pasted is not None:
        table = pasted
    if table is None:
        return None
    config = checked(Config, table, f"The configuration {visible(str(path))}", CheckError)
    if config.baseline is not None:
        config.baseline = path.parent / config.baseline
    if config.root is not None:
        config.root = path.parent / config.root
    config.checks = [path.parent / each for each in config.checks]
    return config
