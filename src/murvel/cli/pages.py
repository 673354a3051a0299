"""Pages that were named on the command line, folders walked."""

from __future__ import annotations

import os
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import NamedTuple

from murvel.page.loading.addresses import is_web_address
from murvel.page.setup import Setup

_ENDINGS = (".html", ".htm", ".xhtml")


class NamedPage(NamedTuple):
    """A page that was named, or stands in a folder that was.

    Attributes:
        place: the path it has within the folder that was named, or its file's name.
        address: its address.
        folder: the folder that was named; None if the page itself was.
    """

    place: Path
    address: str
    folder: Path | None = None

    def setup(self, setup: Setup) -> Setup:
        """Return how it is opened: its root is the folder that was named, where no other root was."""
        return setup if self.folder is None or setup.root is not None else replace(setup, root=self.folder)


def pages_in(names: list[str]) -> Iterator[NamedPage]:
    """Yield the pages that were named, folders walked."""
    for name in names:
        if is_web_address(name) or not Path(name).is_dir():
            yield NamedPage(Path(Path(name.split("?")[0].rstrip("/")).name or "page"), name)
        else:
            for path in _walk(Path(name)):
                yield NamedPage(path.relative_to(name), str(path), Path(name))


def _walk(folder: Path) -> Iterator[Path]:
    """Yield the pages in a folder and those below it, in order; links to folders are not followed."""
    for parent, folders, files in os.walk(folder):
        folders.sort()
        for name in sorted(files):
            if name.lower().endswith(_ENDINGS):
                yield Path(parent) / name
