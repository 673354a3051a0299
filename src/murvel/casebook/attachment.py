"""What is attached to a defect: pictures, drawings, texts. A file is what its content says, whatever its name is."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

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

_SVG = re.compile(r"\s*(?:<\?xml[^>]*\?>\s*)?(?:<!--.*?-->\s*|<!DOCTYPE[^>\[]*>\s*)*<svg[\s>/]", re.DOTALL)
"""How an SVG begins; one that declares entities is read as a text."""

_CONTROL = re.compile(r"[\x00-\x08\x0e-\x1f\x7f]")


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
