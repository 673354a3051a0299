"""What the configuration of the present folder says, for commands that take no configuration of their own."""

from __future__ import annotations

from pathlib import Path

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.config import find_config
from murvel.checks.engine.own import load_catalogue


def catalogue_here() -> Catalogue:
    """Return the checks, with those that the configuration of the present folder names.

    Raises:
        CheckError: the configuration, or a file of checks, cannot be used.
    """
    return load_catalogue(find_config(Path.cwd()).checks)
