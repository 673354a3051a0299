"""The options that say how pages are opened; each command that opens pages takes them."""

from __future__ import annotations

import inspect
import sys
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import wraps
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from murvel.cli.app import WIDTHS, cache_folder, voice_of
from murvel.cli.configured import catalogue_of, settings_of
from murvel.cli.output import Exit, print_error
from murvel.cli.parameters import flag, option
from murvel.loading.addresses import Credentials, origin_of, split_credentials
from murvel.loading.errors import CredentialsError
from murvel.loading.headers import read_headers
from murvel.loading.problems import Problem, in_few_lines
from murvel.loading.setup import DEFAULT_WIDTH, BrowserSetup, Setup

if TYPE_CHECKING:
    from murvel.checks.engine.catalogue import Catalogue
    from murvel.checks.engine.config import Config
    from murvel.reader.speech.voice import Voice


class Preference(StrEnum):
    """What a person may prefer, as media queries ask for it (Media Queries 5)."""

    DARK = "dark"
    LESS_MOTION = "less-motion"
    FORCED_COLORS = "forced-colors"


_WIDTH = option("--width", "width", about="Set the width of the viewport (1280).", kind=WIDTHS, metavar="PIXELS")
_OPTIONS = (
    option(
        "--root",
        "root",
        about="Read style sheets and frames of a page on disk from DIR only.",
        kind=Path,
        metavar="DIR",
    ),
    flag("--offline", "offline", about="Fetch nothing beside a page from the web."),
    option(
        "--headers",
        "headers",
        about="Send the HTTP headers in FILE to the page's own server.",
        kind=Path,
        metavar="FILE",
    ),
    option(
        "--cookies", "cookies", about="Send the cookies in FILE, in the Netscape format.", kind=Path, metavar="FILE"
    ),
    flag("--strict", "strict", about="Exit with 2 if a resource failed or scripts build the page."),
    flag("--browser", "browser", about="Open the page in a real Chromium, with its scripts."),
    option(
        "--wait-for",
        "wait_for",
        about="In a browser, wait for seconds, a selector, or a text (text=...).",
        metavar="WHAT",
    ),
    option(
        "--zoom", "zoom", about="Zoom in a browser, as 200 or 400.", kind=click.IntRange(25, 500), metavar="PERCENT"
    ),
    option(
        "--prefer",
        "prefer",
        about="Prefer this in a browser (repeatable).",
        kind=Preference,
        is_many=True,
    ),
    option("--profile", "profile", about="Use a browser's profile, where you are signed in.", kind=Path, metavar="DIR"),
    option(
        "--state", "state", about="Use cookies and storage that were saved from a browser.", kind=Path, metavar="FILE"
    ),
    flag("--window", "window", about="Show the browser's window."),
    option(
        "--program",
        "program",
        about="Use this Chromium in place of the system's.",
        kind=Path,
        metavar="PATH",
        variable="MURVEL_BROWSER",
    ),
)
_OF_BROWSERS = ("wait_for", "zoom", "prefer", "profile", "state", "window")
_MOST_TOLD = 10


