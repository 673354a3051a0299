"""Opening a page: the one way from an address, or from bytes, to a Document."""

from murvel.page.document import Document
from murvel.page.encoding import decode
from murvel.page.frames import MAX_DEPTH, open_frames
from murvel.page.memory import no_collection
from murvel.page.parse import Parsed, parse
from murvel.page.sources import STANDARD_INPUT, fetch, resolve
from murvel.page.styles.cascade import apply_styles

DEFAULT_WIDTH = 1280
"""The viewport's width in CSS pixels where nothing else is said."""


def open_document(address: str, width: int = DEFAULT_WIDTH) -> Document:
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


def document_from_text(markup: str, address: str = STANDARD_INPUT, width: int = DEFAULT_WIDTH) -> Document:
    """Return the document of markup that is already text; style sheets and frames are found beside `address`."""
    with no_collection():
        return _document(markup, address, width, ())


def _document(markup: str, address: str, width: int, around: tuple[str, ...]) -> Document:
    """Return a document with its frames; `around` holds the addresses of the documents it stands in."""
    return finished(parse(markup, address, width), around)


def finished(parsed: Parsed, around: tuple[str, ...] = ()) -> Document:
    """Return the document of what was parsed, with its styles and frames.

    Args:
        parsed: what was parsed.
        around: the addresses of the documents it stands in, as a frame.
    """
    document = parsed.document
    apply_styles(parsed)
    frames = [element for part in parsed.parts for element in part.by_memory.values() if element.tag == "iframe"]
    if frames and len(around) < MAX_DEPTH:
        opened = (*around, resolve(document.address, ""))
        open_frames(document, frames, opened, lambda text, source, wide: _document(text, source, wide, opened))
    return document
