"""Excerpts of style sheets, kept between the pages of a run, and between runs where a folder is given for them.

A file holds one excerpt behind a line with its checksum: what is damaged, or of another version, is made again. Nothing
fails because of what is kept: a folder that cannot be read or written to is one that holds nothing.
"""

from __future__ import annotations

import os
from collections import OrderedDict
from contextlib import suppress
from functools import lru_cache
from pathlib import Path

from murvel.css.sheets.excerpt import excerpt
from murvel.css.values.declared import PROPERTIES

_VERSION = 1
"""To be raised when excerpts hold something else than before."""

_SHORTEST = 8_000
"""Sheets of fewer characters are excerpted faster than they are looked up."""

_MOST_IN_MEMORY = 16_000_000
"""How many characters are kept between the pages of a run."""

MOST_ON_DISK = 64 * 1024 * 1024
"""How many bytes are kept between runs; what was written first goes first."""

_READ_OF = f"{_VERSION} {' '.join(sorted(PROPERTIES))} "


class Excerpts:
    """Makes excerpts, each once.

    Args:
        folder: the folder in which they are kept between runs; None keeps them in memory only.
    """

    def __init__(self, folder: Path | None = None) -> None:
        self._folder = folder
        self._known: OrderedDict[str, str] = OrderedDict()
        self._size = 0

    def of(self, text: str) -> str:
        """Return the excerpt of a sheet, given its normalised text."""
        if len(text) < _SHORTEST:
            return text
        found = self._known.get(text)
        if found is None:
            found = self._made(text)
            self._known[text] = found
            self._size += len(text) + len(found)
            while self._size > _MOST_IN_MEMORY:
                self._size -= sum(map(len, self._known.popitem(last=False)))
        return found

    def _made(self, text: str) -> str:
        if self._folder is None:
            return excerpt(text)
        from hashlib import sha256  # loaded where something is kept only

        name = sha256((_READ_OF + text).encode("utf-8", "surrogatepass")).hexdigest()
        found = self._from_disk(self._folder / name)
        if found is None:
            found = excerpt(text)
            self._to_disk(self._folder, name, found)
        return found

    def _from_disk(self, path: Path) -> str | None:
        try:
            check, _, data = path.read_bytes().partition(b"\n")
        except (OSError, ValueError):
            return None
        return data.decode("utf-8", "surrogatepass") if check == _checksum(data) else None

    def _to_disk(self, folder: Path, name: str, found: str) -> None:
        data = found.encode("utf-8", "surrogatepass")
        made = folder / f".{os.urandom(8).hex()}"
        try:
            folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            made.write_bytes(_checksum(data) + b"\n" + data)
            os.replace(made, folder / name)
            _forget_old(folder)
        except (OSError, ValueError):
            with suppress(OSError, ValueError):
                made.unlink()


def _forget_old(folder: Path) -> None:
    """Remove what was written first, as far as there is too much; where two do that at once, one finds less to do."""
    kept = []
    for entry in os.scandir(folder):
        with suppress(OSError):
            found = entry.stat(follow_symlinks=False)
            kept.append((found.st_mtime, found.st_size, entry.path))
    size = sum(each[1] for each in kept)
    for _, each, path in sorted(kept):
        if size <= MOST_ON_DISK:
            return
        size -= each
        with suppress(OSError):
            os.unlink(path)


@lru_cache(maxsize=8)
def excerpts_in(folder: Path | None) -> Excerpts:
    """Return the excerpts that this process keeps in a folder, or in memory only."""
    return Excerpts(folder)


def _checksum(data: bytes) -> bytes:
    from hashlib import sha256

    return sha256(data).hexdigest().encode()
