"""A defect to be kept."""

from pathlib import Path

from murvel.casebook.defect import Defect, Impact, MoveMade, Place
from murvel.casebook.store import Casebook
from tests.support import document_of

FILES = Path(__file__).parent / "files"
"""A casebook of each earlier version, written by it: a page, a take, a defect, where it was left, a verdict."""

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
