"""The settings of a project, as commands use them (docs/how-to/build-servers.md)."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from murvel.loading.settings import find_table

if TYPE_CHECKING:
    from murvel.checks.engine.catalogue import Catalogue
    from murvel.checks.engine.config import Config


def settings_of(file: Path | None = None) -> Config | None:
    """Return the settings in a file, by default those that hold in the present folder. None if there are none.

    Raises:
        PageError: the file cannot be read, or is no TOML.
        CheckError: a key cannot be used.
    """
    found = find_table(Path.cwd()) if file is None else None
    if file is None and found is None:
        return None
    from murvel.checks.engine.config_file import config_of, read_config  # its model takes long to load

    return config_of(found) if found is not None else read_config(file) if file is not None else None


def catalogue_of(settings: Config | None) -> Catalogue:
    """Return the built-in checks, those of installed packages, and those that the settings name.

    Raises:
        CheckError: a file of checks cannot be used.
    """
    from murvel.checks.engine.own import load_catalogue

    return load_catalogue(settings.checks if settings is not None else ())
