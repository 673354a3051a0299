"""Addresses: of pages, of what pages refer to, and how they are shown."""

from __future__ import annotations

import re
from pathlib import Path
from typing import NamedTuple
from urllib.parse import unquote, urljoin, urlsplit

from murvel.patterns import pattern
from murvel.text import HTML_SPACE, visible

STANDARD_INPUT = "-"

_WITH_CREDENTIALS = pattern(r"\s*([a-z][a-z0-9+.-]*:)[/\\]{2,}([^/\\?#]*)@", re.IGNORECASE)
_SCHEME = pattern(r"([a-z][a-z0-9+.-]+):", re.IGNORECASE)
"""A scheme (RFC 3986 §3.1) of two letters or more: one letter is a drive."""

_LONGEST_SHOWN = 120


class Credentials(NamedTuple):
    """A user name and a password for basic authentication (RFC 7617); the password is None until it is known."""

    user: str
    password: str | None


def is_web_address(address: str) -> bool:
    """Whether `address` is fetched over the network."""
    return address.lower().startswith(("http://", "https://"))


def scheme_of(address: str) -> str:
    """Return the scheme of an address in lower case; empty for a path."""
    found = _SCHEME.match(address)
    return found.group(1).lower() if found is not None else ""


def origin_of(address: str) -> str:
    """Return the origin of a web address (HTML §7.1.1) as scheme, host and port; empty for other addresses."""
    try:
        parts = urlsplit(address)
        port = parts.port or {"http": 80, "https": 443}.get(parts.scheme)
    except ValueError:
        return ""
    return f"{parts.scheme}://{parts.hostname}:{port}" if parts.hostname and port else ""


def split_credentials(address: str) -> tuple[str, Credentials | None]:
    """Return an address without the credentials in it (RFC 3986 §3.2.1, userinfo), and these."""
    found = _WITH_CREDENTIALS.match(address)
    if found is None:
        return address, None
    user, colon, password = found.group(2).partition(":")
    clean = f"{found.group(1)}//{address[found.end() :]}"
    return clean, Credentials(unquote(user), unquote(password) if colon else None)


def shown(address: str) -> str:
    """Return an address as it is shown: without credentials, without characters that act, and not too long."""
    text = visible(split_credentials(address)[0])
    return text if len(text) <= _LONGEST_SHOWN else f"{text[:_LONGEST_SHOWN]}…"


def resolve(base: str, reference: str) -> str:
    """Return the absolute address of what a page refers to (HTML §2.4.1), or the reference if there is none.

    Args:
        base: the address of a page, or one that this function returned.
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
