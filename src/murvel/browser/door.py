"""The one way from a page in a browser to a network: a proxy of ours on the loopback address.

The browser knows no other way: it resolves no name itself, and sends all that a page asks for here, encrypted or not.
The door does not see what is asked, only which machine. It judges that by the same `Reach` as the gate, and connects
to the very address that was judged. So what the gate does not get to see is held to the same rule.

HTTP/1.1 is read and written by h11. Plain requests are passed on one by one (RFC 9112 §3.2.2); everything else comes as
CONNECT (RFC 9110 §9.3.6), and bytes are passed on both ways.
"""

from __future__ import annotations

import asyncio
import base64
from collections.abc import Callable
from contextlib import suppress
from urllib.parse import unquote, urlsplit

import h11

from murvel.loading.network import proxy_for
from murvel.loading.reach import ForbiddenError, Reach, UnknownHostError

Told = Callable[[str, str], None]
"""Called with an address that was refused, and a clause that says why."""

OFFLINE = "nothing is fetched beside the page (--offline)"

_HOST = "127.0.0.1"
_CHUNK = 64 * 1024
_CONNECT_SECONDS = 10.0
_HEAD_SECONDS = 60.0
_HOP_BY_HOP = frozenset({b"connection", b"proxy-connection", b"keep-alive", b"te", b"upgrade", b"proxy-authorization"})
"""Headers that are for the proxy alone (RFC 9110 §7.6.1)."""

_ports: set[int] = set()
"""The ports of all doors that are open: none of them leads to another."""


class _RefusedError(Exception):
    """A request that is not passed on; the message is a clause."""


