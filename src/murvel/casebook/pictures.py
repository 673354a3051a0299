"""Pictures of a casebook as files."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from pathlib import Path

from murvel.casebook.content import MAX_PICTURE_BYTES
from murvel.casebook.errors import CasebookError
from murvel.casebook.records import Picture
from murvel.casebook.store import Casebook
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


def attach(book: Casebook, defect: int, path: Path) -> None:
    """Keep the picture in a file with a defect.

    Args:
        book: the casebook.
        defect: the defect's number.
        path: a PNG file.

    Raises:
        CasebookError: there is no such defect, or the file cannot be read, is no PNG, or is too large.
    """
    if all(each.id != defect for each in book.defects()):
        raise CasebookError(f"The casebook has no defect {defect}", "murvel report lists its defects.")
    name = visible(str(path))
    try:
        with path.open("rb") as stream:
            data = stream.read(MAX_PICTURE_BYTES + 1)
    except OSError as error:
        raise CasebookError(f"{name} cannot be read ({error.strerror})", "check the path.") from error
    if not book.keep_picture(defect, data):
        raise CasebookError(f"{name} is no PNG of 1 MB at most", "save it as PNG, or make it smaller.")
