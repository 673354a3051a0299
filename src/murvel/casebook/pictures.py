"""Pictures of a casebook as files."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from pathlib import Path

from murvel.casebook.errors import CasebookError
from murvel.casebook.records import Picture
from murvel.page.text import visible


def write(pictures: Iterable[Picture], folder: Path) -> Iterator[Path]:
    """Write pictures into files of a folder, and yield the path of each; a file of the same name is replaced.

    Raises:
        CasebookError: a file cannot be written.
    """
    for each in pictures:
        path = folder / each.name
        try:
            folder.mkdir(parents=True, exist_ok=True)
            path.write_bytes(each.png)
        except OSError as error:
            raise CasebookError(
                f"{visible(str(path))} cannot be written ({error.strerror})", "give another folder."
            ) from error
        yield path
