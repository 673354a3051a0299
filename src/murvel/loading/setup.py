"""How a page is opened: the width of its viewport, and what may be read for it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path

from murvel.loading.addresses import Credentials, origin_of, split_credentials

DEFAULT_WIDTH = 1280
"""The viewport's width in CSS pixels where nothing else is said."""


@dataclass(frozen=True, slots=True)
class BrowserSetup:
    """How a real browser opens a page.

    Attributes:
        zoom: in percent; the page has that much less room, as in a browser's window.
        is_dark, has_less_motion, has_forced_colors: what the person prefers, as media queries ask for it.
        wait: what is waited for beside the page's coming to rest: seconds, a selector, or a text after "text=".
        profile: a folder of a browser's profile, where somebody is signed in; None for one that is thrown away.
        state: a file of cookies and storage, as browsers' drivers save them; None for none.
        is_shown: whether the browser's window is shown.
        program: the path of the browser; None if it is to be found.
        patience: the seconds that are waited for what comes of a key or a click, before that is left to go on beside;
            None waits as long as a page may take.
    """

    zoom: int = 100
    is_dark: bool = False
    has_less_motion: bool = False
    has_forced_colors: bool = False
    wait: str = ""
    profile: Path | None = None
    state: Path | None = None
    is_shown: bool = False
    program: Path | None = None
    patience: float | None = None


@dataclass(frozen=True, slots=True)
class Setup:
    """How a page is opened.

    Attributes:
        width: the viewport's width in CSS pixels.
        root: the folder that holds all that belongs to a page on disk; None if it is to be found.
        is_offline: whether nothing is fetched beside the page itself.
        headers: HTTP headers that are sent to the page's own origin.
        cookies: a file of cookies in the Netscape format, None for none.
        credentials: user names and passwords, by origin.
        browser: how a real browser opens it; None for the built-in stage.
        excerpts: the folder in which excerpts of style sheets are kept between runs; None keeps none.
    """

    width: int = DEFAULT_WIDTH
    root: Path | None = None
    is_offline: bool = False
    headers: tuple[tuple[str, str], ...] = ()
    cookies: Path | None = None
    credentials: Mapping[str, Credentials] = field(default_factory=dict)
    browser: BrowserSetup | None = None
    excerpts: Path | None = None

    def without_credentials(self, address: str) -> tuple[str, Setup]:
        """Return an address without the credentials in it, and a setup that knows these.

        Everything else in the program sees the address without them, so that they are nowhere shown or kept.
        """
        clean, found = split_credentials(address)
        if found is None:
            return address, self
        return clean, replace(self, credentials={**self.credentials, origin_of(clean): found})


DEFAULT_SETUP = Setup()
