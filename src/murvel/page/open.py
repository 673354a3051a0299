"""Opening a page: the one way from an address, or from bytes, to a Document."""

from murvel.page.document import Document
from murvel.page.encoding import decode
from murvel.page.memory import no_collection
from murvel.page.parse import parse
from murvel.page.sources import STANDARD_INPUT, fetch
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
    """Return the document of markup that is already text; style sheets are found beside `address`."""
    with no_collection():
        parsed = parse(markup, address, width)
        apply_styles(parsed)
    return parsed.document
