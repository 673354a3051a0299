"""What belongs to a page beside its own markup: style sheets and the documents of frames.

What may be read follows from where the page itself came from, never from what the page says (`<base>`, a frame in a
frame). So a page and all documents in its frames share one `Resources`, and each document asks it.
"""

from __future__ import annotations

import base64
import binascii
from collections.abc import Iterable
from pathlib import Path
from typing import NamedTuple
from urllib.parse import unquote_to_bytes

from murvel.loading.addresses import resolve, scheme_of
from murvel.loading.encoding import decode
from murvel.text import HTML_SPACE

MAX_FILES = 300
"""How many style sheets and frames are read for one page, over all its frames."""

MAX_SELECTOR_STEPS = 200_000_000
"""How many steps selectors that count or search may take for one page, over all its frames: a second or so."""

MAX_FRAMES = 200
"""How many documents stand in the frames of one page, over all its frames, those of srcdoc too."""

MAX_TOTAL = 48 * 1024 * 1024
"""How many bytes they may have together."""

SHEET_ENDINGS = (".css",)
FRAME_ENDINGS = (".html", ".htm", ".xhtml", ".svg")


class Resource(NamedTuple):
    """What was read.

    Attributes:
        text: its content.
        address: where it came from at last.
    """

    text: str
    address: str


class NotReadError(Exception):
    """Something that was not read; the message is a clause that says why."""


class Resources:
    """What belongs to a page that has no place, such as standard input: nothing is read.

    Attributes:
        texts: what was read, by address, as text.
        excerpts: the folder in which excerpts of style sheets are kept between runs; None if they are not.
    """

    why_not = "the page came from standard input; name the folder it belongs to with --root"

    def __init__(self) -> None:
        self.texts: dict[str, str] = {}
        self.excerpts: Path | None = None
        self._asked = 0
        self._frames = 0
        self._selector_steps = 0
        self._bytes = 0

    def note(self) -> str:
        """Return what a person should know of where files are read for a page; empty if there is nothing to say."""
        return ""

    def resolve(self, base: str, reference: str) -> str:
        """Return the absolute address of what the page, or something read for it, refers to."""
        return resolve(base, reference)

    def prepare(self, sheets: Iterable[str], frames: Iterable[str]) -> None:
        """Prepare addresses that will be asked for soon: they are fetched together."""

    def is_missing(self, address: str) -> bool:
        """Whether it is known, without asking a server, that there is nothing at an address."""
        return False

    def sheet(self, address: str) -> Resource:
        """Return a style sheet.

        Raises:
            NotReadError: it may not be read, or cannot be.
        """
        self._count()
        if scheme_of(address) == "data":
            return self._take(_from_data(address, "text/css"), None, address)
        return self._sheet(address)

    def frame(self, address: str) -> Resource:
        """Return the document of a frame.

        Raises:
            NotReadError: it may not be read, or cannot be.
        """
        self._count()
        return self._frame(address)

    def count_frame(self) -> bool:
        """Count a document in a frame; whether there may be one more."""
        self._frames += 1
        return self._frames <= MAX_FRAMES

    def may_search(self, steps: float) -> bool:
        """Count the steps that a selector takes; whether it may take them."""
        if self._selector_steps + steps > MAX_SELECTOR_STEPS:
            return False
        self._selector_steps += int(steps)
        return True

    def _sheet(self, address: str) -> Resource:
        raise NotReadError(self.why_not)

    def _frame(self, address: str) -> Resource:
        raise NotReadError(self.why_not)

    def _count(self) -> None:
        self._asked += 1
        if self._asked > MAX_FILES:
            raise NotReadError(f"no more than {MAX_FILES} style sheets and frames are read for a page")

    def _take(self, data: bytes, charset: str | None, address: str) -> Resource:
        """Keep and return what was read."""
        if address not in self.texts:
            self._bytes += len(data)
            if self._bytes > MAX_TOTAL:
                raise NotReadError(f"no more than {MAX_TOTAL // 2**20} MB are read beside a page")
            self.texts[address] = decode(data, charset)
        return Resource(self.texts[address], address)


def _from_data(address: str, kind: str) -> bytes:
    """Return the content of a data: URL (RFC 2397)."""
    head, comma, body = address.partition(",")
    parts = [part.strip().lower() for part in head[5:].split(";")]
    if not comma or parts[0] != kind:
        raise NotReadError(f"it is a data: address, but not of {kind}")
    data = unquote_to_bytes(body.partition("#")[0])
    try:
        if parts[-1] != "base64":
            return data
        packed = data.translate(None, HTML_SPACE.encode())
        return base64.b64decode(packed + b"=" * (-len(packed) % 4), validate=True)
    except binascii.Error as error:
        raise NotReadError("its base64 is broken") from error
