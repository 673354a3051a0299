"""Casebooks that SQLite finds whole but whose contents are not: a sentence, and a word on what can be saved."""

import os
import shutil
import sqlite3
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from random import Random

import pytest

from murvel.casebook.errors import CasebookError
from murvel.casebook.inspection import inspect
from murvel.casebook.migrations import VERSION
from murvel.casebook.store import Casebook
from murvel.errors import MurvelError
from tests.casebook.support import FILES, damage, keep_one_of_each, read_all
from tests.cli.support import murvel


@pytest.fixture
def path(tmp_path: Path) -> Path:
    path = tmp_path / "b.murvel"
    keep_one_of_each(path)
    return path


def change(path: Path, statement: str, *values: object) -> None:
    with sqlite3.connect(path) as connection:
        connection.execute("PRAGMA writable_schema=ON")
        connection.execute(statement, values)


@pytest.mark.parametrize(
    ("statement", "value", "words"),
    [
        ("UPDATE defects SET steps = ? WHERE id = 1", "[{", "Defect 1 of .* is damaged: its steps is not usable"),
        ("UPDATE defects SET steps = ? WHERE id = 1", '[{"move": 3}]', "its steps is not usable"),
        ("UPDATE defects SET steps = ? WHERE id = 1", "[" * 100_000, "its steps is not usable"),
        ("UPDATE defects SET impact = ?", "terrible", "its impact is not usable"),
        ("UPDATE defects SET line = ?", "two", "its line is not usable"),
        ("UPDATE defects SET heard = ?", 3.5, ""),
        ("UPDATE defects SET heard = ?", b"\xff\xfe", "its heard is not usable"),
        ("UPDATE defects SET heard = CAST(? AS TEXT)", b"\xff\xfe", ""),
        ("UPDATE takes SET taken = ?", "yesterday", "Take 1 of .* its taken is not usable"),
        ("UPDATE takes SET number = ?", -1, "its number is not usable"),
        ("UPDATE pages SET width = ?", "wide", "Page 1 of .* its width is not usable"),
        ("UPDATE pages SET width = ?", 2**60, "its width is not usable"),
        ("UPDATE verdicts SET verdict = ?", "perhaps", "Verdict on page 1 of .* its verdict is not usable"),
        ("UPDATE places SET cursor = ?", b"x", "its cursor is not usable"),
        ("UPDATE drafts SET impact = ?", "x", "Draft 1 of .* its impact is not usable"),
        ("DELETE FROM sqlite_master WHERE name = ?", "defects", "is damaged and cannot be read"),
    ],
)
def test_what_is_damaged_is_said(path: Path, statement: str, value: object, words: str) -> None:
    change(path, statement, value)
    if not words:
        read_all(path)
        return
    with pytest.raises(CasebookError, match=words) as caught:
        read_all(path)
    assert str(caught.value).endswith("murvel casebook check says what can be saved.")


@pytest.mark.parametrize("version", range(1, VERSION))
def test_an_older_casebook_is_whole(version: int) -> None:
    found = inspect(FILES / f"version-{version}.murvel")
    assert found.damaged == []
    assert found.whole["defect"] == 1


def test_what_can_be_saved(path: Path) -> None:
    whole = murvel("casebook", "check", str(path))
    assert (whole.returncode, whole.stderr) == (0, "")
    assert whole.stdout == (
        "can be read: 1 page, 1 take, 2 defects, 1 verdict, 1 status, 1 attachment, 1 change, 2 contents\nThe casebook is whole.\n"
    )
    change(path, "UPDATE defects SET impact = 'x' WHERE id = 2")
    change(path, "UPDATE contents SET data = x'00' WHERE rowid = 1")
    before = path.read_bytes()
    damaged = murvel("casebook", "check", str(path))
    assert damaged.returncode == 2
    assert (
        "can be read: 1 page, 1 take, 1 defect, 1 verdict, 1 status, 1 attachment, 1 change, 1 content"
        in damaged.stdout
    )
    assert "damaged: Defect 2: its impact is not usable." in damaged.stdout
    assert "damaged: Content 1: " in damaged.stdout
    assert path.read_bytes() == before


@pytest.mark.parametrize("seed", range(12))
def test_bytes_that_changed(path: Path, seed: int) -> None:
    damage(path, Random(seed))
    for look in (read_all, inspect):
        with suppress(MurvelError):
            look(path)


LINKS: list[Callable[[Path, Path], object]] = [os.symlink, os.link]


@pytest.mark.parametrize("link", LINKS)
def test_the_lock_holds_through_links(path: Path, tmp_path: Path, link: Callable[[Path, Path], object]) -> None:
    (tmp_path / "other").mkdir()
    other = tmp_path / "other" / "c.murvel"
    link(path, other)
    with Casebook(path), pytest.raises(CasebookError, match="is in use by another Murvel"):
        Casebook(other)
    with Casebook(other) as book:
        assert len(book.defects()) == 2
    copied = tmp_path / "copy.murvel"
    shutil.copy(path, copied)
    with Casebook(path), Casebook(copied):
        assert not list(tmp_path.glob(".*"))
