"""How a casebook is brought from each version to the next: frozen statements.

A released statement is never changed. A new version is one more entry, and a file written by the version before it in
tests/casebook/files.
"""

from __future__ import annotations

from sqlalchemy import Connection

_VERSION_1 = (
    """
    CREATE TABLE pages (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        address TEXT NOT NULL,
        title TEXT NOT NULL,
        width INTEGER NOT NULL,
        opened VARCHAR(25) NOT NULL,
        UNIQUE (address)
    )
    """,
    """
    CREATE TABLE takes (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        page INTEGER NOT NULL,
        number INTEGER NOT NULL,
        digest VARCHAR(64) NOT NULL,
        taken VARCHAR(25) NOT NULL,
        UNIQUE (page, number),
        FOREIGN KEY(page) REFERENCES pages (id)
    )
    """,
    """
    CREATE TABLE places (
        page INTEGER NOT NULL,
        cursor TEXT NOT NULL,
        focus TEXT,
        PRIMARY KEY (page),
        FOREIGN KEY(page) REFERENCES pages (id)
    )
    """,
    """
    CREATE TABLE defects (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        page INTEGER NOT NULL,
        take INTEGER NOT NULL,
        xpath TEXT NOT NULL,
        line INTEGER,
        "column" INTEGER,
        snippet TEXT NOT NULL,
        role TEXT NOT NULL,
        name TEXT NOT NULL,
        heard TEXT NOT NULL,
        steps TEXT NOT NULL,
        expected TEXT NOT NULL,
        impact VARCHAR(10) NOT NULL,
        criterion VARCHAR(8) NOT NULL,
        repair TEXT NOT NULL,
        FOREIGN KEY(page) REFERENCES pages (id),
        FOREIGN KEY(take) REFERENCES takes (id)
    )
    """,
)
"""Pages, their takes, where they were left, defects."""

_VERSION_2 = (
    """
    CREATE TABLE verdicts (
        page INTEGER NOT NULL,
        entry TEXT NOT NULL,
        take INTEGER NOT NULL,
        verdict VARCHAR(13),
        note TEXT NOT NULL,
        PRIMARY KEY (page, entry),
        FOREIGN KEY(page) REFERENCES pages (id),
        FOREIGN KEY(take) REFERENCES takes (id)
    )
    """,
)
"""What was said of the entries of the survey."""

_VERSION_3 = (
    "CREATE TABLE contents (digest VARCHAR(64) NOT NULL, data BLOB NOT NULL, PRIMARY KEY (digest))",
    """
    CREATE TABLE parts (
        take INTEGER NOT NULL,
        kind VARCHAR(8) NOT NULL,
        address TEXT NOT NULL,
        content VARCHAR(64) NOT NULL,
        PRIMARY KEY (take, kind, address),
        FOREIGN KEY(take) REFERENCES takes (id),
        FOREIGN KEY(content) REFERENCES contents (digest)
    )
    """,
)
"""What a take was made of, each content once."""

_VERSION_4 = (
    "ALTER TABLE defects ADD COLUMN title TEXT NOT NULL DEFAULT ''",
    "UPDATE verdicts SET verdict = 'needs-context' WHERE verdict = 'needs context'",
)
"""A title for each defect; one spelling for a verdict."""

_VERSION_5 = (
    "ALTER TABLE takes ADD COLUMN problems TEXT NOT NULL DEFAULT ''",
    """
    CREATE TABLE drafts (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        page INTEGER NOT NULL,
        take INTEGER NOT NULL,
        xpath TEXT NOT NULL,
        line INTEGER,
        "column" INTEGER,
        snippet TEXT NOT NULL,
        role TEXT NOT NULL,
        name TEXT NOT NULL,
        heard TEXT NOT NULL,
        steps TEXT NOT NULL,
        expected TEXT NOT NULL,
        impact VARCHAR(10) NOT NULL,
        criterion VARCHAR(8) NOT NULL,
        repair TEXT NOT NULL,
        title TEXT NOT NULL,
        defect INTEGER,
        UNIQUE (page),
        FOREIGN KEY(page) REFERENCES pages (id),
        FOREIGN KEY(take) REFERENCES takes (id)
    )
    """,
)
"""What could not be honoured of a take, a sentence to a line; the defect that is being written on each page."""

_VERSION_6 = (
    """
    CREATE TABLE pages_by_width (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        address TEXT NOT NULL,
        title TEXT NOT NULL,
        width INTEGER NOT NULL,
        opened VARCHAR(25) NOT NULL,
        UNIQUE (address, width)
    )
    """,
    "INSERT INTO pages_by_width SELECT id, address, title, width, opened FROM pages",
    "DROP TABLE pages",
    "ALTER TABLE pages_by_width RENAME TO pages",
    """
    CREATE TABLE notes (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        page INTEGER NOT NULL,
        take INTEGER NOT NULL,
        move TEXT NOT NULL,
        heard TEXT NOT NULL,
        xpath TEXT NOT NULL,
        note TEXT NOT NULL,
        FOREIGN KEY(page) REFERENCES pages (id),
        FOREIGN KEY(take) REFERENCES takes (id)
    )
    """,
)
"""A page is one at each width it is tested at; what a listener noted of what was heard."""

