"""What is attached to a defect: pictures, drawings, texts. A file is what its content says, whatever its name is."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

from murvel.patterns import pattern

AS_FOUND = "as it was found"
"""What the picture that is taken with a new defect shows."""


class AttachmentKind(StrEnum):
    """What an attachment is; the value is the suffix of its file."""

    PNG = "png"
    JPEG = "jpg"
    SVG = "svg"
    TEXT = "txt"

    @property
    def media_type(self) -> str:
        """Its media type (RFC 2046)."""
        return _MEDIA_TYPES[self]

    @property
    def is_picture(self) -> bool:
        """Whether it is looked at, and not read."""
        return self is not AttachmentKind.TEXT


_MEDIA_TYPES = {
    AttachmentKind.PNG: "image/png",
    AttachmentKind.JPEG: "image/jpeg",
    AttachmentKind.SVG: "image/svg+xml",
    AttachmentKind.TEXT: "text/plain; charset=utf-8",
}


@dataclass(frozen=True, slots=True)
class Attachment:
    """A picture, a drawing or a text that belongs to a defect.

    Attributes:
        id: the casebook's number of it.
        defect: the number of the defect.
        added: when it was attached (ISO 8601).
        kind: what it is.
        words: what it shows, as "as it was found".
        data: what is in its file.
    """

    id: int
    defect: int
    added: str
    kind: AttachmentKind
    words: str
    data: bytes

    @property
    def name(self) -> str:
        """The name of its file: nothing of the page is in it."""
        return f"defect-{self.defect}-attachment-{self.id}.{self.kind}"


_PNG = b"\x89PNG\r\n\x1a\n"
"""How a PNG begins (PNG Specification 3 §5.2)."""

_JPEG = b"\xff\xd8\xff"
"""How a JPEG begins (ITU-T T.81, annex B)."""

_SVG = pattern(r"\s*(?:<\?xml[^>]*\?>\s*)?(?:<!--.*?-->\s*|<!DOCTYPE[^>\[]*>\s*)*<svg[\s>/]", re.DOTALL)
"""How an SVG begins; one that declares entities is read as a text."""

MAX_ATTACHMENT_BYTES = 1024 * 1024
"""The largest file that is attached."""

MAX_PIXELS = 40_000_000
"""The largest picture: one of few bytes may ask whoever opens a report for very much memory."""

_CONTROL = pattern(r"[\x00-\x08\x0e-\x1f\x7f]")


def kind_of(data: bytes) -> AttachmentKind | None:
    """Return what a file is by its content, None if it is nothing that can be attached."""
    if data.startswith(_PNG):
        return AttachmentKind.PNG
    if data.startswith(_JPEG):
        return AttachmentKind.JPEG
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return None
    if not text.strip() or _CONTROL.search(text):
        return None
    return AttachmentKind.SVG if _SVG.match(text) else AttachmentKind.TEXT


def why_not_kept(data: bytes) -> str:
    """Return why a file is not attached, as a clause; empty if it is.

    Args:
        data: its content, one byte more than `MAX_ATTACHMENT_BYTES` at most.
    """
    if len(data) > MAX_ATTACHMENT_BYTES:
        return f"it is larger than {MAX_ATTACHMENT_BYTES // 2**20} MB"
    kind = kind_of(data)
    if kind is None:
        return "it is no PNG, JPEG, SVG or UTF-8 text"
    width, height = _size_of(data, kind)
    if width * height > MAX_PIXELS:
        return f"it is a picture of {width:,} by {height:,} pixels, more than {MAX_PIXELS // 1_000_000} million"
    return ""


def _size_of(data: bytes, kind: AttachmentKind) -> tuple[int, int]:
    """The width and height of a picture in pixels; 0 where it does not say."""
    if kind is AttachmentKind.PNG and len(data) >= 24:  # PNG Specification 3 §11.2.1: IHDR comes first
        return int.from_bytes(data[16:20], "big"), int.from_bytes(data[20:24], "big")
    if kind is AttachmentKind.JPEG:
        place = 2
        while place + 9 <= len(data) and data[place] == 0xFF:  # ITU-T T.81 §B.1: markers and their lengths
            marker, length = data[place + 1], int.from_bytes(data[place + 2 : place + 4], "big")
            if 0xC0 <= marker <= 0xCF and marker not in (0xC4, 0xC8, 0xCC):
                height, width = (int.from_bytes(data[place + at : place + at + 2], "big") for at in (5, 7))
                return width, height
            place += 2 + length
    return 0, 0
