"""Where pages come from: a file, a folder, standard input, an address. Bytes out, within limits."""

from __future__ import annotations

import sys
import time
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import unquote, urljoin, urlsplit

from murvel.errors import did_you_mean
from murvel.page.errors import PageError
from murvel.page.text import HTML_SPACE, visible

MAX_BYTES = 64 * 1024 * 1024
"""The largest page that is opened."""

MAX_SECONDS = 20.0
"""The longest a page may take to arrive."""

STANDARD_INPUT = "-"

_INDEX_NAMES = ("index.html", "index.htm", "index.xhtml")
_HTML_TYPES = ("text/html", "application/xhtml+xml", "text/plain", "application/xml", "text/xml", "application/json")


@dataclass(frozen=True, slots=True)
class Fetched:
    """What arrived.

    Attributes:
        data: the bytes.
        charset: what the server stated, None for files.
        address: the absolute path, the address after redirects, or "-".
    """

    data: bytes
    charset: str | None
    address: str


def is_web_address(address: str) -> bool:
    """Whether `address` is fetched over the network."""
    return address.lower().startswith(("http://", "https://"))


def fetch(address: str) -> Fetched:
    """Return the bytes of a page.

    Args:
        address: a path, a folder with an index.html, "-" for standard input, or an http(s) address.

    Raises:
        PageError: it is not there, not reachable, too large, empty or not HTML.
    """
    if address == STANDARD_INPUT:
        fetched = Fetched(sys.stdin.buffer.read(MAX_BYTES + 1), None, STANDARD_INPUT)
    elif is_web_address(address):
        fetched = _from_web(address)
    else:
        fetched = _from_disk(address)
    _must_be_markup(fetched)
    return fetched


def _must_be_markup(fetched: Fetched) -> None:
    name = _shown(fetched.address)
    if len(fetched.data) > MAX_BYTES:
        raise PageError(
            f"{name} is larger than {MAX_BYTES // 2**20} MB", "save the part to be tested as a file of its own."
        )
    if not fetched.data.strip():
        raise PageError(f"{name} is empty", "check that the page was saved completely.")
    head = fetched.data[:1024]
    if head.count(0) > 3 and not head.startswith((b"\xfe\xff", b"\xff\xfe")):
        raise PageError(f"{name} is not HTML but binary data", "give a page, or the folder that holds its index.html.")


def _shown(address: str) -> str:
    return "Standard input" if address == STANDARD_INPUT else visible(address)


def _page_path(address: str) -> Path:
    try:
        path = Path(unquote(urlsplit(address).path) if address.lower().startswith("file:") else address).expanduser()
        if path.is_dir():
            for name in _INDEX_NAMES:
                if (path / name).is_file():
                    return (path / name).resolve()
            raise PageError(f"The folder {_shown(str(path))} has no index.html", "name the page itself.")
        return path.resolve()
    except (OSError, ValueError, RuntimeError) as error:
        raise PageError(f"{_shown(address)} is not a usable path ({error})", "check its spelling.") from error


def _from_disk(address: str) -> Fetched:
    path = _page_path(address)
    try:
        if not path.exists():
            beside = [each.name for each in path.parent.iterdir()] if path.parent.is_dir() else []
            raise PageError(f"There is no file {_shown(str(path))}", did_you_mean(path.name, beside, "check the path."))
        if not path.is_file():
            raise PageError(f"{_shown(str(path))} is not a file", "give a page, a folder, - or an http(s) address.")
        with path.open("rb") as stream:
            return Fetched(stream.read(MAX_BYTES + 1), None, str(path))
    except OSError as error:
        raise PageError(f"{_shown(str(path))} cannot be read ({error.strerror})", "check its permissions.") from error


def _from_web(address: str) -> Fetched:
    import httpx  # only here: most pages are files, and a command on one should not wait for it to load

    name = visible(address)
    deadline = time.monotonic() + MAX_SECONDS
    try:
        with (
            httpx.Client(follow_redirects=True, timeout=MAX_SECONDS, headers={"User-Agent": "Murvel"}) as client,
            client.stream("GET", address) as response,
        ):
            if response.status_code >= 400:
                reason = visible(response.reason_phrase)
                raise PageError(f"{name} answered {response.status_code} {reason}", "check the address.")
            kind = response.headers.get("content-type", "text/html").split(";")[0].strip().lower()
            if kind not in _HTML_TYPES:
                raise PageError(f"{name} is not HTML but {visible(kind)}", "give the address of a page.")
            data = bytearray()
            for chunk in response.iter_bytes():
                data += chunk
                if len(data) > MAX_BYTES:
                    break
                if time.monotonic() > deadline:
                    raise PageError(f"{name} took longer than {MAX_SECONDS:.0f} seconds", "try again or save the page.")
            return Fetched(bytes(data), response.charset_encoding, str(response.url))
    except httpx.TimeoutException as error:
        raise PageError(f"{name} took longer than {MAX_SECONDS:.0f} seconds", "try again or save the page.") from error
    except (httpx.HTTPError, httpx.InvalidURL, UnicodeError, ValueError) as error:
        raise PageError(f"{name} cannot be reached ({visible(str(error))})", "check address and connection.") from error


def resolve(base: str, reference: str) -> str:
    """Return the absolute address of what a page refers to (HTML §2.4.1), or the reference where there is none.

    Args:
        base: an address that `fetch` gave, or one that this function returned.
        reference: the URL reference as written.
    """
    reference = reference.strip(HTML_SPACE)
    if base == STANDARD_INPUT:
        return reference
    try:
        known = urlsplit(base).scheme in ("http", "https", "file")
        return urljoin(base if known else Path(base).absolute().as_uri(), reference)
    except ValueError:
        return reference


def read_beside(base: str, reference: str) -> bytes | None:
    """Return a local file that a local page refers to (a style sheet, a frame), or None where there is none to read.

    Args:
        base: the page's base address; for pages that are not files nothing is read.
        reference: the URL reference as written.
    """
    if base == STANDARD_INPUT or is_web_address(base):
        return None
    try:
        parts = urlsplit(resolve(base, reference))
        if parts.scheme != "file" or parts.netloc:
            return None
        path = Path(unquote(parts.path))
        if not path.is_file() or path.stat().st_size > MAX_BYTES:
            return None
        return path.read_bytes()
    except (OSError, ValueError):
        return None
