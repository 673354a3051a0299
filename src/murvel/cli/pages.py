"""Pages that were named on the command line, folders walked."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

from murvel.page.sources import is_web_address

_ENDINGS = (".html", ".htm", ".xhtml")


def pages_in(names: list[str]) -> Iterator[tuple[Path, str]]:
    """Yield each page with the path it has within the folder that was named, or its file's name."""
    for name in names:
        if is_web_address(name) or not Path(name).is_dir():
            yield Path(Path(name.split("?")[0].rstrip("/")).name or "page"), name
        else:
            for path in _walk(Path(name)):
                yield path.relative_to(name), str(path)


def _walk(folder: Path) -> Iterator[Path]:
    """Yield the pages in a folder and those below it, in order; links to folders are not followed."""
    for parent, folders, files in os.walk(folder):
        folders.sort()
        for name in sorted(files):
            if name.lower().endswith(_ENDINGS):
                yield Path(parent) / name
