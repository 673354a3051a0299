"""What the settings of a project say of its site: its root, and what is kept from pages.

Settings are the table of murvel.toml, or `[tool.murvel]` in it or in pyproject.toml. They come with the pages, which
are not trusted; so the root that they name lies in their own folder. All other keys are for those who run checks.
"""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any, NamedTuple

from murvel.loading.addresses import shown
from murvel.loading.errors import PageError
from murvel.text import visible

SETTINGS = ("murvel.toml", "pyproject.toml")
"""The files that are looked for, in this order, in a folder and those around it."""

_LARGEST = 1_000_000


class SiteSettings(NamedTuple):
    """What settings say of a site.

    Attributes:
        root: the real path of its root, None if they name none.
        excluded: patterns of paths below the root that are kept from pages.
        name: the name of their file.
    """

    root: Path | None = None
    excluded: tuple[str, ...] = ()
    name: str = ""


class Found(NamedTuple):
    """The table for Murvel that was found in a file."""

    path: Path
    table: dict[str, Any]


def find_table(folder: Path) -> Found | None:
    """Return the settings of the nearest file in a folder or above it; None if no file has any.

    Raises:
        PageError: a file cannot be read, or is no TOML.
    """
    for around in (folder, *folder.parents):
        for name in SETTINGS:
            path = around / name
            table = table_in(path) if path.is_file() else None
            if table is not None:
                return Found(path, table)
    return None


def table_in(path: Path) -> dict[str, Any] | None:
    """Return the table for Murvel in a file, None if it has none.

    Raises:
        PageError: the file cannot be read, or is no TOML.
    """
    try:
        with path.open("rb") as stream:
            data = stream.read(_LARGEST)
        if path.name == "pyproject.toml" and b"murvel" not in data:
            return None
        whole = tomllib.loads(data.decode("utf-8"))
    except OSError as error:
        raise _unusable(path, error.strerror or "it cannot be read") from error
    except (ValueError, RecursionError, MemoryError) as error:
        raise _unusable(path, f"it is no TOML: {visible(str(error))[:200]}") from error
    tool = whole.get("tool")
    own = tool.get("murvel") if isinstance(tool, dict) else None
    if isinstance(own, dict):
        return own
    return whole if path.name != "pyproject.toml" else None


def settings_for(folder: Path) -> SiteSettings:
    """Return what the nearest settings in a folder or those around it say of a site.

    Raises:
        PageError: a file of settings cannot be read, or what it says of the site cannot be used.
    """
    found = find_table(folder)
    return _checked(found.table, found.path) if found is not None else SiteSettings()


def _checked(table: dict[str, Any], path: Path) -> SiteSettings:
    root, excluded = table.get("root"), table.get("exclude", [])
    if root is not None and not isinstance(root, str):
        raise _unusable(path, "root is no text")
    if not isinstance(excluded, list) or not all(isinstance(each, str) for each in excluded):
        raise _unusable(path, "exclude is no list of texts")
    here = path.parent.resolve()
    try:
        real = (here / root).resolve() if root is not None else None
    except (OSError, ValueError, RuntimeError) as error:
        raise _unusable(path, "root is no path") from error
    is_within = real is not None and real.is_relative_to(here)
    return SiteSettings(real if is_within else None, tuple(excluded), path.name)


def _unusable(path: Path, reason: str) -> PageError:
    return PageError(f"The settings {shown(str(path))} cannot be used ({reason})", "correct or remove them.")
