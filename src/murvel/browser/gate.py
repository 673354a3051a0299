"""What a page in a browser may ask for, decided for each request before its first byte leaves.

The rule is that of fetched pages (`murvel.loading.reach`): a page from the web reaches no machine nearer than
its own, and no file. A page on disk is shown under an address of its own, `https://page.invalid/`, from the files of
its site (`murvel.loading.site`); so its scripts work as on a server, and see nothing else.
"""

from __future__ import annotations

import base64
import mimetypes
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any, NamedTuple
from urllib.parse import quote, unquote, urlsplit

import httpx

from murvel.browser.door import OFFLINE
from murvel.loading.addresses import STANDARD_INPUT, is_web_address, origin_of, shown
from murvel.loading.disk import INDEX_NAMES, named_path, page_file, site_of
from murvel.loading.errors import PageError
from murvel.loading.fetch import fetch, site_of_input
from murvel.loading.network import Connections, Guard, proxy_for
from murvel.loading.reach import ForbiddenError, Reach, UnknownHostError, Zone, look_up, nearest
from murvel.loading.resources import NotReadError
from murvel.loading.setup import Setup
from murvel.loading.site import MAX_BYTES, Site

ORIGIN = "https://page.invalid"
"""Where a page on disk seems to be. Nothing has an address that ends in .invalid (RFC 2606 §2)."""

_WITHIN_PAGE = frozenset({"data", "blob", "about"})
_TYPES = {
    ".js": "text/javascript",
    ".mjs": "text/javascript",
    ".html": "text/html",
    ".htm": "text/html",
    ".wasm": "application/wasm",
}
_NO_STORE = ("Cache-Control", "no-store")
_OF_THE_WAY = frozenset({"content-encoding", "content-length", "transfer-encoding", "connection", "keep-alive"})
"""Headers of an answer that say how it came, which is over when we have it."""

_CUT = "this copy of the page reaches no network"
_FETCH_SECONDS = 30.0
_MOST_CHAINS = 1000


class Request(NamedTuple):
    """A request of a page.

    Attributes:
        address: what is asked for.
        is_page: whether it is the document of the page itself.
        frame: the frame whose document it is, or that asks, as the protocol names it.
        is_document: whether it is the document of a frame.
        chain: the number that this request has, and `before` the one of the request that was redirected to it.
        method, headers, body: of the request.
    """

    address: str
    is_page: bool = False
    frame: str = ""
    is_document: bool = False
    chain: str = ""
    before: str = ""
    method: str = "GET"
    headers: tuple[tuple[str, str], ...] = ()
    body: bytes = b""


class Answer(NamedTuple):
    """What is answered in place of the network: a status, headers, and a body in base64."""

    status: int
    headers: Sequence[tuple[str, str]]
    body: str = ""

    def as_protocol(self) -> dict[str, Any]:
        """Return it as Fetch.fulfillRequest takes it."""
        headers = [{"name": name, "value": value} for name, value in self.headers]
        return {"responseCode": self.status, "responseHeaders": headers, "body": self.body}


class RefusedError(Exception):
    """A request that is not let through; the message is a clause that says why."""


