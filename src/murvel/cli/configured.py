"""What the settings of the present folder say (docs/reference/configuration.md); they hold for every command."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from murvel.loading.settings import find_table

if TYPE_CHECKING:
    from murvel.checks.engine.catalogue import Catalogue
    from murvel.checks.engine.config import Config


def settings_here() -> Config | None:
    """Return the settings that hold in the present folder, None if there are none.

    Raises:
        PageError: their file cannot be read, or is no TOML.
        CheckError: a key cannot be used.
    """
    found = find_table(Path.cwd())
    if found is None:
        return None
    from murvel.checks.engine.config_file import config_of

    return config_of(found)


def catalogue_here() -> Catalogue:
    """Return the checks, with those that the settings name.

    Raises:
        PageError: the settings cannot be read.
        CheckError: the settings, or a file of checks, cannot be used.
    """
    from murvel.checks.engine.own import load_catalogue

    settings = settings_here()
    return load_catalogue(settings.checks if settings is not None else ())
