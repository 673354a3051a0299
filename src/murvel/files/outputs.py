"""Files that a person asks to be written: one that Murvel did not write is replaced only with `--force`."""

from __future__ import annotations

from pathlib import Path

from murvel.errors import MurvelError
from murvel.files.replacing import write_bytes
from murvel.patterns import pattern
from murvel.text import visible

_OURS = pattern(
    rb'"format": "murvel-|"name": "Murvel"|<testsuites name="murvel[ a-z]*"|Made with Murvel on'
    rb"|^page,line,column,certainty,check,|<dc:title>Murvel</dc:title>|/Creator \(Murvel\)"
    rb"|: (?:not judged, scripts make it; before them )?\d{1,9} fail, \d{1,9} need ears"
    rb"|\d{1,9} of \d{1,9} walks as expected"
    rb"|\d{1,9} pages?: \d{1,9} confirmed, \d{1,9} still fails, \d{1,9} cannot tell"
)
"""What stands in each kind of file that Murvel writes, and in no other."""

_LOOKED_AT = 256 * 1024


def must_be_replaceable(path: Path, error: type[MurvelError], *, force: bool) -> None:
    """Let a file be written only where it is new, empty, written by Murvel before, or given up by the person.

    What is no regular file, such as a pipe, is never replaced and may be written.

    Raises:
        MurvelError: of the class given; the file stays as it is.
    """
    try:
        if force or not path.is_file() or path.stat().st_size == 0:
            return
        with path.open("rb") as stream:
            data = stream.read(_LOOKED_AT)
        # A casebook is ours and holds words of pages; it is never replaced by something else.
        is_ours = not data.startswith(b"SQLite format 3\0") and _OURS.search(data) is not None
    except OSError as problem:
        where = visible(str(path))
        raise error(f"{where} cannot be looked at ({problem.strerror})", "choose another place.") from problem
    if not is_ours:
        raise error(
            f"{visible(str(path))} is there already and Murvel did not write it",
            "choose another name, or let --force replace it.",
        )


def write_into(folder: Path, name: str, data: bytes, what: str, error: type[MurvelError], *, force: bool) -> Path:
    """Write a file whose name we chose into a folder, and return its path.

    A file that holds the same stays. One that does not, or a link, is replaced only with `force`; a link itself, and
    never what it leads to.

    Args:
        folder: made where it is not there.
        name: the file's name.
        data: what it is to hold.
        what: what that is, in one or two words, for the message.
        error: the error of the layer that writes.
        force: whether what is there already is replaced.

    Raises:
        MurvelError: of the class given, where it cannot be written or would replace something else.
    """
    path = folder / name
    where = visible(str(path))
    try:
        folder.mkdir(parents=True, exist_ok=True)
        is_there = path.is_symlink() or path.exists()
        if is_there and not path.is_symlink() and path.is_file() and path.read_bytes() == data:
            return path
        if is_there and not force:
            raise error(
                f"{where} is there already and holds something else", "name another folder, or let --force replace it."
            )
        if path.is_symlink():
            path.unlink()
    except OSError as problem:
        raise error(f"The {what} {where} cannot be written ({problem.strerror})", "name another folder.") from problem
    write_bytes(data, path, what, error)
    return path
