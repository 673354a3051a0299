"""Machines of a made-up network: each logs every connection, and a name server says where they are.

Runs in a network namespace of its own (`unshare --net --mount`), or on loopback addresses that stand for the machines.
"""

from __future__ import annotations

import contextlib
import socket
import socketserver
import struct
import threading
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from urllib.parse import parse_qs, urlsplit

PORT = 8180
"""Where each machine answers HTTP."""

OWN_PORTS = range(9000, 9200)
"""Where each machine logs who connects, for what has no path: a port a row."""

REAL = {"web": "192.88.99.7", "near": "10.9.8.7", "here": "127.0.0.1"}
LOOPBACK = {"web": "127.0.1.1", "near": "127.0.2.1", "here": "127.0.0.1"}


class Network:
    """What came to each machine.

    Attributes:
        places: the IP address of each machine.
        came: the rows that came to each machine by HTTP, and the ports that were reached.
        asked: the names that were asked for.
        pages: what each path on the web answers: headers and markup.
    """

    def __init__(self, places: dict[str, str]) -> None:
        self.places = places
        self.came: dict[str, set[str]] = {name: set() for name in places}
        self.asked: list[str] = []
        self.pages: dict[str, tuple[dict[str, str], str]] = {}
        self._turns: dict[str, int] = {}

    def forget(self) -> None:
        """Begin anew."""
        for each in self.came.values():
            each.clear()
        self.asked.clear()
        self._turns.clear()

    def address_of(self, name: str) -> str | None:
        """The IP address of a name; turn-X.test is the web the first time and X afterwards."""
        first = name.rstrip(".").lower().removesuffix(".test")
        if first.startswith("turn-"):
            turn = self._turns[first] = self._turns.get(first, 0) + 1
            return self.places["web"] if turn == 1 else self.places.get(first.removeprefix("turn-"))
        return self.places.get(first)


@contextlib.contextmanager
def running(places: dict[str, str], *, with_names: bool) -> Iterator[Network]:
    """Start all machines, and end them afterwards."""
    network = Network(places)
    sockets: list[socket.socket] = []
    servers = [_serve(network, name, address) for name, address in places.items()]
    for name, address in places.items():
        for port in OWN_PORTS:
            for kind in (socket.SOCK_STREAM, socket.SOCK_DGRAM):
                sockets.append(_listen(network, name, (address, port), kind))
    threading.Thread(target=_accept, args=(network, sockets), daemon=True).start()
    if with_names:
        threading.Thread(target=_answer_names, args=(network,), daemon=True).start()
    try:
        yield network
    finally:
        for server in servers:
            server.shutdown()
            server.server_close()


def _serve(network: Network, name: str, address: str) -> socketserver.BaseServer:
    class Handler(BaseHTTPRequestHandler):
        def _answer(self) -> None:
            parts = urlsplit(self.path)
            network.came[name].add(parts.path.strip("/").split("/")[0])
            to = parse_qs(parts.query).get("to")
            headers, markup = network.pages.get(parts.path, ({}, ""))
            self.send_response(302 if to else 200)
            for each, value in {"Access-Control-Allow-Origin": "*", "Content-Type": "text/html", **headers}.items():
                self.send_header(each, value)
            if to:
                self.send_header("Location", to[0])
            body = markup.encode()
            self.send_header("Content-Length", str(len(body)))
            self.end_headers()
            if self.command != "HEAD":
                self.wfile.write(body)

        do_GET = do_POST = do_HEAD = do_OPTIONS = do_CONNECT = _answer

        def log_message(self, *args: Any) -> None:
            """Say nothing."""

    server = ThreadingHTTPServer((address, PORT), Handler)
    server.daemon_threads = True
    threading.Thread(target=server.serve_forever, args=(0.02,), daemon=True).start()
    return server


def _listen(network: Network, name: str, place: tuple[str, int], kind: int) -> socket.socket:
    made = socket.socket(socket.AF_INET, kind)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    made.bind(place)
    if kind == socket.SOCK_STREAM:
        made.listen(8)
    return made


def _accept(network: Network, sockets: list[socket.socket]) -> None:
    import selectors

    names = {address: name for name, address in network.places.items()}
    with selectors.DefaultSelector() as selector:
        for each in sockets:
            selector.register(each, selectors.EVENT_READ)
        while True:
            for key, _ in selector.select():
                each = key.fileobj
                assert isinstance(each, socket.socket)
                address, port = each.getsockname()
                network.came[names[address]].add(f"port {port}")
                with contextlib.suppress(OSError):
                    if each.type == socket.SOCK_STREAM:
                        each.accept()[0].close()
                    else:
                        each.recv(2048)


def _answer_names(network: Network) -> None:
    """A name server (RFC 1035): an A record for each machine, nothing else."""
    server = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    server.bind(("127.0.0.53", 53))
    while True:
        data, client = server.recvfrom(512)
        labels, at = [], 12
        while data[at]:
            labels.append(data[at + 1 : at + 1 + data[at]].decode("latin-1"))
            at += 1 + data[at]
        (kind,) = struct.unpack_from("!H", data, at + 1)
        question = data[12 : at + 5]
        name = ".".join(labels)
        address = network.address_of(name) if kind == 1 else None
        network.asked.append(name)
        is_known = name.removesuffix(".test") in network.places or name.startswith("turn-")
        head = data[:2] + struct.pack("!HHHHH", 0x8180 if is_known else 0x8183, 1, 1 if address else 0, 0, 0)
        record = b"\xc0\x0c" + struct.pack("!HHIH", 1, 1, 0, 4) + socket.inet_aton(address) if address else b""
        server.sendto(head + question + record, client)
