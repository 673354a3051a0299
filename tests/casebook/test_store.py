"""The casebook file: what is kept is kept, and what cannot be opened is said in one sentence."""

import os
import signal
import sqlite3
import subprocess
import sys
import textwrap
from dataclasses import replace
from datetime import date
from pathlib import Path

import pytest
import sqlalchemy as sa
from hypothesis import given
from hypothesis import strategies as st

from murvel.casebook import schema
from murvel.casebook.attaching import attach, write
from murvel.casebook.attachment import MAX_ATTACHMENT_BYTES, Attachment, AttachmentKind, kind_of, why_not_kept
from murvel.casebook.content import TakeContent
from murvel.casebook.defect import MoveMade
from murvel.casebook.errors import CasebookError
from murvel.casebook.file import is_casebook
from murvel.casebook.records import Left
from murvel.casebook.status import Status, status_in
from murvel.casebook.store import Casebook
from murvel.report.formats import Format
from murvel.report.write import render
from murvel.survey.entry import OPEN, EntryKey, Judgement, Slice, Verdict
from tests.casebook.support import PICTURE, PLACE, a_defect, a_tree
from tests.support import document_of


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "a b?c#d%20.murvel"


def test_what_is_kept_is_there_again(path: Path) -> None:
    with Casebook(path) as book:
        kept = book.keep_defect(a_defect(book))
        book.leave(book.pages()[0], Left("/html[1]", "/html[1]/body[1]"))
    with Casebook(path) as book:
        assert book.defects() == [kept]
        assert book.left(book.pages()[0]) == Left("/html[1]", "/html[1]/body[1]")
    assert [each.name for each in path.parent.iterdir()] == [path.name]
    assert path.stat().st_mode & 0o777 == 0o600
    assert is_casebook(path)


texts = st.text(max_size=20)


@given(heard=texts, expected=texts, repair=texts, snippet=texts, name=texts, step=texts)
def test_any_text_survives(
    tmp_path_factory: pytest.TempPathFactory, heard: str, expected: str, repair: str, snippet: str, name: str, step: str
) -> None:
    with Casebook(tmp_path_factory.mktemp("book") / "x.murvel") as book:
        defect = replace(
            a_defect(book, heard),
            expected=expected,
            repair=repair,
            place=replace(PLACE, snippet=snippet, name=name, line=None, column=None),
            steps=(MoveMade(step, 1, step),),
        )
        assert book.keep_defect(defect) == book.defects()[0]
        assert book.defects()[0].with_id(0) == defect.with_id(0)


def test_text_that_cannot_be_encoded_is_written_out(path: Path) -> None:
    with Casebook(path) as book:
        book.keep_defect(a_defect(book, "a\ud800b"))
        assert book.defects()[0].heard == "a\\ud800b"


def test_a_take_is_new_when_the_source_is(path: Path) -> None:
    with Casebook(path) as book:
        page = book.keep_page("/p", "P", 1280)
        first = book.keep_take(page, document_of("<p>a"), a_tree)
        assert book.keep_take(page, document_of("<p>a"), a_tree) == first
        assert book.keep_take(page, document_of("<p>b"), a_tree).number == 2
        other = book.keep_page("/q", "Q", 1280)
        assert book.keep_take(other, document_of("<p>a"), a_tree).number == 1
        assert [each.address for each in book.pages()] == ["/q", "/p"]
        assert book.keep_page("/p", "P2", 1280).id == page.id
        assert book.pages()[0].title == "P2"
        narrow = book.keep_page("/p", "P2", 600)
        assert narrow.id != page.id
        assert book.keep_take(narrow, document_of("<p>a"), a_tree).number == 1


def test_numbers_of_defects_are_not_used_again(path: Path) -> None:
    with Casebook(path) as book:
        first = book.keep_defect(a_defect(book))
        assert first.id == 1
        book.delete_defect(1)
        assert book.keep_defect(a_defect(book)).id == 2


