"""Opening a page: the one way from an address, or from bytes, to a document and its styles."""

from __future__ import annotations

from murvel.css.cascade.cascade import Cascade
from murvel.css.parsed import Parsed
from murvel.css.selectors.engine import Subtree
from murvel.dom.document import Document, Element
from murvel.dom.memory import no_collection
from murvel.loading.addresses import STANDARD_INPUT
from murvel.loading.fetch import PageSource, fetch
from murvel.loading.problems import ProblemKind
from murvel.loading.setup import DEFAULT_SETUP, DEFAULT_WIDTH, Setup
from murvel.page.captured.capture import is_capture, read_capture
from murvel.page.frames import MAX_DEPTH, frame_address, open_frames
from murvel.page.parse import parse
from murvel.page.scripted import made_by_scripts
from murvel.page.styled_document import StyledDocument


def open_document(address: str, setup: Setup = DEFAULT_SETUP) -> StyledDocument:
    """Fetch a page and return its document with computed styles.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        setup: how it is opened.

    Raises:
        PageError: the page cannot be loaded; the message says why and what to do.
    """
    return document_of(fetch(address, setup), setup.width)


def document_from_text(markup: str, address: str = STANDARD_INPUT, width: int = DEFAULT_WIDTH) -> StyledDocument:
    """Return the document of markup that is already text; nothing is read beside it."""
    return document_of(PageSource(markup, address), width)


def document_of(source: PageSource, width: int = DEFAULT_WIDTH) -> StyledDocument:
    """Return the document of a page that arrived, with computed styles.

    Raises:
        PageError: it is a capture that is damaged.
    """
    if is_capture(source.text):
        from murvel.page.captured.document import CapturedDocument  # few pages are captures

        return CapturedDocument(read_capture(source.text, source.address)).styled
    with no_collection():
        parsed = parse(source, width)
        note = source.resources.note()
        if note:
            parsed.document.problems.add(ProblemKind.NOTE, note)
        return StyledDocument(parsed.document, styled_page(parsed))


def styled_page(parsed: Parsed) -> Cascade:
    """Do what `styled` does for a whole page, and note whether scripts make it."""
    cascade = styled(parsed)
    reason = made_by_scripts(parsed.document)
    if reason is not None:
        text = (
            f"The page is made by scripts, which do not run here: {reason}. What is judged is the page before its "
            "scripts; save it from a browser after it has loaded, and open that."
        )
        parsed.document.problems.add(ProblemKind.SCRIPTS, text)
    return cascade


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
    document.resources.prepare((), filter(None, (frame_address(document, each) for each in frames)))
    opened = (*around, document.resources.resolve(document.address, ""))

    def open_page(source: PageSource, width: int) -> Document:
        parsed = parse(source, width)
        cascade.include(styled(parsed, opened))
        return parsed.document

    open_frames(document, frames, opened, open_page)


def _frames_of(parts: list[Subtree]) -> list[Element]:
    return [element for part in parts for element in part.elements() if element.tag == "iframe"]
