"""Writing a file so that a failure leaves what stood there before."""

from __future__ import annotations

import os
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from murvel.errors import MurvelError
from murvel.text import visible


@contextmanager
def replacing(path: Path, what: str, error: type[MurvelError]) -> Iterator[Path]:
    """Give a file to write to, and put it in the place of another once all is written.

    What is no regular file, such as a pipe or a terminal, is given itself. A link stays, and what it leads to is
    replaced; the file keeps its permissions.

    Args:
        path: the file that is to be written.
        what: what it holds, in one or two words, for the message.
        error: the error of the layer that writes.

    Raises:
        MurvelError: of the class given, where the file cannot be written; nothing is left behind.
    """
    try:
        if path.exists() and not path.is_file() and not path.is_dir():
            yield path
            return
        place = path.resolve()
        made = place.with_name(f".murvel-{os.urandom(8).hex()}")
        try:
            made.open("x").close()
            yield made
            if place.exists():
                shutil.copymode(place, made)
            os.replace(made, place)
        finally:
            made.unlink(missing_ok=True)
    except OSError as problem:
        where = visible(str(path))
        raise error(
            f"The {what} cannot be written to {where} ({problem.strerror})", "choose another place."
        ) from problem


def write_bytes(data: bytes, path: Path, what: str, error: type[MurvelError]) -> None:
    """Write bytes in one step.

    Args and errors are those of `replacing`.
    """
    with replacing(path, what, error) as made:
        made.write_bytes(data)


def write_text(text: str, path: Path, what: str, error: type[MurvelError]) -> None:
    """Write text as UTF-8 in one step; a lone surrogate, which UTF-8 has not, is written as an escape.

    Args and errors are those of `replacing`.
    """
    with replacing(path, what, error) as made:
        made.write_text(text, encoding="utf-8", errors="backslashreplace")
