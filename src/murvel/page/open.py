"""Opening a page: the one way from an address, or from bytes, to a document and its styles."""

from __future__ import annotations

from typing import NamedTuple

from murvel.page.document import Document, Element
from murvel.page.encoding import decode
from murvel.page.engine import Subtree
from murvel.page.frames import MAX_DEPTH, open_frames
from murvel.page.memory import no_collection
from murvel.page.parse import Parsed, parse
from murvel.page.sources import STANDARD_INPUT, fetch, resolve
from murvel.page.styles.cascade import Cascade
from murvel.page.styles.style import Styles

DEFAULT_WIDTH = 1280
"""The viewport's width in CSS pixels where nothing else is said."""


class StyledDocument(NamedTuple):
    """A document and the styles of its elements: what a tree is built from."""

    document: Document
    styles: Styles


def open_document(address: str, width: int = DEFAULT_WIDTH) -> StyledDocument:
    """Fetch a page and return its document with computed styles.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        width: the viewport's width in CSS pixels.

    Raises:
        PageError: the page cannot be had; the message says why and what to do.
    """
    text, final = open_text(address)
    return document_from_text(text, final, width)


def open_text(address: str) -> tuple[str, str]:
    """Fetch what is at an address and return its text, and the address it came from at last.

    Raises:
        PageError: it cannot be had; the message says why and what to do.
    """
    fetched = fetch(address)
    return decode(fetched.data, fetched.charset), fetched.address


def document_from_text(markup: str, address: str = STANDARD_INPUT, width: int = DEFAULT_WIDTH) -> StyledDocument:
    """Return the document of markup that is already text; style sheets and frames are found beside `address`."""
    with no_collection():
        parsed = parse(markup, address, width)
        return StyledDocument(parsed.document, styled(parsed))


def styled(parsed: Parsed, around: tuple[str, ...] = ()) -> Cascade:
    """Put the documents of frames into a document, and return the styles of all of it.

    Args:
        parsed: what was parsed.
        around: the addresses of the documents it stands in, as a frame.
    """
    cascade = Cascade(parsed)
    fill_frames(parsed.document, _frames_of(parsed.parts), cascade, around)
    return cascade


def fill_frames(document: Document, frames: list[Element], cascade: Cascade, around: tuple[str, ...] = ()) -> None:
    """Put the documents of some iframe elements into them, and their styles into the document's.

    Args:
        document: the document the frames stand in.
        frames: iframe elements of it.
        cascade: the document's styles.
        around: the addresses of the documents that this one stands in, as a frame.
    """
    if not frames or len(around) >= MAX_DEPTH:
        return
    opened = (*around, resolve(document.address, ""))

    def open_page(markup: str, address: str, width: int) -> Document:
        parsed = parse(markup, address, width)
        cascade.include(styled(parsed, opened))
        return parsed.document

    open_frames(document, frames, opened, open_page)


def _frames_of(parts: list[Subtree]) -> list[Element]:
    return [element for part in parts for element in part.elements() if element.tag == "iframe"]
