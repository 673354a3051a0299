"""The file of a casebook: opening it, locking it, one transaction for each change, and what its errors mean.

A change is one transaction, and is on disk when it is over (`synchronous` is full). The file is one file: SQLite's
rollback journal leaves nothing beside it. Two programs do not write the same casebook: the one that opened it first
holds a lock until it closes.
"""

from __future__ import annotations

import fcntl
import os
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from threading import RLock
from types import TracebackType
from typing import Any, Self, TypeVar

import sqlalchemy as sa

from murvel.casebook import migrations, rows, schema
from murvel.casebook.errors import CasebookError
from murvel.text import visible

_Made = TypeVar("_Made")

SUFFIX = ".murvel"
"""The ending of casebook files."""

_SAVED = "murvel casebook check says what can be saved."
_FAILURES = (sa.exc.DBAPIError, UnicodeDecodeError)
"""What SQLite raises; the second where what it says of a damaged file is no text."""

_MAGIC = b"SQLite format 3\x00"


def is_casebook(path: Path) -> bool:
    """Whether a file looks like a casebook from outside: by its ending, or because it is a SQLite file."""
    try:
        with path.open("rb") as stream:
            return stream.read(len(_MAGIC)) == _MAGIC or (path.suffix == SUFFIX and path.stat().st_size == 0)
    except OSError:
        return False


def _copied(connection: sqlite3.Connection) -> sqlite3.Connection:
    """Return a copy in memory, which can be brought up to date where the file itself is only read."""
    copy = sqlite3.connect(":memory:", isolation_level=None, check_same_thread=False)
    connection.backup(copy)
    connection.close()
    return copy