def test_a_second_writer_is_told_that_the_casebook_is_in_use(path: Path) -> None:
    with Casebook(path) as book:
        with pytest.raises(CasebookError, match="in use by another Murvel"):
            Casebook(path)
        book.keep_defect(a_defect(book))
        with Casebook(path, read_only=True) as reader:
            assert len(reader.defects()) == 1
    with Casebook(path) as book:
        assert len(book.defects()) == 1


def make_database(path: Path, *statements: str) -> None:
    connection = sqlite3.connect(path)
    for statement in statements:
        connection.execute(statement)
    connection.commit()
    connection.close()


@pytest.mark.parametrize("read_only", [True, False])
@pytest.mark.parametrize(
    ("statements", "words"),
    [
        (("CREATE TABLE a(b)",), "is a database, but not a casebook"),
        (
            (f"PRAGMA application_id={schema.APPLICATION_ID}", "PRAGMA user_version=99", "CREATE TABLE a(b)"),
            "newer Murvel",
        ),
    ],
)
def test_databases_that_cannot_be_opened(path: Path, statements: tuple[str, ...], words: str, read_only: bool) -> None:
    make_database(path, *statements)
    before = path.read_bytes()
    with pytest.raises(CasebookError, match=words) as caught:
        Casebook(path, read_only=read_only)
    assert str(caught.value).endswith(".")
    assert path.read_bytes() == before


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"hello", "is not a casebook"),
        (b"SQLite format 3\x00" + b"x" * 500, "not a casebook|damaged|could not be read"),
    ],
)
def test_files_that_are_no_casebook(path: Path, content: bytes, words: str) -> None:
    path.write_bytes(content)
    with pytest.raises(CasebookError, match=words):
        Casebook(path)
    assert path.read_bytes() == content
    assert not list(path.parent.glob(".*.lock"))


def test_paths_that_cannot_be(tmp_path: Path) -> None:
    with pytest.raises(CasebookError, match="is a folder"):
        Casebook(tmp_path)
    with pytest.raises(CasebookError, match="There is no casebook"):
        Casebook(tmp_path / "gone.murvel", read_only=True)
    (tmp_path / "file").write_text("x")
    with pytest.raises(CasebookError, match="cannot be opened"):
        Casebook(tmp_path / "file" / "x.murvel")
    with pytest.raises(CasebookError, match="cannot be opened"):
        Casebook(tmp_path / "a\0b")


def test_an_empty_file_becomes_a_casebook(path: Path) -> None:
    path.touch()
    assert is_casebook(path)
    with Casebook(path) as book:
        assert book.defects() == []


def test_a_full_disk_is_said_and_changes_nothing(path: Path) -> None:
    with Casebook(path) as book:
        kept = book.keep_defect(a_defect(book))
        pages = book._connection.exec_driver_sql("PRAGMA page_count").scalar_one()
        book._connection.exec_driver_sql(f"PRAGMA max_page_count={pages}")
        book._connection.rollback()
        with pytest.raises(CasebookError, match="disk is full"):
            book.keep_defect(a_defect(book, "x" * 200_000))
        assert book.defects() == [kept]
        book._connection.exec_driver_sql("PRAGMA max_page_count=100000")
        book._connection.rollback()
        assert book.keep_defect(a_defect(book, "now it fits")).id == 2


def test_a_lock_held_from_outside_is_said(path: Path) -> None:
    with Casebook(path) as book:
        defect = a_defect(book)
        other = sqlite3.connect(path, isolation_level=None)
        other.execute("BEGIN EXCLUSIVE")
        book._connection.exec_driver_sql("PRAGMA busy_timeout=50")
        book._connection.rollback()
        with pytest.raises(CasebookError, match="being written by another program"):
            book.keep_defect(defect)
        other.execute("ROLLBACK")
        other.close()
        assert book.keep_defect(defect).id == 1


