"""Files that a person asks to be written: one that Murvel did not write is replaced only when it is told to."""

from __future__ import annotations

import re
from pathlib import Path

from murvel.errors import MurvelError
from murvel.page.text import visible

_OURS = re.compile(
    rb'"format": "murvel-|"name": "Murvel"|<testsuites name="murvel"|Made with Murvel on'
    rb"|^page,line,column,certainty,check,|<dc:title>Murvel</dc:title>|/Creator \(Murvel\)"
    rb"|: (?:not judged, scripts make it; before them )?\d+ fail, \d+ need ears"
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
