"""What requests are sent over, what goes with them, and the guard that holds each to what its page may reach."""

from __future__ import annotations

import ipaddress
import warnings
from contextlib import suppress
from http.cookiejar import CookieJar, LoadError, MozillaCookieJar
from netrc import NetrcParseError, netrc
from urllib.request import Request as StandardRequest
from urllib.request import getproxies, proxy_bypass

import httpx

from murvel.loading.addresses import Credentials, origin_of, shown
from murvel.loading.errors import PageError
from murvel.loading.reach import Reach, UnknownHostError, nearest
from murvel.loading.setup import Setup

_CONNECT_SECONDS = 5.0


class Connections:
    """What all requests of one run share: connections, and what is sent to the page's own origin.

    Args:
        setup: headers, cookies and credentials.
        origin: the origin that they are meant for.
    """

    def __init__(self, setup: Setup, origin: str) -> None:
        self._setup = setup
        self._origin = origin
        self._jar = cookies_of(setup)
        self._verify = httpx.create_ssl_context()
        self._direct = httpx.AsyncHTTPTransport(verify=self._verify)
        self._proxies: dict[str, httpx.AsyncHTTPTransport] = {}

    def through(self, proxy: str | None) -> httpx.AsyncHTTPTransport:
        """Return the transport that goes through a proxy, or directly."""
        if proxy is None:
            return self._direct
        if proxy not in self._proxies:
            self._proxies[proxy] = httpx.AsyncHTTPTransport(verify=self._verify, proxy=proxy)
        return self._proxies[proxy]

    def headers_of(self, request: httpx.Request) -> httpx.Headers:
        """Return the headers of a request with the person's cookies; their headers too where it goes to their origin.

        The request itself stays as it is: what it is redirected to takes its headers over.
        """
        address, headers = str(request.url), request.headers.copy()
        if self._jar is not None:
            asked = StandardRequest(address)
            self._jar.add_cookie_header(asked)
            if asked.has_header("Cookie"):
                headers["Cookie"] = asked.get_header("Cookie") or ""
        if origin_of(address) != self._origin and _upgraded(self._origin) != origin_of(address):
            return headers
        for name, value in self._setup.headers:
            headers[name] = value
        given = self._setup.credentials.get(self._origin) or _from_netrc(request.url.host)
        if given is not None and given.password is not None and "authorization" not in headers:
            basic = httpx.BasicAuth(given.user, given.password)
            headers["Authorization"] = next(basic.auth_flow(httpx.Request("GET", address))).headers["Authorization"]
        return headers

    async def aclose(self) -> None:
        """Close all connections."""
        for transport in (self._direct, *self._proxies.values()):
            await transport.aclose()


class Guard(httpx.AsyncBaseTransport):
    """Sends a request and those it is redirected to, and only where a page may reach.

    It connects to the IP address that it has checked, so that a name cannot mean another machine a moment later.

    Args:
        connections: what it sends them over.
        reach: which machines it may reach; by default those of the page that it fetches itself.
    """

    def __init__(self, connections: Connections, reach: Reach | None = None) -> None:
        self.reach = reach if reach is not None else Reach()
        self._connections = connections

    async def handle_async_request(self, request: httpx.Request) -> httpx.Response:
        """Check where a request goes, and send it. What comes after a machine far away reaches no nearer than that."""
        if request.url.scheme not in ("http", "https"):
            raise httpx.UnsupportedProtocol(f"{request.url.scheme} is not fetched")
        host, port = request.url.host, request.url.port or {"http": 80, "https": 443}[request.url.scheme]
        proxy = proxy_for(request.url.scheme, host)
        if proxy is not None:
            with suppress(UnknownHostError):  # the proxy may know it
                self.reach.narrow(nearest(await self.reach.judged(host, port)))
            headers = self._connections.headers_of(request)
            own = httpx.Request(
                request.method, request.url, headers=headers, stream=request.stream, extensions=request.extensions
            )
            return await self._connections.through(proxy).handle_async_request(own)
        try:
            addresses = await self.reach.judged(host, port)
        except UnknownHostError as error:
            raise httpx.ConnectError(str(error)) from error
        self.reach.narrow(nearest(addresses))
        return await self._send(request, host, addresses)

    async def _send(self, request: httpx.Request, host: str, addresses: list[str]) -> httpx.Response:
        timeout = {**request.extensions.get("timeout", {}), "connect": _CONNECT_SECONDS}
        extensions = {**request.extensions, "timeout": timeout}
        if not _is_ip(host):
            extensions["sni_hostname"] = host
        headers = self._connections.headers_of(request)
        for at, address in enumerate(addresses):
            pinned = httpx.Request(
                request.method,
                request.url.copy_with(host=address),
                headers=headers,
                stream=request.stream,
                extensions=extensions,
            )
            try:
                return await self._connections.through(None).handle_async_request(pinned)
            except (httpx.ConnectError, httpx.ConnectTimeout):
                if at == len(addresses) - 1:
                    raise
        raise httpx.ConnectError("its host has no address")


def proxy_for(scheme: str, host: str) -> str | None:
    """Return the address of the proxy that a person's environment names for a host, None if there is none."""
    proxy = getproxies().get(scheme)
    return proxy if proxy and not proxy_bypass(host) else None


def _upgraded(origin: str) -> str:
    """The origin that an http one becomes where its server asks for https."""
    return f"https{origin[4:-3]}:443" if origin.startswith("http:") and origin.endswith(":80") else origin


def _is_ip(host: str) -> bool:
    with suppress(ValueError):
        ipaddress.ip_address(host)
        return True
    return False


def cookies_of(setup: Setup) -> CookieJar | None:
    """Return the cookies that a person gives in a file, None if they give none.

    Raises:
        PageError: the file cannot be used.
    """
    if setup.cookies is None:
        return None
    jar = MozillaCookieJar(str(setup.cookies))
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # the library prints how it came to fail, and then says that it failed
            jar.load(ignore_discard=True, ignore_expires=True)
        for cookie in jar:
            if not int(cookie.expires or 0):
                cookie.expires = None  # other programs write 0 for a cookie of the session
    except (LoadError, OSError, ValueError, OverflowError) as error:
        raise PageError(
            f"The cookies {shown(str(setup.cookies))} cannot be read",
            "give a file in the Netscape format, whose first line is “# Netscape HTTP Cookie File”.",
        ) from error
    return jar


def _from_netrc(host: str) -> Credentials | None:
    with suppress(OSError, NetrcParseError, UnicodeError):
        entry = netrc().authenticators(host)
        if entry is not None:
            return Credentials(entry[0], entry[2])
    return None
