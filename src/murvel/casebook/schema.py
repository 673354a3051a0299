"""The tables of a casebook and how older ones are brought up to date."""

from __future__ import annotations

from collections.abc import Callable

from sqlalchemy import (
    Column,
    Connection,
    ForeignKey,
    Integer,
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
    Column("address", Text, nullable=False, unique=True),
    Column("title", Text, nullable=False),
    Column("width", Integer, nullable=False),
    Column("opened", String(25), nullable=False),
    sqlite_autoincrement=True,
)

takes = Table(
    "takes",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("page", ForeignKey("pages.id"), nullable=False),
    Column("number", Integer, nullable=False),
    Column("digest", String(64), nullable=False),
    Column("taken", String(25), nullable=False),
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

defects = Table(
    "defects",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("page", ForeignKey("pages.id"), nullable=False),
    Column("take", ForeignKey("takes.id"), nullable=False),
    Column("xpath", Text, nullable=False),
    Column("line", Integer),
    Column("column", Integer),
    Column("snippet", Text, nullable=False),
    Column("role", Text, nullable=False),
    Column("name", Text, nullable=False),
    Column("heard", Text, nullable=False),
    Column("steps", Text, nullable=False),
    Column("expected", Text, nullable=False),
    Column("impact", String(10), nullable=False),
    Column("criterion", String(8), nullable=False),
    Column("repair", Text, nullable=False),
    sqlite_autoincrement=True,
)

verdicts = Table(
    "verdicts",
    metadata,
    Column("page", ForeignKey("pages.id"), primary_key=True),
    Column("entry", Text, primary_key=True),
    Column("take", ForeignKey("takes.id"), nullable=False),
    Column("verdict", String(13)),
    Column("note", Text, nullable=False),
)
"""What was said of the entries of the survey, by their keys; the take in which it was said."""


def _add_verdicts(connection: Connection) -> None:
    verdicts.create(connection, checkfirst=True)


MIGRATIONS: tuple[Callable[[Connection], None], ...] = (metadata.create_all, _add_verdicts)
"""Each brings a casebook from the version that is its index to the next; the last version is their number."""

VERSION = len(MIGRATIONS)
