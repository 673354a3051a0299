"""Pages that were named on the command line, folders walked."""

from __future__ import annotations

import os
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from pathlib import Path
from typing import NamedTuple

from murvel.loading.addresses import is_web_address
from murvel.loading.setup import Setup

_ENDINGS = (".html", ".htm", ".xhtml")


class NamedPage(NamedTuple):
    """A page that was named, or stands in a folder that was.

    Attributes:
        place: the path it has within the folder that was named, or its file's name.
        address: its address.
        folder: the folder that was named; None if the page itself was.
        width: the viewport's width in CSS pixels, where it is one of several that were asked for.
    """

    place: Path
    address: str
    folder: Path | None = None
    width: int | None = None

    def size(self) -> int:
        """Return how many bytes its file has; 0 for what is none."""
        try:
            return 0 if is_web_address(self.address) else Path(self.address).stat().st_size
        except (OSError, ValueError):
            return 0

    def setup(self, setup: Setup) -> Setup:
        """Return how it is opened: its root is the folder that was named, where no other root was."""
        return replace(setup, width=self.width or setup.width, root=setup.root or self.folder)


def at_widths(pages: Iterable[NamedPage], widths: Sequence[int]) -> Iterator[NamedPage]:
    """Yield each page at each of several widths; as it is where there are not several."""
    for page in pages:
        yield from (page._replace(width=width) for width in widths) if len(widths) > 1 else [page]


def pages_in(names: Sequence[str]) -> Iterator[NamedPage]:
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
