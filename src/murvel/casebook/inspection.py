"""What can be read of a casebook that may be damaged, row by row, with nothing written to it."""

from __future__ import annotations

import sqlite3
from collections import Counter
from collections.abc import Callable
from contextlib import closing, suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from murvel.casebook import rows
from murvel.casebook.content import unpacked
from murvel.casebook.errors import CasebookError
from murvel.casebook.migrations import MIGRATIONS, VERSION
from murvel.text import visible


@dataclass(slots=True)
class Inspection:
    """What was found.

    Attributes:
        whole: how many pages, takes, defects, verdicts and contents can be read, by these words.
        damaged: what cannot, a sentence each.
    """

    whole: Counter[str] = field(default_factory=Counter)
    damaged: list[str] = field(default_factory=list)


_FAILURES = (sqlite3.DatabaseError, UnicodeDecodeError)
"""What SQLite raises; the second where what it says of a damaged file is no text."""


class _Row:
    """A row by the names of its columns, as `rows` reads them."""

    def __init__(self, names: list[str], values: tuple[Any, ...]) -> None:
        self._mapping = dict(zip(names, values, strict=True))

    def __getattr__(self, name: str) -> Any:
        try:
            return self._mapping[name]
        except KeyError as error:
            raise ValueError(f"there is no {name}") from error


_TABLES: tuple[tuple[str, str, Callable[[Any], Any]], ...] = (
    ("pages", "page", rows.page_of),
    ("takes", "take", lambda row: (row.number, row.digest, row.taken)),
    ("defects", "defect", rows.defect_of),
    ("verdicts", "verdict", rows.judgement_of),
    ("notes", "note", rows.noted_of),
    ("statuses", "status", rows.status_of),
    ("attachments", "attachment", rows.attachment_of),
    ("changes", "change", rows.change_of),
    ("contents", "content", lambda row: unpacked(row.data)),
)


def inspect(path: Path) -> Inspection:
    """Read all that can be read of a casebook.

    Raises:
        CasebookError: it is no SQLite file, or not there.
    """
    name = visible(str(path))
    found = Inspection()
    try:
        if not path.is_file():
            raise CasebookError(f"There is no casebook {name}", "check the path.")
        with closing(sqlite3.connect(path, timeout=2.0)) as connection:
            connection.execute("PRAGMA query_only=ON")
            connection.text_factory = _text
            connection.execute("SELECT count(*) FROM sqlite_master").fetchone()
            with suppress(*_FAILURES):
                for (said,) in connection.execute("PRAGMA integrity_check(20)"):
                    if said != "ok":
                        found.damaged.append(f"SQLite says: {visible(str(said))}.")
            with closing(_up_to_date(connection)) as present:
                for table, what, make in _TABLES:
                    _inspect_table(present, table, what, make, found)
    except _FAILURES as error:
        raise CasebookError(
            f"{name} is no SQLite file, or too damaged to be read ({visible(str(error))})", "bring back a copy of it."
        ) from error
    return found


def _text(data: bytes) -> str:
    return data.decode("utf-8", "replace")


def _up_to_date(connection: sqlite3.Connection) -> sqlite3.Connection:
    """An older casebook in memory as the present version has it; any other, and one that is too damaged, as it is."""
    (version,) = connection.execute("PRAGMA user_version").fetchone()
    if not 0 < version < VERSION:
        return connection
    copy = sqlite3.connect(":memory:")
    copy.text_factory = _text
    try:
        connection.backup(copy)
        for statements in MIGRATIONS[version:]:
            for statement in statements:
                copy.execute(statement)
    except _FAILURES:
        copy.close()
        return connection
    return copy


def _inspect_table(
    connection: sqlite3.Connection, table: str, what: str, make: Callable[[Any], Any], found: Inspection
) -> None:
    cursor = connection.cursor()
    try:
        cursor.execute(f"SELECT rowid AS place, * FROM {table}")  # a name of ours
    except _FAILURES as error:
        found.damaged.append(f"The table {table} cannot be read: {visible(str(error))}.")
        return
    names = [column[0] for column in cursor.description]
    while True:
        try:
            values = cursor.fetchone()
        except _FAILURES as error:
            found.damaged.append(f"The table {table} cannot be read further: {visible(str(error))}.")
            return
        if values is None:
            return
        try:
            rows.checked(_Row(names, values), make)
        except ValueError as error:
            found.damaged.append(f"{what.capitalize()} {visible(str(values[0]))}: {visible(str(error))}.")
        else:
            found.whole[what] += 1
