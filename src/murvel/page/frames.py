"""Frames: the documents in a page's iframe elements, from srcdoc or from what belongs to the page (HTML §4.8.5)."""

from __future__ import annotations

from collections.abc import Callable

from murvel.dom.document import Document, Element, number
from murvel.loading.addresses import shown
from murvel.loading.fetch import PageSource
from murvel.loading.problems import ProblemKind
from murvel.loading.resources import MAX_FRAMES, NotReadError

MAX_DEPTH = 5
"""How many frames may stand in each other."""

DEFAULT_WIDTH = 300
"""The width of a frame in CSS pixels where nothing is said of it (CSS 2 §10.3.2)."""

OpenPage = Callable[[PageSource, int], Document]
"""Makes a document of a page, and a viewport's width."""


def open_frames(document: Document, frames: list[Element], opened: tuple[str, ...], open_page: OpenPage) -> None:
    """Put the documents of a document's frames into their elements.

    A frame that shows a page it stands in stays empty, and one whose document may not be read.

    Args:
        document: the document.
        frames: its iframe elements.
        opened: the addresses of the documents it stands in, its own last.
        open_page: makes a frame's document, with the frames in that.
    """
    found = False
    for frame in frames:
        if not document.resources.count_frame():
            text = f"Only the first {MAX_FRAMES} frames of the page were opened."
            document.problems.add(ProblemKind.LIMIT, text)
            break
        inside = _content(document, frame, opened, open_page)
        if inside is not None:
            found = True
            document.add_frame(frame, inside)
    if found:
        number(document.root)


def frame_address(document: Document, frame: Element) -> str | None:
    """Return the address of the document that a frame shows; None if it shows none, or one of its own markup."""
    source = frame.attributes.get("src", "").strip()
    if "srcdoc" in frame.attributes or not source or source.startswith("#") or source.lower() == "about:blank":
        return None
    return document.resolve(source).partition("#")[0]


def _content(document: Document, frame: Element, opened: tuple[str, ...], open_page: OpenPage) -> Document | None:
    width = _width(frame, document.width)
    resources = document.resources
    if "srcdoc" in frame.attributes:
        return open_page(PageSource(frame.attributes["srcdoc"], document.base, resources), width)
    address = frame_address(document, frame)
    if address is None or address in opened:
        return None
    try:
        text, final = resources.frame(address)
    except NotReadError as error:
        why = f"The frame {shown(frame.attributes['src'])} was not read: {error}."
        document.problems.add(ProblemKind.NOT_READ, why)
        return None
    return open_page(PageSource(text, final, resources), width) if final not in opened else None


def _width(frame: Element, around: int) -> int:
    """The width of a frame as far as its attributes tell; one that is styled is taken to be as wide as the page."""
    given = frame.attributes.get("width", "").strip()
    if given.isascii() and given.isdecimal():
        return int(given[:6])
    return around if given.endswith("%") or frame.attributes.keys() & {"style", "class"} else DEFAULT_WIDTH