class CasebookFile:
    """The open file of a casebook. Use it as a context manager, or close it.

    Args:
        path: the file; made where it does not exist, unless it is only read.
        read_only: for reports: take no lock and change nothing.

    Raises:
        CasebookError: it is not a casebook, from a newer version, in use, or cannot be read or written.
    """

    def __init__(self, path: Path, *, read_only: bool = False) -> None:
        self.path = path.absolute()  # SQLite knows names that are no paths, as :memory:
        self._name = visible(str(path))
        self._lock: int | None = None
        self._turn = RLock()  # a page is opened in a thread of its own
        self._depth = 0
        self.is_read_only = read_only
        new = self._check_file(read_only)
        try:
            self._open(new, read_only)
        except BaseException:
            self.close()
            if new:  # nothing was kept in it
                with suppress(OSError):
                    if self.path.stat().st_size == 0:
                        self.path.unlink()
            raise

    def _open(self, new: bool, read_only: bool) -> None:
        if not read_only:
            self._take_lock()
        # The driver is opened here, not by an address, so that no character of the path means anything.
        self._engine = sa.create_engine("sqlite://", creator=lambda: self._connect(read_only), poolclass=sa.NullPool)
        try:
            self._connection = self._engine.connect()
            self._prepare(new, read_only)
        except _FAILURES as error:
            raise self._explained(error) from error

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def close(self) -> None:
        """Close the file and let others write it."""
        if hasattr(self, "_connection"):
            self._connection.close()
        if hasattr(self, "_engine"):
            self._engine.dispose()
        if self._lock is not None:
            os.close(self._lock)
            self._lock = None

    def _check_file(self, read_only: bool) -> bool:
        """Return whether the file is yet to be made."""
        try:
            if not self.path.exists():
                if read_only:
                    raise CasebookError(f"There is no casebook {self._name}", "check the path.")
                self.path.parent.mkdir(parents=True, exist_ok=True)
                os.close(os.open(self.path, os.O_CREAT | os.O_WRONLY, 0o600))
                return True
            if self.path.is_dir():
                raise CasebookError(f"{self._name} is a folder", "give the casebook file itself.")
            if not self.path.is_file():
                raise CasebookError(f"{self._name} is no regular file", "give the casebook file itself.")
            if self.path.stat().st_size == 0 and not read_only:
                return True
            with self.path.open("rb") as stream:
                if stream.read(len(_MAGIC)) != _MAGIC:
                    raise CasebookError(f"{self._name} is not a casebook", "give another file.")
        except (OSError, ValueError) as error:
            reason = error.strerror if isinstance(error, OSError) and error.strerror else str(error)
            raise CasebookError(f"The casebook {self._name} cannot be opened ({reason})", "check the path.") from error
        return False

    def _take_lock(self) -> None:
        """Lock the file itself, so that the lock holds by whatever path or link it is opened; readers need none."""
        try:
            self._lock = os.open(self.path, os.O_RDONLY)
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError as error:
            self.close()
            raise CasebookError(
                f"The casebook {self._name} is in use by another Murvel",
                "close that one, or name another casebook.",
            ) from error
        except OSError as error:
            self.close()
            reason = f"The casebook {self._name} cannot be locked ({error.strerror})"
            raise CasebookError(reason, "check its permissions.") from error

    def _connect(self, read_only: bool) -> Any:
        connection = sqlite3.connect(self.path, timeout=2.0, isolation_level=None, check_same_thread=False)
        if read_only and 0 < connection.execute("PRAGMA user_version").fetchone()[0] < migrations.VERSION:
            connection = _copied(connection)
        connection.text_factory = lambda data: data.decode("utf-8", "replace")
        connection.execute("PRAGMA synchronous=FULL")
        connection.execute("PRAGMA foreign_keys=ON")
        return connection

    def _prepare(self, new: bool, read_only: bool) -> None:
        if not new:
            marked = self._connection.exec_driver_sql("PRAGMA application_id").scalar_one()
            if marked != schema.APPLICATION_ID:
                raise CasebookError(f"{self._name} is a database, but not a casebook", "give another file.")
        version = self._connection.exec_driver_sql("PRAGMA user_version").scalar_one()
        self._connection.rollback()
        if version > migrations.VERSION:
            raise CasebookError(f"{self._name} was written by a newer Murvel", "install that version to open it.")
        if version < migrations.VERSION:
            self._connection.exec_driver_sql("PRAGMA foreign_keys=OFF")
            self._connection.rollback()
            with self._change() as connection:
                migrations.migrate(connection, version)
                connection.exec_driver_sql(f"PRAGMA application_id={schema.APPLICATION_ID}")
                connection.exec_driver_sql(f"PRAGMA user_version={migrations.VERSION}")
            self._connection.exec_driver_sql("PRAGMA foreign_keys=ON")
            self._connection.rollback()
        if read_only:
            self._connection.exec_driver_sql("PRAGMA query_only=ON")
            self._connection.rollback()

    @contextmanager
    def together(self) -> Iterator[None]:
        """Make several changes one: all of them are on disk afterwards, or none."""
        with self._change():
            yield

    @contextmanager
    def _change(self) -> Iterator[sa.Connection]:
        """One immediate transaction: all of it is on disk afterwards, or nothing of it happened.

        One that begins within another is a part of that.
        """
        connection = self._connection
        with self._turn:
            if self._depth:
                yield connection
                return
            self._depth = 1
            try:
                connection.exec_driver_sql("BEGIN IMMEDIATE")
                yield connection
                connection.commit()
            except _FAILURES as error:
                connection.rollback()
                self._forget()
                raise self._explained(error) from error
            except BaseException:
                connection.rollback()
                self._forget()
                raise
            finally:
                self._depth = 0

    def _forget(self) -> None:
        """Forget what was read: a change was given up."""

    def _read(self, query: sa.Select[Any]) -> list[sa.Row[Any]]:
        with self._turn:
            try:
                found = list(self._connection.execute(query))
                if not self._depth:
                    self._connection.rollback()
            except _FAILURES as error:
                raise self._explained(error) from error
            return found

    def _made(self, query: sa.Select[Any], make: Callable[[Any], _Made], what: str) -> list[_Made]:
        """Return what the rows of a query stand for."""
        found = []
        for row in self._read(query):
            try:
                found.append(rows.checked(row, make))
            except rows.DamagedRowError as error:
                number = row._mapping.get("id", row._mapping.get("page", "?"))
                raise CasebookError(
                    f"{what.capitalize()} {visible(str(number))[:20]} of {self._name} is damaged: {error}",
                    _SAVED,
                ) from error
        return found

    def _explained(self, error: sa.exc.DBAPIError | UnicodeDecodeError) -> CasebookError:
        reason = str(error.orig) if isinstance(error, sa.exc.DBAPIError) else "malformed"
        if "full" in reason:
            return CasebookError(f"The disk is full, so {self._name} was not changed", "make room and save again.")
        if "readonly" in reason or "read-only" in reason:
            return CasebookError(f"{self._name} cannot be written", "check its permissions and save again.")
        if "locked" in reason:
            return CasebookError(f"{self._name} is being written by another program", "wait a moment and save again.")
        if any(words in reason for words in ("not a database", "malformed", "no such table", "no such column")):
            return CasebookError(f"{self._name} is damaged and cannot be read", _SAVED)
        return CasebookError(f"{self._name} could not be read or written ({visible(reason)})", "check file and disk.")
