"""What is a page, and what is something else that came in its place."""

from __future__ import annotations

import re

from murvel.patterns import pattern

HTML_TYPES = frozenset(
    {"text/html", "application/xhtml+xml", "image/svg+xml", "text/plain", "application/xml", "text/xml"}
)
TREE_TYPES = frozenset({"application/json"})
"""Media types of pages, and of trees as JSON."""

_BEGINNINGS: tuple[tuple[bytes, str], ...] = (
    (b"%PDF-", "a PDF"),
    (b"\x89PNG", "an image"),
    (b"GIF8", "an image"),
    (b"\xff\xd8\xff", "an image"),
    (b"RIFF", "an image or a sound"),
    (b"BM", "an image"),
    (b"II*\0", "an image"),
    (b"MM\0*", "an image"),
    (b"PK\x03\x04", "an archive or an office document"),
    (b"\x1f\x8b", "a compressed file"),
    (b"7z\xbc\xaf", "an archive"),
    (b"\xd0\xcf\x11\xe0", "an office document"),
    (b"wOFF", "a font"),
    (b"wOF2", "a font"),
    (b"\x7fELF", "a program"),
    (b"SQLite format 3\0", "a database"),
)
"""What files of other kinds begin with."""

_ENDINGS = {
    ".css": "a style sheet",
    ".js": "a script",
    ".mjs": "a script",
    ".ts": "a script",
    ".py": "a script",
    ".csv": "a table",
    ".md": "Markdown",
    ".yaml": "settings",
    ".yml": "settings",
    ".toml": "settings",
}
"""Endings of text files that are no pages."""

_BEFORE_ROOT = pattern(r"<\?[^>]*>|<!--.*?-->|<!DOCTYPE\b[^>]*>", re.IGNORECASE | re.DOTALL)
_XML_ROOT = pattern(r"\s*<([a-z][\w.:-]*)", re.IGNORECASE)
_LOOKED_AT = 4096


_TREE = pattern(r'\s*\{\s*(?:"|\}\s*\Z)')


def is_tree(text: str) -> bool:
    """Whether a text is a tree as JSON rather than markup; a template may begin with a brace as well."""
    return _TREE.match(text) is not None


def kind_of_bytes(data: bytes) -> str | None:
    """Return what bytes are, where they are certainly no page; None if they may be one."""
    for beginning, kind in _BEGINNINGS:
        if data.startswith(beginning) and (len(beginning) > 2 or 0 in data[:64]):
            return kind
    head = data[:1024]
    is_utf_16 = head.startswith((b"\xfe\xff", b"\xff\xfe"))
    return "binary data" if head.count(0) > 3 and not is_utf_16 else None


def kind_of_text(text: str, name: str) -> str | None:
    """Return what a text is, where it is certainly no page: other XML than a page, or a file of another kind.

    Args:
        text: its beginning suffices.
        name: the path it came from; its ending counts.
    """
    head = text[:_LOOKED_AT].lstrip("\ufeff")
    if head.lstrip().lower().startswith("<?xml"):
        root = _XML_ROOT.match(_BEFORE_ROOT.sub("", head))
        tag = root.group(1).lower() if root is not None else ""
        if tag.rpartition(":")[2] not in ("html", "svg"):
            return f"XML with the root element {tag}" if tag else "XML without an element"
    if head.lstrip().startswith(("<urlset", "<sitemapindex", "<rss", "<feed")):
        return "a list of addresses, as a sitemap or a feed"
    ending = next((ending for ending in _ENDINGS if name.lower().endswith(ending)), None)
    return _ENDINGS[ending] if ending is not None and not head.lstrip().startswith("<") else None
