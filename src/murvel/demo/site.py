"""The demo's pages, copied to where the person may look at and change them."""

from __future__ import annotations

import shutil
from importlib.resources import as_file, files
from pathlib import Path

from murvel.casebook.file import SUFFIX
from murvel.loading.errors import PageError

_FILES = {
    "welcome": "index.html",
    "plots": "plots.html",
    "waiting": "waiting.html",
    "rota": "rota.html",
    "harvest": "harvest.html",
    "notices": "notices.html",
    "rules": "rules.html",
    "members": "members.html",
    "desk": "desk.html",
    "pocket": "pocket.json",
}
"""The demo's pages by the names they are asked for."""


def page_path(folder: Path, name: str, *, repaired: bool) -> Path:
    """Return the path of a page in an installed copy of the demo."""
    return folder / "pages" / ("repaired" if repaired else "found") / _FILES[name]


def casebook_path(folder: Path) -> Path:
    """Return the path of the demo's own casebook."""
    return folder / f"fernhollow{SUFFIX}"


def install(folder: Path) -> None:
    """Copy the demo's pages to `folder`/pages, over an older copy; a casebook there stays as it is.

    Raises:
        PageError: they cannot be written there.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with as_file(files("murvel.demo").joinpath("pages")) as pages:
            shutil.copytree(pages, folder / "pages", dirs_exist_ok=True)
    except OSError as error:
        raise PageError(
            f"The demo cannot be copied to {folder} ({error.strerror})", "make room or set HOME."
        ) from error