_VERSION_7 = (
    """
    CREATE TABLE pictures (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        defect INTEGER NOT NULL,
        taken VARCHAR(25) NOT NULL,
        png BLOB NOT NULL
    )
    """,
    """
    CREATE TABLE statuses (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        defect INTEGER NOT NULL,
        status VARCHAR(10) NOT NULL,
        reason TEXT NOT NULL,
        until VARCHAR(10) NOT NULL,
        at VARCHAR(25) NOT NULL
    )
    """,
)
"""Pictures of what defects are about; the statuses that were given to them."""

_VERSION_8 = (
    *(
        f"ALTER TABLE {table} ADD COLUMN {column} TEXT NOT NULL DEFAULT '{default}'"
        for table in ("defects", "drafts")
        for column, default in (
            ('"check"', ""),
            ("straight", "[]"),
            ("acceptance", ""),
            ("tags", ""),
            ("notes", ""),
            ("further", "[]"),
        )
    ),
    """
    CREATE TABLE changes (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        at VARCHAR(25) NOT NULL,
        words TEXT NOT NULL,
        before TEXT NOT NULL
    )
    """,
)
"""More of a defect: its check, a second way, acceptance steps, tags, notes, further places; what can be taken back."""

_VERSION_9 = (
    *(
        f"ALTER TABLE {table} ADD COLUMN {column} TEXT NOT NULL DEFAULT ''"
        for table in ("defects", "drafts")
        for column in ("within", "stopped", "stage")
    ),
    """
    CREATE TABLE attachments (
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
        defect INTEGER NOT NULL,
        added VARCHAR(25) NOT NULL,
        kind VARCHAR(4) NOT NULL,
        words TEXT NOT NULL,
        data BLOB NOT NULL
    )
    """,
    "INSERT INTO attachments SELECT id, defect, taken, 'png', 'as it was found', png FROM pictures",
    "DROP TABLE pictures",
)
"""Where on its page a defect is, whom it stops, on which stage it was found; attachments in place of pictures."""

_VERSION_10 = (
    """
    CREATE TABLE verdicts_by_columns (
        page INTEGER NOT NULL,
        slice VARCHAR(12) NOT NULL,
        tag TEXT NOT NULL,
        target TEXT NOT NULL,
        heard TEXT NOT NULL,
        twin INTEGER NOT NULL,
        earlier TEXT NOT NULL,
        take INTEGER NOT NULL,
        verdict VARCHAR(13),
        note TEXT NOT NULL,
        PRIMARY KEY (page, slice, tag, target, heard, twin, earlier),
        FOREIGN KEY(page) REFERENCES pages (id),
        FOREIGN KEY(take) REFERENCES takes (id)
    )
    """,
    # A key was slice|tag|target|heard|twin, all before the last stroke cut off at 200 characters.
    """
    INSERT INTO verdicts_by_columns
    SELECT page, slice, tag,
        CASE WHEN instr(rest, '|') > 0 THEN substr(rest, 1, instr(rest, '|') - 1) ELSE rest END,
        CASE WHEN instr(rest, '|') > 0 THEN substr(rest, instr(rest, '|') + 1) ELSE '' END,
        twin,
        CASE WHEN length(base) < 200 AND length(entry) - length(replace(entry, '|', '')) = 4 THEN '' ELSE entry END,
        take, verdict, note
    FROM (
        SELECT *, substr(more, 1, instr(more, '|') - 1) AS tag, substr(more, instr(more, '|') + 1) AS rest
        FROM (
            SELECT *, substr(base, 1, instr(base, '|') - 1) AS slice, substr(base, instr(base, '|') + 1) AS more
            FROM (
                SELECT *, CAST(substr(entry, length(rtrim(entry, '0123456789')) + 1) AS INTEGER) AS twin,
                    substr(entry, 1, length(rtrim(entry, '0123456789')) - 1) AS base
                FROM verdicts
            )
        )
    )
    """,
    "DROP TABLE verdicts",
    "ALTER TABLE verdicts_by_columns RENAME TO verdicts",
    """DELETE FROM changes WHERE before LIKE '%"kind": "verdict"%'""",
)
"""The key of an entry in columns of its own; changes of verdicts, which have the key of old, cannot be taken back."""

MIGRATIONS: tuple[tuple[str, ...], ...] = (
    _VERSION_1, _VERSION_2, _VERSION_3, _VERSION_4, _VERSION_5, _VERSION_6, _VERSION_7, _VERSION_8, _VERSION_9,
    _VERSION_10,
)  # fmt: skip
"""The statements that bring a casebook from the version that is their index to the next."""

VERSION = len(MIGRATIONS)
"""The version of casebooks that are written now."""


def migrate(connection: Connection, version: int) -> None:
    """Bring a casebook from a version to the present one, within the caller's transaction.

    Tables are replaced by others of their name, so foreign keys have to be off for as long.
    """
    for statements in MIGRATIONS[version:]:
        for statement in statements:
            connection.exec_driver_sql(statement)
