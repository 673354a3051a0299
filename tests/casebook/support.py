"""Casebooks to be read, damaged and lost."""

from base64 import b64decode
from pathlib import Path
from random import Random

from murvel.casebook.changes import NoStatus
from murvel.casebook.defect import Defect, Impact, MoveMade, Place
from murvel.casebook.records import Left
from murvel.casebook.status import Status
from murvel.casebook.store import Casebook
from murvel.survey.entry import EntryKey, Judgement, Slice, Verdict
from tests.support import document_of

FILES = Path(__file__).parent / "files"
"""A casebook of each earlier version, written by it: a page, a take, a defect, where it was left, a verdict."""

PICTURE = b64decode("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNgAAAAAgABSK+kcQAAAABJRU5ErkJggg==")
"""A PNG of one pixel."""

PLACE = Place("/html[1]/body[1]/p[1]", 3, 7, "<p>", "paragraph", "")


def a_tree() -> str:
    """Return a tree, as far as the casebook cares."""
    return '{"format": "murvel-tree"}'


def a_defect(book: Casebook, heard: str = "text box") -> Defect:
    page = book.keep_page("/p.html", "P", 1280)
    take = book.keep_take(page, document_of("<p>x"), a_tree)
    return Defect(
        page.id,
        take.id,
        PLACE,
        heard,
        (MoveMade("next field", 2, "text box"),),
        "Email",
        Impact.BLOCKS,
        "4.1.2",
        "tie it",
    )


def keep_one_of_each(path: Path) -> None:
    """Make a casebook that holds two defects and one of everything else."""
    with Casebook(path) as book:
        defect = book.keep_defect(a_defect(book))
        book.keep_defect(a_defect(book))
        (page,) = book.pages()
        take = book.keep_take(page, document_of("<p>x"), a_tree)
        book.judge(page.id, take.id, EntryKey(Slice.LINKS, "a", "", "Rota, link"), Judgement(Verdict.PASS, "well"))
        book.leave(page, Left("/html[1]", None))
        book.keep_draft(defect)
        assert defect.id is not None
        book.keep_attachment(defect.id, PICTURE, "as it was found")
        change = book.keep_status(defect.id, Status.REPAIRED, "in the next release")
        book.remember("making it repaired", NoStatus(change, defect.id))


def read_all(path: Path) -> None:
    """Read everything that a casebook holds."""
    with Casebook(path) as book:
        book.defects()
        book.takes()
        book.attachments()
        book.statuses()
        for page in book.pages():
            book.left(page)
            book.judgements(page)
            book.draft(page)


def damage(path: Path, random: Random) -> None:
    """Change some bytes of a file, and perhaps lose its end."""
    data = bytearray(path.read_bytes())
    for _ in range(random.choice((1, 20, 2000))):
        data[random.randrange(len(data))] = random.randrange(256)
    path.write_bytes(data[: random.choice((len(data), len(data), len(data) // 2, 100))])
