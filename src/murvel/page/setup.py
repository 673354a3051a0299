"""How a page is opened: the width of its viewport, and what may be read for it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path

from murvel.page.loading.addresses import Credentials, origin_of, split_credentials

DEFAULT_WIDTH = 1280
"""The viewport's width in CSS pixels where nothing else is said."""


@dataclass(frozen=True, slots=True)
class Setup:
    """How a page is opened.

    Attributes:
        width: the viewport's width in CSS pixels.
        root: the folder that holds all that belongs to a page on disk; None where it is to be found.
        is_offline: whether nothing is fetched beside the page itself.
        headers: HTTP headers that are sent to the page's own origin.
        cookies: a file of cookies in the Netscape format, None for none.
        credentials: user names and passwords, by origin.
    """

    width: int = DEFAULT_WIDTH
    root: Path | None = None
    is_offline: bool = False
    headers: tuple[tuple[str, str], ...] = ()
    cookies: Path | None = None
    credentials: Mapping[str, Credentials] = field(default_factory=dict)

    def without_credentials(self, address: str) -> tuple[str, Setup]:
        """Return an address without the credentials in it, and a setup that knows these.

        Everything else in the program sees the address without them, so that they are nowhere shown or kept.
        """
        clean, found = split_credentials(address)
        if found is None:
            return address, self
        return clean, replace(self, credentials={**self.credentials, origin_of(clean): found})


DEFAULT_SETUP = Setup()
