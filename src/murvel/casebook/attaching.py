"""Attachments of a casebook from files, and as files."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from pathlib import Path

from murvel.casebook.attachment import MAX_ATTACHMENT_BYTES, Attachment, why_not_kept
from murvel.casebook.changes import NoAttachment
from murvel.casebook.errors import CasebookError
from murvel.casebook.store import Casebook
from murvel.files.outputs import write_into
from murvel.text import visible


def write(attachments: Iterable[Attachment], folder: Path, *, force: bool = False) -> Iterator[Path]:
    """Write attachments into files of a folder, and yield the path of each.

    Args:
        attachments: what is written.
        folder: made where it is not there.
        force: whether a file that holds something else is replaced.

    Raises:
        CasebookError: a file cannot be written.
    """
    for each in attachments:
        yield write_into(folder, each.name, each.data, "attachment", CasebookError, force=force)


def attach(book: Casebook, defect: int, path: Path, words: str = "") -> None:
    """Keep what is in a file with a defect; it can be taken back.

    Args:
        book: the casebook.
        defect: the defect's number.
        path: a picture, a drawing or a text.
        words: what it shows; the file's name where nothing is said.

    Raises:
        CasebookError: there is no such defect, or the file cannot be read, is of no kind that is kept, or is too large.
    """
    if all(each.id != defect for each in book.defects()):
        raise CasebookError(f"The casebook has no defect {defect}", "murvel report lists its defects.")
    name = visible(str(path))
    if not path.is_file():
        raise CasebookError(f"There is no file {name}", "check the path.")
    try:
        with path.open("rb") as stream:
            data = stream.read(MAX_ATTACHMENT_BYTES + 1)
    except OSError as error:
        raise CasebookError(f"{name} cannot be read ({error.strerror})", "check the path.") from error
    reason = why_not_kept(data)
    if reason:
        raise CasebookError(f"{name} is not attached: {reason}", "save it as another kind, or make it smaller.")
    with book.together():
        kept = book.keep_attachment(defect, data, words.strip() or path.name)
        assert kept is not None
        book.remember(f"attaching {visible(path.name)} to defect {defect}", NoAttachment(kept, defect))
