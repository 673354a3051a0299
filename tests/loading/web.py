"""A small web server for tests: answers by path, and what it was asked."""

from __future__ import annotations

import gzip
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

Answer = tuple[int, dict[str, str], bytes]


def html(markup: str) -> Answer:
    """A page."""
    return 200, {"Content-Type": "text/html"}, markup.encode()


def css(text: str) -> Answer:
    """A style sheet."""
    return 200, {"Content-Type": "text/css"}, text.encode()


def moved(to: str) -> Answer:
    """A redirect."""
    return 302, {"Location": to}, b""


def packed(markup: bytes) -> Answer:
    """A page that comes compressed."""
    return 200, {"Content-Type": "text/html", "Content-Encoding": "gzip"}, gzip.compress(markup)


class Site:
    """What a server answers.

    Attributes:
        address: where it is, without a slash at the end.
        answers: by path.
        asked: the paths that were asked for, with the headers of each request.
    """

    def __init__(self) -> None:
        self.address = ""
        self.answers: dict[str, Answer] = {}
        self.asked: list[tuple[str, dict[str, str]]] = []

    @property
    def paths(self) -> list[str]:
        """The paths that were asked for."""
        return [path for path, _ in self.asked]


@contextmanager
def serving() -> Iterator[Site]:
    """Serve on the loopback address for as long as the block runs; /slow sends a byte of its headers at a time."""
    site = Site()

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            site.asked.append((self.path, dict(self.headers)))
            if self.path == "/slow":
                self._drip()
                return
            status, headers, body = site.answers.get(self.path, (404, {}, b"<p>nothing here"))
            self.send_response(status)
            for name, value in headers.items():
                self.send_header(name, value)
            self.end_headers()
            self.wfile.write(body)

        do_POST = do_GET

        def _drip(self) -> None:
            try:
                for byte in b"HTTP/1.1 200 OK\r\nX: " + b"x" * 1000:
                    self.wfile.write(bytes([byte]))
                    self.wfile.flush()
                    time.sleep(0.02)
            except OSError:
                return

        do_POST = do_GET

        def log_message(self, *args: Any) -> None:
            """Say nothing."""

    server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
    server.daemon_threads = True
    threading.Thread(target=server.serve_forever, args=(0.02,), daemon=True).start()
    site.address = f"http://127.0.0.1:{server.server_address[1]}"
    try:
        yield site
    finally:
        server.shutdown()
        server.server_close()
