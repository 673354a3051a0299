"""Casebooks of earlier versions: each is brought up to date, and nothing in it is lost."""

import shutil
import sqlite3
from contextlib import closing
from dataclasses import replace
from pathlib import Path

import pytest
import sqlalchemy as sa

from murvel.casebook import migrations, schema
from murvel.casebook.content import TakeContent
from murvel.casebook.defect import Impact, MoveMade
from murvel.casebook.errors import CasebookError
from murvel.casebook.records import Left, Take
from murvel.casebook.store import Casebook
from murvel.survey.entry import EntryKey, Judgement, Slice, Verdict
from tests.casebook.support import FILES, a_tree
from tests.support import document_of

HOME = EntryKey(Slice.LINKS, "a", "", "Home, link")


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "a b?c#d%20.murvel"


@pytest.mark.parametrize("version", range(1, migrations.VERSION))
def test_a_file_of_each_earlier_version_is_brought_up_to_date(tmp_path: Path, version: int) -> None:
    path = tmp_path / "old.murvel"
    shutil.copy(FILES / f"version-{version}.murvel", path)
    before = path.read_bytes()
    with Casebook(path, read_only=True) as book:  # reports read it where it cannot be written
        assert [each.heard for each in book.defects()] == ["button"]
        with pytest.raises(CasebookError):
            book.drop_attachment(1)
    assert path.read_bytes() == before
    with Casebook(path) as book:
        (page,) = book.pages()
        (defect,) = book.defects()
        assert page.title == "Plots, Fernhollow Allotments"
        assert (defect.heard, defect.impact, defect.steps) == (
            "button",
            Impact.BLOCKS,
            (MoveMade("next button", 1, "button"),),
        )
        assert book.left(page) == Left("/html[1]/body[1]/button[1]", None)
        assert book.judgements(page) == ({} if version < 2 else {HOME: Judgement(Verdict.FAIL, "odd")})
        assert [each.is_kept for each in book.takes()] == [version >= 3]
        assert (defect.title, defect.headline) == ("", "button without a name")
        assert [each.words for each in book.attachments()] == ["as it was found"] * (version >= 7)
        # The same source is the same take, and is kept now.
        source = "<title>Plots</title><h1>Plots</h1><button></button>"
        assert book.keep_take(page, document_of(source), a_tree) == Take(1, 1)
        assert [each.is_kept for each in book.takes()] == [True]
    with Casebook(path, read_only=True) as book:
        assert book.content(1) == TakeContent(source, a_tree())


def test_the_migrations_make_the_tables_of_the_present_version(path: Path) -> None:
    with Casebook(path) as book:
        made = sa.MetaData()
        made.reflect(book._engine)
    described = {name: sorted(column.name for column in table.columns) for name, table in made.tables.items()}
    assert described == {
        name: sorted(column.name for column in table.columns) for name, table in schema.metadata.tables.items()
    }


LONG = "x" * 300


@pytest.mark.parametrize(
    ("entry", "key"),
    [
        ("links|a||Home, link|1", HOME),
        ("links|a||Home, link|12", replace(HOME, twin=12)),
        ("fields|input||Age 7, text box|3", EntryKey(Slice.FIELDS, "input", "", "Age 7, text box", 3)),
        ("links|a|/a?b=1|Home|1", EntryKey(Slice.LINKS, "a", "/a?b=1", "Home")),
        ("links|a|/x|Beds | Rota|1", EntryKey(Slice.LINKS, "a", "/x", "Beds | Rota", 1, "links|a|/x|Beds | Rota|1")),
        (f"links|a|/{LONG}"[:200] + "|2", EntryKey(Slice.LINKS, "a", f"/{LONG}"[:192], "", 2, f"links|a|/{LONG}"[:200] + "|2")),
        ("headings|h2||" + "é" * 187 + "|1", EntryKey(Slice.HEADINGS, "h2", "", "é" * 187, 1, "headings|h2||" + "é" * 187 + "|1")),
    ],
)  # fmt: skip
def test_the_key_of_a_verdict_goes_into_columns(tmp_path: Path, entry: str, key: EntryKey) -> None:
    path = tmp_path / "old.murvel"
    shutil.copy(FILES / "version-9.murvel", path)
    with closing(sqlite3.connect(path)) as file, file:
        file.execute("UPDATE verdicts SET entry = ?", (entry,))
    with Casebook(path) as book:
        assert book.judgements(book.pages()[0]) == {key: Judgement(Verdict.FAIL, "odd")}


def test_every_earlier_version_has_its_file() -> None:
    assert sorted(each.name for each in FILES.iterdir()) == [
        f"version-{n}.murvel" for n in range(1, migrations.VERSION)
    ]
