"""Reading the settings of a project: `[tool.murvel]` of pyproject.toml, or murvel.toml, with that table or without."""

from __future__ import annotations

from pathlib import Path

from pydantic import BaseModel, ConfigDict, Field

from murvel.checks.engine.config import Config
from murvel.checks.engine.failing import FailOn
from murvel.checks.errors import CheckError
from murvel.checks.tables.criteria import Level
from murvel.files.toml import checked
from murvel.loading.settings import Found, table_in
from murvel.loading.setup import DEFAULT_WIDTH
from murvel.text import visible


class _Table(BaseModel):
    """The keys of the table; paths are meant from the folder of its file. `murvel.loading.settings` reads `exclude`."""

    model_config = ConfigDict(extra="forbid", populate_by_name=True)

    only: list[str] = []
    skip: list[str] = []
    level: Level = Level.AAA
    fail_on: FailOn = Field(default=FailOn.FAILS, alias="fail-on")
    baseline: Path | None = None
    width: int = Field(default=DEFAULT_WIDTH, ge=200, le=10_000)
    root: Path | None = None
    voice: str = ""
    exclude: list[str] = []
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
    """Return the settings that a table holds.

    Raises:
        CheckError: a key cannot be used; the message names the file, the key and the nearest spelling.
    """
    table = checked(_Table, found.table, f"The configuration {visible(str(found.path))}", CheckError)
    folder = found.path.parent
    is_file = table.voice.partition(" in ")[0].endswith(".toml")
    return Config(
        only=tuple(table.only),
        skip=tuple(table.skip),
        level=table.level,
        fail_on=table.fail_on,
        baseline=folder / table.baseline if table.baseline is not None else None,
        width=table.width,
        root=folder / table.root if table.root is not None else None,
        voice=str(folder / table.voice) if is_file else table.voice,
        checks=tuple(folder / each for each in table.checks),
    )