@dataclass(slots=True)
class Gate:
    """Decides on each request of one page.

    Attributes:
        address: what the browser is sent to.
        is_local: whether that is a page on disk, or from standard input.
        reach: which machines the page reaches; the door below holds it to the same.
        site: the files that belong to a page on disk, None if there are none.
        text: a page that came from standard input, None for others.
        is_offline: whether nothing is fetched beside the page itself.
        is_cut: whether nothing is asked of a network any more.
    """

    address: str
    is_local: bool
    reach: Reach
    site: Site | None = None
    text: str | None = None
    is_offline: bool = False
    is_cut: bool = False
    _connections: Connections | None = None
    _own: Connections | None = None
    """As `_connections`, with the person's cookies: what the page itself is fetched over where nothing else is."""
    _zone: Zone = Zone.PUBLIC
    _has_arrived: bool = False
    _frames: dict[str, Zone] = field(default_factory=dict)
    _chains: OrderedDict[str, Zone] = field(default_factory=OrderedDict)

    @classmethod
    def of(cls, address: str, setup: Setup) -> Gate:
        """Return the gate of a page.

        Raises:
            PageError: the page is not there.
        """
        address, setup = setup.without_credentials(address)
        if is_web_address(address):
            zone = _zone_of_page(address)
            without_cookies = replace(setup, cookies=None)  # the browser has them, and sends them itself
            return cls(
                address, is_local=False, reach=Reach(zone), is_offline=setup.is_offline, _zone=zone,
                _connections=Connections(without_cookies, origin_of(address)),
                _own=Connections(setup, origin_of(address)) if setup.is_offline else None,
            )  # fmt: skip
        reach = Reach(Zone.PUBLIC)
        if address == STANDARD_INPUT:
            text = fetch(address, setup).text
            return cls(
                f"{ORIGIN}/",
                is_local=True,
                reach=reach,
                site=site_of_input(setup),
                text=text,
                is_offline=setup.is_offline,
            )
        fetch(address, setup)  # says what is wrong with it as ever
        page, folder = page_file(address), named_path(address)
        site = site_of(page, setup.root, folder if folder.is_dir() else None)
        place = quote(page.relative_to(site.root).as_posix())
        return cls(f"{ORIGIN}/{place}", is_local=True, reach=reach, site=site, is_offline=setup.is_offline)

    def again(self) -> Gate:
        """Return a gate for the same page in another tab."""
        return replace(self, reach=self.reach.again(self._zone), _has_arrived=False, _frames={}, _chains=OrderedDict())

    def own_address(self, shown_there: str) -> str:
        """Return the address of a page as a person knows it: the path of a page on disk."""
        if not self.is_local or origin_of(shown_there) != origin_of(ORIGIN):
            return shown_there
        if self.site is None or (self.text is not None and urlsplit(shown_there).path == "/"):
            return STANDARD_INPUT
        parts = urlsplit(shown_there)
        more = (f"?{parts.query}" if parts.query else "") + (f"#{parts.fragment}" if parts.fragment else "")
        return str(self.site.root / unquote(parts.path).lstrip("/")) + more

    async def answer(self, asked: Request) -> Answer | None:
        """Return what is answered to a request; None if it goes to the network.

        Raises:
            RefusedError: it is not let through.
        """
        parts = urlsplit(asked.address)
        if parts.scheme in _WITHIN_PAGE:
            return None
        if self.is_local and origin_of(asked.address) == origin_of(ORIGIN):
            return self._from_site(asked, parts.path)
        if self.is_cut:
            raise RefusedError(_CUT)
        if not is_web_address(asked.address):
            raise RefusedError("only http and https addresses are asked for")
        if self.is_offline and (self.is_local or self._has_arrived or not asked.is_page):
            raise RefusedError(OFFLINE)
        await self._judge(asked, parts.hostname or "", parts.port or (443 if parts.scheme == "https" else 80))
        return await self._fetched(asked) if self.is_offline else None

    async def _judge(self, asked: Request, host: str, port: int) -> None:
        """Refuse what is nearer than the page, the frame that asks, or what the request was redirected from."""
        own = self._frames.get(asked.frame) if not asked.is_document else None
        before = self._chains.get(asked.before) if asked.before else None
        limits = [each for each in (own, before) if each is not None]
        try:
            zone = nearest(await self.reach.judged(host, port, min(limits, default=None)))
        except ForbiddenError as error:
            raise RefusedError(str(error)) from error
        except UnknownHostError as error:
            if proxy_for(urlsplit(asked.address).scheme, host) is None:
                raise RefusedError(str(error)) from error
            zone = Zone.PUBLIC  # only the person's proxy knows it
        self._chains[asked.chain] = min([zone, *limits])
        while len(self._chains) > _MOST_CHAINS:
            self._chains.popitem(last=False)
        if asked.is_page:
            self.reach.narrow(zone)  # a page from further away may not use what an earlier one could reach
            self._frames.clear()
        elif asked.is_document:
            self._frames[asked.frame] = zone

    async def _fetched(self, asked: Request) -> Answer:
        """Fetch the page itself for a browser that is offline; a redirect is for the browser to follow."""
        assert self._own is not None
        dropped = {"host", "connection", "accept-encoding"}
        headers = [(name, value) for name, value in asked.headers if name.lower() not in dropped]
        data = bytearray()
        try:
            client = httpx.AsyncClient(transport=Guard(self._own, self.reach), timeout=_FETCH_SECONDS)
            async with client.stream(asked.method, asked.address, headers=headers, content=asked.body) as response:
                async for chunk in response.aiter_bytes():
                    data += chunk
                    if len(data) > MAX_BYTES:
                        raise RefusedError(f"it is larger than {MAX_BYTES // 2**20} MB")
        except ForbiddenError as error:
            raise RefusedError(str(error)) from error
        except (httpx.HTTPError, httpx.InvalidURL, UnicodeError, ValueError, OSError) as error:
            raise RefusedError(f"it cannot be reached ({shown(str(error)) or type(error).__name__})") from error
        self._has_arrived = not response.is_redirect
        kept = [(name, value) for name, value in response.headers.multi_items() if name not in _OF_THE_WAY]
        return Answer(response.status_code, kept, _packed(bytes(data)))

    def headers_for(self, address: str) -> list[tuple[str, str]]:
        """Return the headers that a request gets beside its own: the person's, for the page's own server."""
        if self._connections is None or not is_web_address(address):
            return []
        found = self._connections.headers_of(httpx.Request("GET", address))
        return [(name, value) for name, value in found.multi_items() if name != "host"]

    def _from_site(self, asked: Request, path: str) -> Answer:
        if self.text is not None and path == "/":
            data = self.text.encode("utf-8", "replace")
            return Answer(200, [("Content-Type", "text/html; charset=utf-8"), _NO_STORE], _packed(data))
        if self.site is None:
            return Answer(404, [("Content-Type", "text/plain")])
        wanted = self.site.root / unquote(path).lstrip("/")
        try:
            if self.site.is_folder(wanted):
                if not path.endswith("/"):
                    return Answer(301, [("Location", f"{path}/"), _NO_STORE])
                wanted = next((wanted / name for name in INDEX_NAMES if (wanted / name).is_file()), wanted)
            data = self.site.read(wanted)
        except NotReadError as error:
            if str(error) == "there is no such file":
                return Answer(404, [("Content-Type", "text/plain")])
            raise RefusedError(str(error)) from error
        except (OSError, ValueError) as error:
            raise RefusedError("its address is broken") from error
        kind = _TYPES.get(wanted.suffix.lower()) or mimetypes.guess_type(wanted.name)[0] or "application/octet-stream"
        return Answer(200, [("Content-Type", kind), _NO_STORE], _packed(data))


def _zone_of_page(address: str) -> Zone:
    """Return the zone of the address that a person named: it decides what its page reaches.

    Raises:
        PageError: its machine is not known.
    """
    host = ""
    try:
        parts = urlsplit(address)
        host, port = parts.hostname or "", parts.port or 80
        return nearest(look_up(host, port))
    except (OSError, UnicodeError, ValueError) as error:
        if host and proxy_for(address.partition(":")[0].lower(), host) is not None:
            return Zone.PUBLIC
        raise PageError(
            f"{shown(address)} cannot be reached (its host is not known)", "check address and connection."
        ) from error


def _packed(data: bytes) -> str:
    return base64.b64encode(data).decode("ascii")