class Door:
    """A proxy for one page.

    Args:
        reach: which machines the page reaches; None if it reaches none at all.
        told: called with each address that was refused, and the reason.
    """

    def __init__(self, reach: Reach | None, told: Told = lambda _address, _reason: None) -> None:
        self._reach = reach
        self._told = told
        self._server: asyncio.Server | None = None
        self._port = 0
        self._open: set[asyncio.StreamWriter] = set()
        self.failure = ""
        """Why the last machine that was asked for did not answer, in words; empty if all did."""

    @property
    def address(self) -> str:
        """Its address, as a browser takes that of a proxy."""
        return f"http://{_HOST}:{self._port}"

    async def open(self) -> None:
        """Begin to answer, at a port that is free."""
        self._server = await asyncio.start_server(self._answer, _HOST, 0)
        self._port = self._server.sockets[0].getsockname()[1]
        _ports.add(self._port)

    async def close(self) -> None:
        """Answer no more, and cut what is still connected."""
        if self._server is not None:
            self._server.close()
            _ports.discard(self._port)
        for each in list(self._open):
            each.close()

    async def _answer(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        self._open.add(writer)
        connection = h11.Connection(h11.SERVER)
        with suppress(OSError, h11.RemoteProtocolError, h11.LocalProtocolError, TimeoutError, asyncio.CancelledError):
            async with asyncio.timeout(_HEAD_SECONDS):
                asked = await _next_event(connection, reader)
            if isinstance(asked, h11.Request):
                try:
                    if asked.method == b"CONNECT":
                        await self._tunnel(asked, connection, reader, writer)
                    else:
                        await self._pass_on(asked, connection, reader, writer)
                except (OSError, _RefusedError) as error:
                    if isinstance(error, OSError):
                        self.failure = error.strerror or str(error)
                    if asked.method == b"CONNECT":  # else an answer of ours would be taken for the page
                        await _say(writer, connection, 403)
        self._open.discard(writer)
        with suppress(OSError):
            writer.close()

    async def _tunnel(
        self, asked: h11.Request, connection: h11.Connection, reader: asyncio.StreamReader, writer: asyncio.StreamWriter
    ) -> None:
        """Connect a browser with a machine, and pass bytes on both ways."""
        host, port = _authority(asked.target)
        there_reader, there_writer = await self._connected("https", host, port)
        try:
            writer.write(connection.send(h11.Response(status_code=200, headers=[], reason=b"Connected")) or b"")
            early, _ = connection.trailing_data
            there_writer.write(early)
            await asyncio.gather(_pump(reader, there_writer), _pump(there_reader, writer))
        finally:
            there_writer.close()
            self._open.discard(there_writer)

    async def _pass_on(
        self, asked: h11.Request, connection: h11.Connection, reader: asyncio.StreamReader, writer: asyncio.StreamWriter
    ) -> None:
        """Send one plain request to its machine, and its answer back; both connections end with that."""
        parts = urlsplit(asked.target.decode("latin-1"))
        if parts.scheme != "http" or not parts.hostname:
            raise _RefusedError("it is no address of the web")  # a request to the door as if it were a server
        proxy = proxy_for("http", parts.hostname)
        there_reader, there_writer = await self._connected("http", parts.hostname, parts.port or 80)
        there = h11.Connection(h11.CLIENT)
        try:
            path = (parts.path or "/") + (f"?{parts.query}" if parts.query else "")
            headers = [(name, value) for name, value in asked.headers if name not in _HOP_BY_HOP]
            headers += [(b"connection", b"close"), *(_proxy_headers(proxy) if proxy else [])]
            target = asked.target if proxy else path.encode("latin-1")
            there_writer.write(there.send(h11.Request(method=asked.method, target=target, headers=headers)) or b"")
            await asyncio.gather(
                _pass_events(connection, reader, there, there_writer),
                _pass_events(there, there_reader, connection, writer),
            )
        finally:
            there_writer.close()
            self._open.discard(there_writer)

    async def _connected(self, scheme: str, host: str, port: int) -> tuple[asyncio.StreamReader, asyncio.StreamWriter]:
        """Connect to a machine that the page may reach, by the address that was judged.

        Raises:
            _RefusedError: the page may not reach it.
            OSError: it does not answer.
        """
        shown = f"{scheme}://{host}:{port}"
        try:
            addresses = await self._judged(host, port)
        except ForbiddenError as error:
            self._told(shown, str(error))
            raise _RefusedError(str(error)) from error
        proxy = proxy_for(scheme, host)
        if proxy is None and not addresses:
            raise UnknownHostError(f"its host {host} is not known")
        last: OSError | None = None
        for address in addresses if proxy is None else [""]:
            try:
                async with asyncio.timeout(_CONNECT_SECONDS):
                    if proxy is None:
                        streams = await asyncio.open_connection(address, port)
                    else:
                        streams = await _through(proxy, scheme, host, port)
            except (OSError, TimeoutError) as error:
                last = error if isinstance(error, OSError) else OSError("no answer")
            else:
                self._open.add(streams[1])
                return streams
        raise last or OSError("no address")

    async def _judged(self, host: str, port: int) -> list[str]:
        """Return the addresses of a host that may be reached; none where only a proxy may know it."""
        if self._reach is None:
            raise ForbiddenError(OFFLINE)
        try:
            addresses = await self._reach.judged(host, port)
        except UnknownHostError:
            return []
        if port in _ports:
            raise ForbiddenError("it leads to a door of Murvel's own")
        if self._reach.zone is None:
            raise ForbiddenError("the page itself has not been asked for")
        return addresses


async def _through(proxy: str, scheme: str, host: str, port: int) -> tuple[asyncio.StreamReader, asyncio.StreamWriter]:
    """Connect through the proxy of a person's environment."""
    parts = urlsplit(proxy)
    reader, writer = await asyncio.open_connection(
        parts.hostname, parts.port or 80, ssl=parts.scheme == "https" or None
    )
    if scheme == "http":
        return reader, writer
    connection = h11.Connection(h11.CLIENT)
    target = f"[{host}]:{port}" if ":" in host else f"{host}:{port}"
    headers = [(b"host", target.encode("ascii")), *_proxy_headers(proxy)]
    writer.write(connection.send(h11.Request(method=b"CONNECT", target=target.encode("ascii"), headers=headers)) or b"")
    answer = await _next_event(connection, reader)
    if not isinstance(answer, h11.Response) or answer.status_code >= 300:
        writer.close()
        raise OSError("the proxy refused")
    return reader, writer


def _proxy_headers(proxy: str) -> list[tuple[bytes, bytes]]:
    parts = urlsplit(proxy)
    if parts.username is None:
        return []
    both = f"{unquote(parts.username)}:{unquote(parts.password or '')}".encode()
    return [(b"proxy-authorization", b"Basic " + base64.b64encode(both))]


def _authority(target: bytes) -> tuple[str, int]:
    """Return the host and port of a CONNECT request (RFC 9112 §3.2.3)."""
    try:
        parts = urlsplit(f"//{target.decode('ascii')}")
        host, port = parts.hostname, parts.port
    except ValueError as error:
        raise _RefusedError("it is no address") from error
    if not host or not port:
        raise _RefusedError("it is no address")
    return host, port


async def _next_event(connection: h11.Connection, reader: asyncio.StreamReader) -> object:
    while (event := connection.next_event()) is h11.NEED_DATA:
        connection.receive_data(await reader.read(_CHUNK))
    return event


async def _pass_events(
    source: h11.Connection, reader: asyncio.StreamReader, target: h11.Connection, writer: asyncio.StreamWriter
) -> None:
    """Pass one message on, from its first event that was not taken yet to its end."""
    while True:
        event = await _next_event(source, reader)
        if isinstance(event, h11.InformationalResponse):
            continue
        if isinstance(event, h11.Response):
            headers = [(name, value) for name, value in event.headers if name not in _HOP_BY_HOP]
            event = h11.Response(
                status_code=event.status_code, headers=[*headers, (b"connection", b"close")], reason=event.reason
            )
        if not isinstance(event, h11.Response | h11.Data | h11.EndOfMessage):
            return
        writer.write(target.send(event) or b"")
        await writer.drain()
        if isinstance(event, h11.EndOfMessage):
            return


async def _pump(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
    """Pass bytes on until there are no more."""
    try:
        while data := await reader.read(_CHUNK):
            writer.write(data)
            await writer.drain()
        if writer.can_write_eof():
            writer.write_eof()
    except OSError:
        writer.close()


async def _say(writer: asyncio.StreamWriter, connection: h11.Connection, status: int) -> None:
    if connection.our_state is not h11.SEND_RESPONSE:
        return
    headers = [(b"content-length", b"0"), (b"connection", b"close")]
    answer = h11.Response(status_code=status, headers=headers)
    writer.write((connection.send(answer) or b"") + (connection.send(h11.EndOfMessage()) or b""))
    with suppress(OSError):
        await writer.drain()
