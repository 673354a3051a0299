"""Pages from the web, with their style sheets and frames, fetched as a browser fetches them and within limits."""

from __future__ import annotations

import asyncio
import re
from collections.abc import Iterable
from contextlib import aclosing
from typing import NamedTuple

import httpx

from murvel.loading.addresses import is_web_address, origin_of, resolve, shown, split_credentials
from murvel.loading.encoding import decode
from murvel.loading.errors import CredentialsError, PageError
from murvel.loading.kinds import HTML_TYPES, TREE_TYPES
from murvel.loading.network import Connections, Guard
from murvel.loading.reach import ForbiddenError, Reach, Zone
from murvel.loading.resources import MAX_TOTAL, NotReadError, Resource, Resources
from murvel.loading.setup import Setup
from murvel.loading.site import MAX_BYTES
from murvel.patterns import pattern

MAX_SECONDS = 20.0
"""The longest a page may take to arrive, and the longest all that belongs to it may take together."""

_MOST_UNPACKED = 100
"""How many times larger than what was sent its content may be, from `_SMALL` bytes on."""

_SMALL = 4 * 1024 * 1024
_AT_ONCE = 8
_MAX_REDIRECTS = 10
_DEEPEST_IMPORT = 5
_IMPORT = pattern(r"@import\s+(?:url\(\s*)?[\"']?([^\"')\s;]+)", re.IGNORECASE)
_COMMENT = pattern(r"/\*.*?\*/", re.DOTALL)


class _Answer(NamedTuple):
    """What a server sent: the bytes, the charset and the media type it states, the address at last."""

    data: bytes
    charset: str | None
    kind: str
    address: str


class _TooLargeError(Exception):
    """An answer that is larger than it may be."""


def fetch_page(address: str, setup: Setup) -> tuple[bytes, str | None, str, Resources]:
    """Return a page's bytes, its charset, its address at last, and what may be read for it.

    Args:
        address: an http(s) address without credentials.
        setup: how it is opened.

    Raises:
        CredentialsError: the server wants a user name and password.
        PageError: it cannot be loaded, or is no page.
    """
    name = shown(address)
    origin = origin_of(address)
    try:
        answer, zone = asyncio.run(_fetch_alone(Connections(setup, origin), address))
    except TimeoutError as error:
        raise PageError(f"{name} took longer than {MAX_SECONDS:.0f} seconds", "try again or save the page.") from error
    except _TooLargeError as error:
        raise PageError(f"{name} is too large: {error}", "save the part to be tested as a file of its own.") from error
    except ForbiddenError as error:
        raise PageError(f"{name} was not fetched: {error}", "open the address it leads to by itself.") from error
    except (httpx.HTTPError, httpx.InvalidURL, UnicodeError, ValueError, OSError) as error:
        raise PageError(f"{name} cannot be reached ({_reason(error)})", "check address and connection.") from error
    if answer.kind and answer.kind not in HTML_TYPES | TREE_TYPES:
        raise PageError(f"{name} is not HTML but {shown(answer.kind)}", "give the address of a page.")
    return answer.data, answer.charset, answer.address, WebResources(answer.address, zone, setup, origin)


async def _fetch_alone(connections: Connections, address: str) -> tuple[_Answer, Zone]:
    guard = Guard(connections)
    async with aclosing(connections), asyncio.timeout(MAX_SECONDS):
        answer = await _get(_client(guard), address, "text/html,application/xhtml+xml,*/*;q=0.8", MAX_BYTES)
    return answer, guard.reach.zone if guard.reach.zone is not None else Zone.PUBLIC


def _client(guard: Guard) -> httpx.AsyncClient:
    return httpx.AsyncClient(
        transport=guard,
        follow_redirects=True,
        max_redirects=_MAX_REDIRECTS,
        timeout=MAX_SECONDS,
        headers={"User-Agent": "Murvel"},
    )


async def _get(client: httpx.AsyncClient, address: str, accept: str, most: int) -> _Answer:
    """Fetch one address.

    Raises:
        PageError: the server refused.
        _TooLargeError: it sends more than `most` bytes, or very much for what came over the line.
    """
    async with client.stream("GET", address, headers={"Accept": accept}) as response:
        _must_be_well(response, address)
        data = bytearray()
        async for chunk in response.aiter_bytes():
            data += chunk
            if len(data) > most:
                raise _TooLargeError(f"more than {most // 2**20} MB")
            if len(data) > _SMALL and len(data) > _MOST_UNPACKED * response.num_bytes_downloaded:
                raise _TooLargeError(f"it unpacks to more than {_MOST_UNPACKED} times of what was sent")
        kind = response.headers.get("content-type", "").split(";")[0].strip().lower()
        return _Answer(bytes(data), response.charset_encoding, kind, split_credentials(str(response.url))[0])


def _must_be_well(response: httpx.Response, address: str) -> None:
    status, name = response.status_code, shown(address)
    if status == 401:
        origin = origin_of(str(response.url))
        is_basic = response.headers.get("www-authenticate", "").lower().startswith("basic")
        if is_basic and origin == origin_of(address):
            raise CredentialsError(origin, f"{name} answered 401: it wants a user name and password")
        raise PageError(
            f"{name} answered 401: it wants you to be signed in",
            "give --headers a file with an Authorization or Cookie line, or --cookies a file of cookies.",
        )
    if status == 403:
        raise PageError(
            f"{name} answered 403: it refuses this request",
            "give --headers a file with the headers or cookies of your browser, or save the page from there.",
        )
    if status >= 400:
        raise PageError(f"{name} answered {status} {shown(response.reason_phrase)}", "check the address.")


