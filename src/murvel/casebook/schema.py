"""The tables of a casebook, as the present version has them; `migrations` makes them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from sqlalchemy import (
    Column,
    ForeignKey,
    Integer,
    LargeBinary,
    MetaData,
    String,
    Table,
    Text,
    UniqueConstraint,
)

APPLICATION_ID = 0x4D52564C
"""Marks a SQLite file as a casebook (PRAGMA application_id): the letters MRVL."""

metadata = MetaData()

pages = Table(
    "pages",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("address", Text, nullable=False),
    Column("title", Text, nullable=False),
    Column("width", Integer, nullable=False),
    Column("opened", String(25), nullable=False),
    UniqueConstraint("address", "width"),
    sqlite_autoincrement=True,
)
"""What is tested: a page at a width."""

takes = Table(
    "takes",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("page", ForeignKey("pages.id"), nullable=False),
    Column("number", Integer, nullable=False),
    Column("digest", String(64), nullable=False),
    Column("taken", String(25), nullable=False),
    Column("problems", Text, nullable=False, server_default=""),
    UniqueConstraint("page", "number"),
    sqlite_autoincrement=True,
)

places = Table(
    "places",
    metadata,
    Column("page", ForeignKey("pages.id"), primary_key=True),
    Column("cursor", Text, nullable=False),
    Column("focus", Text),
)
"""Where reading stood when the page was left: absolute XPaths."""


def _of_defect() -> Iterator[Column[Any]]:
    """The columns that a defect has, and one that is being written."""
    yield Column("id", Integer, primary_key=True)
    yield Column("page", ForeignKey("pages.id"), nullable=False)
    yield Column("take", ForeignKey("takes.id"), nullable=False)
    yield Column("xpath", Text, nullable=False)
    yield Column("line", Integer)
    yield Column("column", Integer)
    for name in ("snippet", "role", "name", "heard", "steps", "expected"):
        yield Column(name, Text, nullable=False)
    yield Column("impact", String(10), nullable=False)
    yield Column("criterion", String(8), nullable=False)
    yield Column("repair", Text, nullable=False)
    yield Column("title", Text, nullable=False, server_default="")
    for name, default in (("check", ""), ("straight", "[]"), ("acceptance", ""), ("tags", ""), ("notes", "")):
        yield Column(name, Text, nullable=False, server_default=default)
    yield Column("further", Text, nullable=False, server_default="[]")
    for name in ("within", "stopped", "stage"):
        yield Column(name, Text, nullable=False, server_default="")


defects = Table(
    "defects",
    metadata,
    *_of_defect(),
    sqlite_autoincrement=True,
)

drafts = Table(
    "drafts",
    metadata,
    *_of_defect(),
    Column("defect", Integer),
    UniqueConstraint("page"),
    sqlite_autoincrement=True,
)
"""The defect that is being written on each page; `defect` is its id where it is being edited."""

verdicts = Table(
    "verdicts",
    metadata,
    Column("page", ForeignKey("pages.id"), primary_key=True),
    Column("slice", String(12), primary_key=True),
    Column("tag", Text, primary_key=True),
    Column("target", Text, primary_key=True),
    Column("heard", Text, primary_key=True),
    Column("twin", Integer, primary_key=True),
    Column("earlier", Text, primary_key=True),
    Column("take", ForeignKey("takes.id"), nullable=False),
    Column("verdict", String(13)),
    Column("note", Text, nullable=False),
)
"""What was said of the entries of the survey, by their keys; the take in which it was said."""

notes = Table(
    "notes",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("page", ForeignKey("pages.id"), nullable=False),
    Column("take", ForeignKey("takes.id"), nullable=False),
    *(Column(name, Text, nullable=False) for name in ("move", "heard", "xpath", "note")),
    sqlite_autoincrement=True,
)
"""What a listener noted of something that was heard."""

statuses = Table(
    "statuses",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("defect", Integer, nullable=False),
    Column("status", String(10), nullable=False),
    Column("reason", Text, nullable=False),
    Column("until", String(10), nullable=False),
    Column("at", String(25), nullable=False),
    sqlite_autoincrement=True,
)
"""Each status that was given to a defect; the last one counts."""

attachments = Table(
    "attachments",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("defect", Integer, nullable=False),
    Column("added", String(25), nullable=False),
    Column("kind", String(4), nullable=False),
    Column("words", Text, nullable=False),
    Column("data", LargeBinary, nullable=False),
    sqlite_autoincrement=True,
)
"""Pictures, drawings and texts that belong to defects; those of a deleted defect stay, since it may come back."""

changes = Table(
    "changes",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("at", String(25), nullable=False),
    Column("words", Text, nullable=False),
    Column("before", Text, nullable=False),
    sqlite_autoincrement=True,
)
"""The changes that can be taken back, the last one first: what stood before each, as JSON."""

contents = Table(
    "contents",
    metadata,
    Column("digest", String(64), primary_key=True),
    Column("data", LargeBinary, nullable=False),
)
"""Texts that takes were made of, compressed, by the SHA-256 of what they hold."""

parts = Table(
    "parts",
    metadata,
    Column("take", ForeignKey("takes.id"), primary_key=True),
    Column("kind", String(8), primary_key=True),
    Column("address", Text, primary_key=True),
    Column("content", ForeignKey("contents.digest"), nullable=False),
)
"""What each take was made of; `address` is empty for its source and tree."""
