"""Frames: the documents that stand in a page's iframe elements, from srcdoc or a local file (HTML §4.8.5)."""

from __future__ import annotations

from collections.abc import Callable

from murvel.page.document import Document, Element, number
from murvel.page.encoding import decode
from murvel.page.sources import read_beside, resolve

MAX_DEPTH = 5
"""How many frames may stand in each other."""

MAX_FRAMES = 200
"""How many frames of one document are opened."""

DEFAULT_WIDTH = 300
"""The width of a frame in CSS pixels where nothing is said of it (CSS 2 §10.3.2)."""

OpenPage = Callable[[str, str, int], Document]
"""Makes a document of markup, the address it is from, and a viewport's width."""


def open_frames(document: Document, frames: list[Element], opened: tuple[str, ...], open_page: OpenPage) -> None:
    """Put the documents of a document's frames into their elements.

    A frame that shows a page it stands in, or a page that is not a local file, stays empty.

    Args:
        document: the document.
        frames: its iframe elements.
        opened: the addresses of the documents it stands in, its own last.
        open_page: makes a frame's document, with the frames in that.
    """
    found = False
    if len(frames) > MAX_FRAMES:
        document.problems.append(f"Only the first {MAX_FRAMES} frames were opened.")
    for frame in frames[:MAX_FRAMES]:
        inside = _content(document, frame, opened, open_page)
        if inside is not None:
            found = True
            document.add_frame(frame, inside)
    if found:
        number(document.root)


def _content(document: Document, frame: Element, opened: tuple[str, ...], open_page: OpenPage) -> Document | None:
    width = _width(frame, document.width)
    if "srcdoc" in frame.attributes:
        return open_page(frame.attributes["srcdoc"], document.base, width)
    source = frame.attributes.get("src", "").strip()
    if not source or source.startswith("#"):
        return None
    address = resolve(document.base, source)
    plain = address.partition("#")[0]
    if plain in opened or not plain.lower().endswith((".html", ".htm", ".xhtml")):
        return None
    data = read_beside(document.base, source)
    if data is None:
        document.problems.append(f"The frame {source!r} was not read: only files beside the page are.")
        return None
    markup = document.resources[plain] = decode(data)
    return open_page(markup, plain, width)


def _width(frame: Element, around: int) -> int:
    """The width of a frame as far as its attributes tell; one that is styled is taken to be as wide as the page."""
    given = frame.attributes.get("width", "").strip()
    if given.isascii() and given.isdecimal():
        return int(given[:6])
    return around if given.endswith("%") or frame.attributes.keys() & {"style", "class"} else DEFAULT_WIDTH
