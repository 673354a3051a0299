"""Where pages come from, and what is said where they cannot be had."""

import io
import sys
import threading
import types
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

import pytest

from murvel.page import sources
from murvel.page.errors import PageError
from murvel.page.open import open_document
from murvel.page.sources import fetch, read_beside


class Site(BaseHTTPRequestHandler):
    def do_GET(self) -> None:
        status, kind, body = {
            "/page": (200, "text/html; charset=iso-8859-1", "<title>Grüße</title>".encode("latin-1")),
            "/image": (200, "image/png", b"\x89PNG"),
            "/empty": (200, "text/html", b""),
            "/large": (200, "text/html", b"<p>" + b"x" * 2000),
        }.get(self.path, (404, "text/html", b"<p>nothing here"))
        if self.path == "/moved":
            self.send_response(302)
            self.send_header("Location", "/page")
            self.end_headers()
            return
        self.send_response(status)
        self.send_header("Content-Type", kind)
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, *args: object) -> None:
        """Say nothing."""


@pytest.fixture(scope="module")
def site() -> Iterator[str]:
    server = ThreadingHTTPServer(("127.0.0.1", 0), Site)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_address[1]}"
    server.shutdown()


def test_a_page_from_the_web(site: str) -> None:
    document = open_document(f"{site}/moved").document
    assert document.title == "Grüße"
    assert document.address == f"{site}/page"


@pytest.mark.parametrize(
    ("path", "words"),
    [
        ("/image", "is not HTML but image/png"),
        ("/nothing", "answered 404"),
        ("/empty", "is empty"),
    ],
)
def test_answers_that_are_no_page(site: str, path: str, words: str) -> None:
    with pytest.raises(PageError, match=words) as caught:
        fetch(site + path)
    assert_one_sentence(caught.value)


def test_a_page_that_is_too_large(site: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sources, "MAX_BYTES", 1000)
    with pytest.raises(PageError, match="larger than"):
        fetch(f"{site}/large")


@pytest.mark.parametrize("address", ["http://127.0.0.1:1/", "http://[bad/", "http://", "https://nothing.invalid/"])
def test_addresses_that_cannot_be_reached(address: str) -> None:
    with pytest.raises(PageError, match="cannot be reached") as caught:
        fetch(address)
    assert_one_sentence(caught.value)


def test_a_folder_means_its_index(tmp_path: Path) -> None:
    with pytest.raises(PageError, match=r"has no index\.html"):
        fetch(str(tmp_path))
    (tmp_path / "index.htm").write_text("<p>x")
    assert fetch(str(tmp_path)).address == str(tmp_path / "index.htm")


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (None, "There is no file"),
        (b"", "is empty"),
        (b" \n ", "is empty"),
        (b"\x89PNG\x00\x00\x00\x00\x00\x00", "binary data"),
    ],
)
def test_files_that_are_no_page(tmp_path: Path, content: bytes | None, words: str) -> None:
    path = tmp_path / "a\x1b[31m.html"
    if content is not None:
        path.write_bytes(content)
    with pytest.raises(PageError, match=words) as caught:
        fetch(str(path))
    assert_one_sentence(caught.value)


@pytest.mark.parametrize("path", ["/dev/null", "~nobody-such/x", "a\0b"])
def test_odd_paths(path: str) -> None:
    with pytest.raises(PageError) as caught:
        fetch(path)
    assert_one_sentence(caught.value)


def test_standard_input(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sys, "stdin", types.SimpleNamespace(buffer=io.BytesIO(b"<title>piped</title>")))
    assert open_document("-").document.title == "piped"


def test_a_single_null_does_not_make_a_page_binary(tmp_path: Path) -> None:
    (tmp_path / "a.html").write_bytes(b"<p>a\x00b")
    assert fetch(str(tmp_path / "a.html")).data == b"<p>a\x00b"


@pytest.mark.parametrize(
    ("reference", "found"),
    [("s.css", True), ("./s.css?v=1#x", True), ("s%2Ecss", True), ("gone.css", False), ("//host/s.css", False),
     ("https://a.example/s.css", False), (".", False), ("\0", False), ("data:text/css,p{}", False), ("http://[bad", False)],
)  # fmt: skip
def test_what_stands_beside_a_page(tmp_path: Path, reference: str, found: bool) -> None:
    (tmp_path / "s.css").write_text("p{}")
    assert (read_beside(str(tmp_path / "a.html"), reference) is not None) is found
    assert read_beside("http://a.example/", reference) is None


def assert_one_sentence(error: PageError) -> None:
    text = str(error)
    assert text.endswith(".")
    assert "\n" not in text
    assert "\x1b" not in text
