"""What a page in a browser may ask for: its own folder, or the network as far as its own zone reaches.

The rule is that of fetched pages (`murvel.page.loading.network`): a page from the web reaches no machine nearer than
its own, and no file. A page on disk is shown under an address of its own, `https://page.invalid/`, from the files in
its root; so its scripts work as on a server, and see nothing else.
"""

from __future__ import annotations

import asyncio
import base64
import mimetypes
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import NamedTuple
from urllib.parse import quote, unquote, urlsplit

import httpx

from murvel.page.loading.addresses import STANDARD_INPUT, is_web_address, origin_of, shown
from murvel.page.loading.disk import MAX_BYTES, named_path, page_file, root_of
from murvel.page.loading.fetch import fetch
from murvel.page.loading.network import Connections, Zone, look_up, zone_of
from murvel.page.setup import Setup

ORIGIN = "https://page.invalid"
"""Where a page on disk seems to be. Nothing has an address that ends in .invalid (RFC 2606 §2)."""

_WITHIN_PAGE = frozenset({"data", "blob", "about"})
_TYPES = {".js": "text/javascript", ".mjs": "text/javascript", ".html": "text/html", ".htm": "text/html"}


class Answer(NamedTuple):
    """What is answered in place of the network: a status, a media type and a body in base64."""

    status: int
    kind: str
    body: str


class RefusedError(Exception):
    """A request that is not let through; the message is a clause that says why."""


@dataclass(slots=True)
class Gate:
    """Decides on each request of one page.

    Attributes:
        address: what the browser is sent to.
        is_local: whether that is a page on disk, or from standard input.
        root: the folder of a page on disk, None if nothing belongs to it.
        text: a page that came from standard input, None for others.
        is_offline: whether nothing is fetched beside the page itself.
    """

    address: str
    is_local: bool
    root: Path | None = None
    text: str | None = None
    is_offline: bool = False
    _connections: Connections | None = None
    _reach: Zone = Zone.PUBLIC
    _is_first: bool = True
    _zones: dict[str, Zone] = field(default_factory=dict)

    @classmethod
    def of(cls, address: str, setup: Setup) -> Gate:
        """Return the gate of a page.

        Raises:
            PageError: the page is not there.
        """
        address, setup = setup.without_credentials(address)
        if is_web_address(address):
            return cls(
                address, is_local=False, is_offline=setup.is_offline,
                _connections=Connections(replace(setup, cookies=None), origin_of(address)),
            )  # fmt: skip
        if address == STANDARD_INPUT:
            root = setup.root.expanduser().resolve() if setup.root is not None else None
            return cls(
                f"{ORIGIN}/", is_local=True, root=root, text=fetch(address, setup).text, is_offline=setup.is_offline
            )
        fetch(address, setup)  # says what is wrong with it as ever
        page, folder = page_file(address), named_path(address)
        root = root_of(page, setup.root, folder if folder.is_dir() else None)
        place = quote(page.relative_to(root).as_posix())
        return cls(f"{ORIGIN}/{place}", is_local=True, root=root, is_offline=setup.is_offline)

    def again(self) -> Gate:
        """Return a gate for the same page in another tab."""
        return replace(self, _is_first=True, _zones={})

    def own_address(self, shown_there: str) -> str:
        """Return the address of a page as a person knows it: the path of a page on disk."""
        if not self.is_local or origin_of(shown_there) != origin_of(ORIGIN):
            return shown_there
        if self.root is None or (self.text is not None and urlsplit(shown_there).path == "/"):
            return STANDARD_INPUT
        parts = urlsplit(shown_there)
        more = (f"?{parts.query}" if parts.query else "") + (f"#{parts.fragment}" if parts.fragment else "")
        return str(self.root / unquote(parts.path).lstrip("/")) + more

    async def answer(self, address: str, *, is_page: bool) -> Answer | None:
        """Return what is answered to a request; None if it goes to the network.

        Args:
            address: what is asked for.
            is_page: whether it is the document of the page itself.

        Raises:
            RefusedError: it is not let through.
        """
        parts = urlsplit(address)
        if parts.scheme in _WITHIN_PAGE:
            return None
        if self.is_local and origin_of(address) == origin_of(ORIGIN):
            return self._from_folder(parts.path)
        if not is_web_address(address):
            raise RefusedError("only http and https addresses are asked for")
        if self.is_offline and not is_page:
            raise RefusedError("nothing is fetched beside the page (--offline)")
        zone = await self._zone(parts.hostname or "", parts.port or 80)
        if self._is_first and is_page and not self.is_local:
            self._reach = zone
            self._is_first = False
        elif zone > self._reach:
            raise RefusedError(
                "it leads to a machine on the tester's own network, and the page comes from further away"
            )
        return None

    def headers_for(self, address: str) -> list[tuple[str, str]]:
        """Return the headers that a request gets beside its own: the person's, for the page's own server."""
        if self._connections is None or not is_web_address(address):
            return []
        found = self._connections.headers_of(httpx.Request("GET", address))
        return [(name, value) for name, value in found.multi_items() if name != "host"]

    async def _zone(self, host: str, port: int) -> Zone:
        if host not in self._zones:
            try:
                found = await asyncio.get_running_loop().run_in_executor(None, look_up, host.strip("[]"), port)
            except (OSError, UnicodeError) as error:
                raise RefusedError("its machine is not known") from error
            self._zones[host] = max((zone_of(each) for each in found), default=Zone.PUBLIC)
        return self._zones[host]

    def _from_folder(self, path: str) -> Answer:
        if self.text is not None and path == "/":
            return Answer(200, "text/html; charset=utf-8", _packed(self.text.encode("utf-8", "replace")))
        if self.root is None:
            return Answer(404, "text/plain", "")
        try:
            wanted = (self.root / unquote(path).lstrip("/")).resolve()
            wanted = wanted / "index.html" if wanted.is_dir() else wanted
            if not wanted.is_relative_to(self.root):
                raise RefusedError("it is outside of the page's folder")
            if not wanted.is_file() or wanted.stat().st_size > MAX_BYTES:
                return Answer(404, "text/plain", "")
            data = wanted.read_bytes()
        except (OSError, ValueError) as error:
            raise RefusedError("it cannot be read") from error
        kind = _TYPES.get(wanted.suffix.lower()) or mimetypes.guess_type(wanted.name)[0] or "application/octet-stream"
        return Answer(200, kind, _packed(data))


def _packed(data: bytes) -> str:
    return base64.b64encode(data).decode("ascii")


def refused(address: str, reason: str) -> str:
    """Return the sentence that tells of a request that was not let through."""
    return f"{shown(address)} was not fetched: {reason}."
