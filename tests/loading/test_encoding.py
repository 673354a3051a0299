"""Which encoding a page is in."""

import pytest

from murvel.loading.encoding import decode

UMLAUT = "Grüße"


@pytest.mark.parametrize(
    ("data", "stated", "text"),
    [
        (b"\xef\xbb\xbf" + UMLAUT.encode(), "iso-8859-1", UMLAUT),
        (b"\xff\xfe" + UMLAUT.encode("utf-16-le"), None, UMLAUT),
        (b"\xfe\xff" + UMLAUT.encode("utf-16-be"), "utf-8", UMLAUT),
        (UMLAUT.encode("latin-1"), "iso-8859-1", UMLAUT),
        (UMLAUT.encode(), None, UMLAUT),
        (UMLAUT.encode("cp1252"), None, UMLAUT),
        (UMLAUT.encode(), "no-such-charset", UMLAUT),
        ("日本".encode("shift_jis"), "Shift_JIS", "日本"),
        (b"\x80", None, "€"),
        (b"a\xffb", "utf-8", "a�b"),
        (b"", None, ""),
    ],
)
def test_decode(data: bytes, stated: str | None, text: str) -> None:
    assert decode(data, stated) == text


@pytest.mark.parametrize(
    ("meta", "encoding", "found"),
    [
        ('<meta charset="windows-1251">', "cp1251", True),
        ("<META CHARSET=koi8-r>", "koi8-r", True),
        ('<meta http-equiv="Content-Type" content="text/html; charset=koi8-r">', "koi8-r", True),
        ("<!-- <meta charset=koi8-r> --><meta charset=utf-8>", "utf-8", True),
        ("<meta charset=utf-16>", "utf-8", True),
        (" " * 1100 + "<meta charset=koi8-r>", "koi8-r", False),
    ],
)
def test_meta(meta: str, encoding: str, found: bool) -> None:
    word = "Жук"
    data = f"{meta}<p>{word}".encode(encoding)
    assert (word in decode(data)) is found