def test_killing_the_process_loses_nothing_that_was_kept(path: Path) -> None:
    program = textwrap.dedent(
        """
        import sys, pathlib
        from murvel.casebook.store import Casebook
        from tests.casebook.support import a_defect
        book = Casebook(pathlib.Path(sys.argv[1]))
        for number in range(1000):
            print(book.keep_defect(a_defect(book, str(number))).id, flush=True)
        """
    )
    process = subprocess.Popen([sys.executable, "-c", program, str(path)], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    said = [process.stdout.readline() for _ in range(5)]
    os.kill(process.pid, signal.SIGKILL)
    said += process.stdout.readlines()
    process.stdout.close()
    process.wait()
    with Casebook(path) as book:
        kept = [each.id for each in book.defects()]
    announced = [int(line) for line in said if line.endswith("\n")]
    assert kept[: len(announced)] == announced


HOME = EntryKey(Slice.LINKS, "a", "", "Home, link")
SECOND = replace(HOME, twin=2)


def test_verdicts_are_kept_by_page_and_entry_and_taken_back(path: Path) -> None:
    with Casebook(path) as book:
        page = book.keep_page("p.html", "P", 1280)
        take = book.keep_take(page, document_of("<p>x"), a_tree)
        book.judge(page.id, take.id, HOME, Judgement(Verdict.FAIL, "odd \ud800"))
        book.judge(page.id, take.id, SECOND, Judgement(Verdict.PASS))
        book.judge(page.id, take.id, SECOND, OPEN)
    with Casebook(path) as book:
        assert book.judgements(page) == {HOME: Judgement(Verdict.FAIL, "odd \\ud800")}
        assert book.judgements(book.keep_page("q.html", "Q", 1280)) == {}


def test_a_content_is_kept_once_and_read_again(path: Path) -> None:
    with Casebook(path) as book:
        page = book.keep_page("/p", "P", 1280)
        first, second = document_of("<p>a \ud800"), document_of("<p>b")
        for document in (first, second):
            document.resources.texts["/site.css"] = "p { display: block }"
        takes = [book.keep_take(page, document, a_tree) for document in (first, second)]
        assert book.content(takes[0].id) == TakeContent(first.source.text, a_tree(), first.resources.texts)
        assert book._connection.exec_driver_sql("SELECT count(*) FROM parts").scalar_one() == 6
        assert book._connection.exec_driver_sql("SELECT count(*) FROM contents").scalar_one() == 4
        second.resources.texts["/site.css"] = "p { display: none }"
        assert book.keep_take(page, second, a_tree).number == 3


def test_a_take_that_is_too_large_is_not_kept_and_that_is_said(path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("murvel.casebook.store.MAX_BYTES", 100)
    with Casebook(path) as book:
        page = book.keep_page("/p", "P", 1280)
        take = book.keep_take(page, document_of("<p>a"), lambda: "".join(map(str, range(1000))))
        assert not take.is_kept
        assert book.content(take.id) is None
        assert [each.is_kept for each in book.takes()] == [False]


def test_a_damaged_content_is_a_sentence(path: Path) -> None:
    with Casebook(path) as book:
        take = book.keep_take(book.keep_page("/p", "P", 1280), document_of("<p>a"), a_tree)
        book._connection.exec_driver_sql("UPDATE contents SET data = x'00'")
        book._connection.commit()
        with pytest.raises(CasebookError, match="is damaged; bring back a copy"):
            book.content(take.id)


@pytest.mark.parametrize("name", [":memory:", "file:x.murvel?mode=memory", "file:y", "a b;c.murvel", "%41.murvel"])
def test_a_name_is_a_path_whatever_it_looks_like(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, name: str) -> None:
    monkeypatch.chdir(tmp_path)
    with Casebook(Path(name)) as book:
        book.keep_defect(a_defect(book))
    with Casebook(Path(name)) as book:
        assert len(book.pages()) == 1
    assert [each.name for each in tmp_path.iterdir()] == [name]


def test_what_is_no_file_is_refused_at_once(tmp_path: Path) -> None:
    os.mkfifo(tmp_path / "pipe")
    for read_only in (True, False):
        with pytest.raises(CasebookError, match="is no regular file"):
            Casebook(tmp_path / "pipe", read_only=read_only)


def test_a_new_casebook_that_fails_leaves_nothing(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(*_: object) -> None:
        raise sa.exc.OperationalError("x", {}, Exception("database or disk is full"))

    monkeypatch.setattr("murvel.casebook.migrations.migrate", full)
    with pytest.raises(CasebookError, match="The disk is full"):
        Casebook(tmp_path / "new.murvel")
    with pytest.raises(CasebookError, match="cannot be opened"):
        Casebook(tmp_path / ("long" * 100))
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize(
    ("data", "reason"),
    [
        (PICTURE + bytes(3 * MAX_ATTACHMENT_BYTES), "it is larger than 1 MB"),
        (b"\x00\x01", "it is no PNG, JPEG, SVG or UTF-8 text"),
        (PICTURE[:16] + (50_000).to_bytes(4, "big") * 2 + PICTURE[24:], "a picture of 50,000 by 50,000 pixels"),
        (b"\xff\xd8\xff\xe0\x00\x04ab\xff\xc2\x00\x11\x08\xea\x60\xea\x60\x03", "a picture of 60,000 by 60,000"),
        (b"\xff\xd8\xff\xe0\x00\x04ab\xff\xc2\x00\x11\x08\x00\x60\x00\x60\x03", ""),
        (PICTURE, ""),
    ],
)
def test_why_a_file_is_not_attached(data: bytes, reason: str) -> None:
    assert reason in why_not_kept(data)
    assert bool(reason) is bool(why_not_kept(data))


def test_attachments_replace_nothing_unasked(tmp_path: Path) -> None:
    kept = Attachment(1, 1, "", AttachmentKind.TEXT, "", b"new")
    folder, other = tmp_path / "to", tmp_path / "other.txt"
    folder.mkdir()
    other.write_text("old")
    (folder / kept.name).symlink_to(other)
    with pytest.raises(CasebookError, match=r"is there already and holds something else; .* --force"):
        list(write([kept], folder))
    assert [each.read_bytes() for each in write([kept], folder, force=True)] == [b"new"]
    assert other.read_text() == "old"
    assert list(write([kept], folder)) == [folder / kept.name]  # what holds the same stays
    (folder / kept.name).write_text("mine")
    with pytest.raises(CasebookError, match="holds something else"):
        list(write([kept], folder))
    assert (folder / kept.name).read_text() == "mine"


def test_attachments_are_kept_by_defect_within_a_limit_and_written(path: Path, tmp_path: Path) -> None:
    with Casebook(path) as book:
        first, second = (book.keep_defect(a_defect(book)) for _ in range(2))
        assert first.id is not None
        assert second.id is not None
        assert book.keep_attachment(first.id, PICTURE, "as it was found")
        assert book.keep_attachment(second.id, PICTURE, "its *path*")
        assert book.keep_attachment(first.id, PICTURE + bytes(MAX_ATTACHMENT_BYTES), "too large") is None
        (kept,) = book.attachments(first.id)
        assert (kept.data, kept.kind, kept.words) == (PICTURE, AttachmentKind.PNG, "as it was found")
        assert [each.name for each in write([kept], tmp_path / "new" / "folder")] == ["defect-1-attachment-1.png"]
        with pytest.raises(CasebookError, match="cannot be written"):
            list(write([kept], path))
        book.delete_defect(first.id)
        assert [each.defect for each in book.attachments()] == [second.id]
        book.keep_defect(first)  # it is taken back
        assert len(book.attachments()) == 2
        report = render(book, Format.HTML, date(2026, 5, 4)), render(book, Format.MARKDOWN, date(2026, 5, 4))
        assert report[0].count("data:image/png;base64,iVBOR") == 2
        assert "`defect-2-attachment-2.png`, its \\*path\\*" in report[1]


@pytest.mark.parametrize(
    ("data", "kind"),
    [
        (PICTURE, AttachmentKind.PNG),
        (b"\xff\xd8\xff\xe0\x00\x10JFIF", AttachmentKind.JPEG),
        (b"<?xml version='1.0'?>\n<!-- path --><svg xmlns='http://www.w3.org/2000/svg'/>", AttachmentKind.SVG),
        (b"\xef\xbb\xbf<svg>", AttachmentKind.SVG),
        (b"<!DOCTYPE svg [<!ENTITY a 'b'>]><svg>&a;</svg>", AttachmentKind.TEXT),
        (b"<svgx>", AttachmentKind.TEXT),
        ("Größe: 3 m".encode(), AttachmentKind.TEXT),
        (b"", None),
        (b"GIF89a\x00", None),
        (b"\x1b[31mred", None),
        (b"\xff\xfe", None),
    ],
)
def test_what_can_be_attached_is_told_by_its_content(data: bytes, kind: AttachmentKind | None) -> None:
    assert kind_of(data) is kind


def test_an_attachment_is_taken_back_and_never_runs_in_a_report(path: Path, tmp_path: Path) -> None:
    texts = {"a.svg": "<svg onload='alert(1)'/>", "b.txt": "</pre><script>alert(1)</script>", "c.png": "no\0"}
    for name, text in texts.items():
        (tmp_path / name).write_text(text)
    with Casebook(path) as book:
        book.keep_defect(a_defect(book))
        attach(book, 1, tmp_path / "a.svg")
        attach(book, 1, tmp_path / "b.txt", "said by\nthe page")
        with pytest.raises(CasebookError, match="no PNG, JPEG, SVG"):
            attach(book, 1, tmp_path / "c.png")
        html = render(book, Format.HTML, date(2026, 5, 4))
        assert "<script>alert" not in html
        assert "onload" not in html
        assert 'src="data:image/svg+xml;base64,' in html
        taken = [book.take_back() for _ in range(2)]
        assert [each.words if each else "" for each in taken] == [
            "attaching b.txt to defect 1",
            "attaching a.svg to defect 1",
        ]
        assert book.attachments() == []


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ("repaired", (Status.REPAIRED, "", "")),
        (" Repaired in release 4 ", (Status.REPAIRED, "in release 4", "")),
        ("accepted the map is replaced until 2027-01-31", (Status.ACCEPTED, "the map is replaced", "2027-01-31")),
        ("accepted: waits until the map is replaced until 2027-01-31", (Status.ACCEPTED, "waits until the map is replaced", "2027-01-31")),
        ("repared", "There is no status 'repared'; did you mean 'repaired'"),
        ("accepted", "needs a reason"),
        ("accepted until 2027-01-31", "needs a reason"),
        ("accepted soon until friday", "'friday' is no day"),
        ("", "There is no status ''"),
    ],
)  # fmt: skip
def test_a_status_is_said_in_words(words: str, found: tuple[Status, str, str] | str) -> None:
    if isinstance(found, str):
        with pytest.raises(CasebookError, match=found):
            status_in(words)
    else:
        assert status_in(words) == found


def test_statuses_are_kept_with_their_history_and_reported(path: Path) -> None:
    with Casebook(path) as book:
        defect = book.keep_defect(a_defect(book))
        assert defect.id is not None
        book.keep_status(defect.id, Status.REPAIRED)
        change = book.keep_status(defect.id, Status.ACCEPTED, "the <map> is replaced \ud800", "2027-01-31")
    with Casebook(path) as book:
        last = book.statuses()[1][-1]
        assert last.words == "accepted until 2027-01-31: the <map> is replaced \\ud800"
        report = render(book, Format.HTML, date(2026, 5, 4)), render(book, Format.MARKDOWN, date(2026, 5, 4))
        assert "accepted until 2027-01-31: the &lt;map&gt; is replaced" in report[0]
        assert "- **Status:** accepted: it stays as it is" in report[1]
        book.drop_status(change)
        assert [each.status for each in book.statuses()[1]] == [Status.REPAIRED]
