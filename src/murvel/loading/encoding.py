"""Which encoding a page is in, and its text (HTML §13.2.3, Encoding Standard §4.2)."""

import re

import webencodings

from murvel.patterns import pattern

PRESCAN = 1024
"""How many bytes are searched for a meta element (HTML §13.2.3.2)."""

_BYTE_ORDER_MARKS = ((b"\xef\xbb\xbf", "utf-8"), (b"\xfe\xff", "utf-16-be"), (b"\xff\xfe", "utf-16-le"))

_COMMENT = pattern(rb"<!--.*?-->", re.DOTALL)
_META = pattern(rb"<meta[\s/][^>]*>", re.IGNORECASE)
_CHARSET = pattern(rb"""charset\s*=\s*["']?\s*([^\s"'/>;]+)""", re.IGNORECASE)


def decode(data: bytes, stated: str | None = None) -> str:
    """Return the text of a page or style sheet.

    Args:
        data: the bytes as they came.
        stated: the charset of the Content-Type header, where there was one.

    The order is: byte order mark, header, meta element, UTF-8 where the bytes are that, else windows-1252. A byte
    that does not fit becomes U+FFFD.
    """
    for mark, name in _BYTE_ORDER_MARKS:
        if data.startswith(mark):
            return data[len(mark) :].decode(name, "replace")
    encoding = _lookup(stated) or _from_meta(data)
    if encoding is not None:
        text: str = encoding.codec_info.decode(data, "replace")[0]
        return text
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        windows = webencodings.lookup("windows-1252")
        assert windows is not None, "the library knows it"
        return str(windows.codec_info.decode(data, "replace")[0])


def _lookup(label: str | None) -> webencodings.Encoding | None:
    return webencodings.lookup(label) if label else None


def _from_meta(data: bytes) -> webencodings.Encoding | None:
    """Prescan for a meta element; UTF-16 stated there means UTF-8, since the statement itself was readable."""
    head = _COMMENT.sub(b"", data[:PRESCAN])
    for meta in _META.findall(head):
        found = _CHARSET.search(meta)
        if found:
            encoding = _lookup(found.group(1).decode("ascii", "replace"))
            if encoding is not None:
                return webencodings.UTF8 if encoding.name.startswith("utf-16") else encoding
    return None
