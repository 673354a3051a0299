"""What a take was made of: the source, the style sheets and frames that were read for it, and its tree.

Contents are kept compressed, each once, however many takes share it.
"""

from __future__ import annotations

import hashlib
import zlib
from dataclasses import dataclass, field
from enum import StrEnum

MAX_BYTES = 16 * 1024 * 1024
"""The largest take that is kept, compressed, in bytes. Larger takes are skipped, with a warning."""


class PartKind(StrEnum):
    """What a part of a take is."""

    SOURCE = "source"
    RESOURCE = "resource"
    TREE = "tree"
    CAPTURE = "capture"


@dataclass(frozen=True, slots=True)
class TakeContent:
    """What a take was made of.

    Attributes:
        source: the markup of the page, as decoded.
        tree: its tree as JSON (`murvel.tree.exchange.write`).
        resources: the style sheets and frames that were read for it, by their addresses.
        capture: the page as a browser had it, as `murvel open` reads it; empty if none did.
    """

    source: str
    tree: str
    resources: dict[str, str] = field(default_factory=dict)
    capture: str = ""


def digest_of(source: str, resources: dict[str, str]) -> str:
    """Return what tells one state of a page from others: the same for the same source and resources."""
    if not resources:
        return _sha256(source.encode("utf-8", "surrogatepass"))
    parts = [source, *(f"{address}\0{text}" for address, text in sorted(resources.items()))]
    return _sha256("\0\0".join(parts).encode("utf-8", "surrogatepass"))


@dataclass(frozen=True, slots=True)
class Packed:
    """A content ready to be kept: its digest, and it compressed."""

    kind: PartKind
    address: str
    digest: str
    data: bytes


def packed(content: TakeContent) -> list[Packed]:
    """Return the parts of a take, ready to be kept."""
    parts = [(PartKind.SOURCE, "", content.source), (PartKind.TREE, "", content.tree)]
    parts += [(PartKind.CAPTURE, "", content.capture)] if content.capture else []
    parts += [(PartKind.RESOURCE, address, text) for address, text in content.resources.items()]
    return [_packed(kind, address, text) for kind, address, text in parts]


def _packed(kind: PartKind, address: str, text: str) -> Packed:
    plain = text.encode("utf-8", "surrogatepass")
    return Packed(kind, address, _sha256(plain), zlib.compress(plain))


def unpacked(data: bytes) -> str:
    """Return the text of a content that was kept.

    Raises:
        ValueError: it is damaged.
    """
    try:
        return zlib.decompress(data).decode("utf-8", "surrogatepass")
    except zlib.error as error:
        raise ValueError(str(error)) from error


def _sha256(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()
