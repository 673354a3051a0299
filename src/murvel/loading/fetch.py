"""The way in: from an address to a page's text, and to what may be read for it."""

from __future__ import annotations

import sys
from dataclasses import dataclass, field
from pathlib import Path

from murvel.loading.addresses import STANDARD_INPUT, is_web_address, scheme_of, shown
from murvel.loading.disk import FolderResources, named_path, page_file, read_page, site_of
from murvel.loading.encoding import decode
from murvel.loading.errors import PageError
from murvel.loading.kinds import kind_of_bytes, kind_of_text
from murvel.loading.resources import Resources
from murvel.loading.settings import settings_for
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.loading.site import MAX_BYTES, Site


@dataclass(frozen=True, slots=True)
class PageSource:
    """A page that arrived.

    Attributes:
        text: its markup, or a tree as JSON.
        address: the absolute path, the address after redirects, or "-".
        resources: what may be read for it.
    """

    text: str
    address: str = STANDARD_INPUT
    resources: Resources = field(default_factory=Resources)


def fetch(address: str, setup: Setup = DEFAULT_SETUP) -> PageSource:
    """Return a page, with what may be read for it.

    Args:
        address: a path, a folder with an index.html, "-" for standard input, or an http(s) address.
        setup: how it is opened.

    Raises:
        PageError: it is not there, not reachable, too large, empty or no page.
    """
    source = _fetched(*setup.without_credentials(address))
    source.resources.excerpts = setup.excerpts
    return source


def _fetched(address: str, setup: Setup) -> PageSource:
    if is_web_address(address):
        from murvel.loading.web import fetch_page  # only here: most pages are files, and httpx takes long to load

        data, charset, final, resources = fetch_page(address, setup)
        return PageSource(_markup(data, charset, final), final, resources)
    if address == STANDARD_INPUT:
        data = sys.stdin.buffer.read(MAX_BYTES + 1)
        site = site_of_input(setup)
        beside = FolderResources(site) if site is not None else Resources()
        return PageSource(_markup(data, None, STANDARD_INPUT), STANDARD_INPUT, beside)
    _must_be_readable(address)
    path = page_file(address)
    folder = named_path(address)
    site = site_of(path, setup.root, folder if folder.is_dir() else None)
    return PageSource(_markup(read_page(path), None, str(path)), str(path), FolderResources(site))


def site_of_input(setup: Setup) -> Site | None:
    """Return the site of a page from standard input, None if no root was named."""
    if setup.root is None:
        return None
    root = setup.root.expanduser().resolve()
    return Site(root, settings_for(root).excluded)


def _must_be_readable(address: str) -> None:
    scheme = scheme_of(address)
    if scheme and scheme != "file" and not Path(address).exists():
        raise PageError(
            f"Addresses that begin with {shown(scheme)}: cannot be opened", "give a path or an http(s) address."
        )


def _markup(data: bytes, charset: str | None, address: str) -> str:
    """Return the text of what arrived; it has to be a page, or may be one."""
    name = "Standard input" if address == STANDARD_INPUT else shown(address)
    if len(data) > MAX_BYTES:
        raise PageError(
            f"{name} is larger than {MAX_BYTES // 2**20} MB", "save the part to be tested as a file of its own."
        )
    if not data.strip():
        raise PageError(f"{name} is empty", "check that the page was saved completely.")
    kind = kind_of_bytes(data)
    if kind is None:
        text = decode(data, charset)
        kind = kind_of_text(text, "" if is_web_address(address) else address)
        if kind is None:
            return text
    raise PageError(f"{name} is not a page but {kind}", "give an HTML page, or the folder that holds its index.html.")