@dataclass(frozen=True, slots=True)
class Asked:
    """What a person asked of how pages are opened.

    Attributes:
        width, root: None if nothing was asked.
        offline, headers, cookies: as in `murvel.loading.setup.Setup`; headers as a file.
        credentials: those that stood in addresses, or were typed, by origin.
        strict: whether what was not read makes the command fail.
        browser: how a browser opens pages, None for the built-in stage.
        settings: the settings of the project, None if it has none.
        incomplete: what was not read, as far as it was told.
    """

    width: int | None = None
    root: Path | None = None
    offline: bool = False
    headers: Path | None = None
    cookies: Path | None = None
    strict: bool = False
    browser: BrowserSetup | None = None
    credentials: Mapping[str, Credentials] = field(default_factory=dict)
    settings: Config | None = None
    incomplete: list[Problem] = field(default_factory=list)

    def tell(self, problems: Iterable[Problem], page: str = "") -> None:
        """Print what could not be honoured of a page on standard error; no more than `_MOST_TOLD` lines for each."""
        lines = in_few_lines(problems)
        for line in lines[:_MOST_TOLD]:
            print_error(f"{page}: {line}" if page else line)
        if len(lines) > _MOST_TOLD:
            print_error(f"{page}: {len(lines) - _MOST_TOLD} more; --format json has all of them.".removeprefix(": "))
        self.incomplete.extend(each for each in problems if each.is_grave)

    def setup(self, width: int | None = None) -> Setup:
        """Return how pages are opened: as was asked, else as the settings say.

        Args:
            width: the width where none was asked for; None for that of the settings.

        Raises:
            PageError: the file of headers cannot be used.
        """
        settings = self.settings
        known_width, known_root = (settings.width, settings.root) if settings is not None else (DEFAULT_WIDTH, None)
        headers = read_headers(self.headers) if self.headers is not None else ()
        return Setup(
            self.width or width or known_width,
            self.root or known_root,
            self.offline,
            headers,
            self.cookies,
            dict(self.credentials),
            self.browser,
            cache_folder() / "excerpts",
        )

    def voice(self, name: str | None = None) -> Voice | None:
        """Return the voice with a name, else that of the settings; None if neither names one.

        Raises:
            ReaderError: there is no such voice.
        """
        wanted = name or (self.settings.voice if self.settings is not None else "")
        return voice_of(wanted) if wanted else None

    def catalogue(self) -> Catalogue:
        """Return the checks, with those that the settings name.

        Raises:
            CheckError: a file of checks cannot be used.
        """
        return catalogue_of(self.settings)

    def knowing(self, origin: str, credentials: Credentials) -> Asked:
        """Return the same with the credentials for one origin more."""
        return replace(self, credentials={**self.credentials, origin: credentials})


def opens_pages(command: Callable[..., None]) -> Callable[..., None]:
    """Give a command the options, and call it with what was asked as `asked`.

    A command that takes `widths` has an option for them itself; the settings are those of its `config`, if it has one.

    Its `page` or `pages` come without the credentials in them. Where a server wants a user name and password and
    there is a terminal, they are asked for, and the command begins again.
    """

    own = inspect.signature(command).parameters

    @wraps(command)
    def run(**given: Any) -> None:
        options = {name: given.pop(name) for name in [*given] if name not in own}
        asked = replace(_asked(options), settings=settings_of(given.get("config")))
        for name in {"page", "pages"} & given.keys():
            addresses = [given[name]] if name == "page" else given[name] or []
            clean = []
            for address in addresses:
                address, found = split_credentials(address)
                clean.append(address)
                if found is not None:
                    asked = asked.knowing(origin_of(address), _complete(origin_of(address), found))
            given[name] = clean[0] if name == "page" else clean
        try:
            command(**given, asked=asked)
        except CredentialsError as error:
            if not _can_ask() or error.origin in asked.credentials:
                raise
            user = click.prompt(f"User name for {error.origin}", err=True)
            command(**given, asked=asked.knowing(error.origin, _complete(error.origin, Credentials(user, None))))
        if asked.strict and asked.incomplete:
            raise click.exceptions.Exit(Exit.ERROR)

    for each in reversed(_OPTIONS if "widths" in own else (_WIDTH, *_OPTIONS)):
        each(run)
    return run


def _asked(options: dict[str, Any]) -> Asked:
    """Return what was asked; whatever only a browser can do asks for one."""
    of_browsers = {name: options.pop(name) for name in (*_OF_BROWSERS, "program")}
    is_wanted = options.pop("browser") or any(of_browsers[name] for name in _OF_BROWSERS)
    preferred = set(of_browsers["prefer"] or ())
    browser = BrowserSetup(
        of_browsers["zoom"] or 100,
        Preference.DARK in preferred,
        Preference.LESS_MOTION in preferred,
        Preference.FORCED_COLORS in preferred,
        of_browsers["wait_for"] or "",
        of_browsers["profile"],
        of_browsers["state"],
        of_browsers["window"],
        of_browsers["program"],
    )
    return Asked(**options, browser=browser if is_wanted else None)


def _can_ask() -> bool:
    return sys.stdin.isatty() and sys.stderr.isatty()


def _complete(origin: str, credentials: Credentials) -> Credentials:
    """Ask for the password where it is not known."""
    if credentials.password is not None or not _can_ask():
        return credentials
    return credentials._replace(password=click.prompt(f"Password for {origin}", hide_input=True, err=True))