def _reason(error: Exception) -> str:
    """Why something cannot be reached, in words; what a library says may hold the whole address."""
    if isinstance(error, httpx.TooManyRedirects):
        return f"more than {_MAX_REDIRECTS} redirects"
    if isinstance(error, httpx.TimeoutException):
        return "it did not answer in time"
    if isinstance(error, httpx.UnsupportedProtocol):
        return "it leads to an address that is not http or https"
    if isinstance(error, httpx.InvalidURL | ValueError | UnicodeError):
        return "the address is broken"
    return shown(str(error)) or type(error).__name__


class WebResources(Resources):
    """What belongs to a page from the web: style sheets of http(s), and frames of its own origin."""

    def __init__(self, address: str, zone: Zone, setup: Setup, asked: str) -> None:
        super().__init__()
        self._address = address
        self._origin = origin_of(address)
        self._asked_origin = asked
        self._zone = zone
        self._setup = setup
        self._fetched: dict[str, _Answer | str] = {}
        """What came of each address that was fetched: the answer, or why there is none."""
        self._seconds = MAX_SECONDS
        self._bytes_left = MAX_TOTAL

    def prepare(self, sheets: Iterable[str], frames: Iterable[str]) -> None:
        """Fetch style sheets with what they import, and frames, together."""
        wanted = [(each, "text/css") for each in sheets] + [(each, "text/html") for each in frames]
        for _ in range(_DEEPEST_IMPORT):
            waiting = list(dict.fromkeys(each for each in map(_plain, wanted) if self._may_fetch(*each)))
            if not waiting:
                return
            self._fetch_together(waiting)
            sheets = [address for address, kind in waiting if kind == "text/css"]
            wanted = [(each, "text/css") for address in sheets for each in self._imports(address)]

    def _may_fetch(self, address: str, kind: str) -> bool:
        return address not in self._fetched and self._why_not_fetched(address, kind) is None

    def _why_not_fetched(self, address: str, kind: str) -> str | None:
        if self._setup.is_offline:
            return "nothing beside the page is fetched with --offline"
        if not is_web_address(address):
            return "the page is from the web, and it is not"
        if kind == "text/html" and origin_of(address) != self._origin:
            return "frames of other origins are not; open it as a page of its own"
        if self._address.lower().startswith("https:") and not address.lower().startswith("https:"):
            return "the page came by https and it does not"
        return None

    def _imports(self, address: str) -> list[str]:
        answer = self._fetched[address]
        if isinstance(answer, str):
            return []
        text = _COMMENT.sub("", decode(answer.data[:100_000], answer.charset))
        return [resolve(answer.address, reference) for reference in _IMPORT.findall(text)]

    def _fetch_together(self, wanted: list[tuple[str, str]]) -> None:
        """Fetch addresses at once; what came of each is in `_fetched` then."""

        async def fetch_all() -> None:
            loop = asyncio.get_running_loop()
            began = loop.time()
            turns = asyncio.Semaphore(_AT_ONCE)
            connections = Connections(self._setup, self._asked_origin)
            try:
                async with aclosing(connections), asyncio.timeout(self._seconds):
                    await asyncio.gather(*(self._fetch(connections, turns, *each) for each in wanted))
            except TimeoutError:
                for address, _ in wanted:
                    self._fetched.setdefault(
                        address, f"all that belongs to the page took longer than {MAX_SECONDS:.0f} seconds"
                    )
            self._seconds = max(0.0, self._seconds - (loop.time() - began))

        asyncio.run(fetch_all())

    async def _fetch(self, connections: Connections, turns: asyncio.Semaphore, address: str, kind: str) -> None:
        client = _client(Guard(connections, Reach(self._zone)))
        try:
            async with turns:
                answer = await _get(client, address, f"{kind},*/*;q=0.1", max(1, min(MAX_BYTES, self._bytes_left)))
        except (ForbiddenError, _TooLargeError) as error:
            self._fetched[address] = str(error)
        except PageError as error:
            self._fetched[address] = f"its server refused: {error.message.partition(' answered ')[2]}"
        except (httpx.HTTPError, httpx.InvalidURL, UnicodeError, ValueError, OSError) as error:
            self._fetched[address] = f"it cannot be reached ({_reason(error)})"
        else:
            self._bytes_left -= len(answer.data)
            self._fetched[address] = answer

    def _answer(self, address: str, kind: str) -> _Answer:
        address, _ = _plain((address, kind))
        why = self._why_not_fetched(address, kind)
        if why is not None:
            raise NotReadError(why)
        if address not in self._fetched:
            self._fetch_together([(address, kind)])
        found = self._fetched[address]
        if isinstance(found, str):
            raise NotReadError(found)
        return found

    def _sheet(self, address: str) -> Resource:
        answer = self._answer(address, "text/css")
        if answer.kind not in ("text/css", ""):
            raise NotReadError(f"it is not text/css but {shown(answer.kind)}")
        return self._take(answer.data, answer.charset, answer.address)

    def _frame(self, address: str) -> Resource:
        answer = self._answer(address, "text/html")
        if origin_of(answer.address) != self._origin:
            raise NotReadError("it leads to another origin; open it as a page of its own")
        if answer.kind not in HTML_TYPES:
            raise NotReadError(f"it is not HTML but {shown(answer.kind)}")
        return self._take(answer.data, answer.charset, answer.address)


def _plain(wanted: tuple[str, str]) -> tuple[str, str]:
    """An address without fragment and credentials, and what is wanted of it."""
    address, kind = wanted
    return split_credentials(address.partition("#")[0])[0], kind
