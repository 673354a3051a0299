"""Starting Chromium, once for a whole run, and ending it with everything that it made.

Chromium's own sandbox is used wherever it can be: it is given up only for root, for whom it does not start. Profiles
are thrown away unless a folder is named. Chromium ends when the pipe to it closes, so it ends with us however we end;
what a killed run left in the temporary folder is taken away by the next one.
"""

from __future__ import annotations

import atexit
import multiprocessing
import os
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from multiprocessing.util import Finalize
from pathlib import Path
from typing import Any

from playwright.async_api import Browser, BrowserContext, Error, Playwright, async_playwright

from murvel.browser.errors import BrowserError, NoBrowserError
from murvel.browser.thread import BrowserThread
from murvel.page.loading.addresses import shown
from murvel.page.setup import BrowserSetup

HEIGHT = 800
"""The viewport's height in CSS pixels at 100 percent."""

_NAMES = ("chromium", "chromium-browser", "google-chrome")
_FOLDER = "murvel-browser-"
_LONGEST_FOLDER, _SHORT = 50, Path("/tmp")
"""Chromium makes a socket in its folder, and paths of sockets are short (unix(7): 108 bytes)."""

FLAGS = [
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-quic",
    "--block-new-web-contents",  # what a new tab asks for would be out of our sight
    # Requests of frames of other sites are paused by the same session as those of the page.
    "--disable-site-isolation-trials",
    "--disable-features=IsolateOrigins,site-per-process,WebRtcHideLocalIpsWithMdns",
    "--force-webrtc-ip-handling-policy=disable_non_proxied_udp",
]


def find_chromium(program: Path | None = None) -> str | None:
    """Return the path of an installed Chromium, None if there is none.

    Args:
        program: the one that a person named; it counts alone.
    """
    if program is not None:
        return shutil.which(str(program.expanduser()))
    return next((path for name in _NAMES if (path := shutil.which(name)) is not None), None)


def has_sandbox() -> bool:
    """Whether Chromium runs in its own sandbox here."""
    return not hasattr(os, "geteuid") or os.geteuid() != 0


class Chromium:
    """A browser at work, in a thread of its own.

    Attributes:
        thread: the thread.
        version: its name and version.
    """

    def __init__(self, setup: BrowserSetup) -> None:
        """Start it.

        Raises:
            BrowserError: there is none, or it does not start.
        """
        path = find_chromium(setup.program)
        if path is None:
            if setup.program is not None:
                raise BrowserError(f"{setup.program} is no browser that can be started", "check the path.")
            raise NoBrowserError("No Chromium was found", "install your system's chromium package.")
        self._path, self._is_shown = path, setup.is_shown
        self._folder = _own_folder()
        self.thread = BrowserThread()
        self._playwright: Playwright | None = None
        self._browser: Browser | None = None
        self.version = "Chromium"
        self._is_closed = False
        atexit.register(self.close)
        if multiprocessing.parent_process() is not None:  # workers end without what is registered there
            Finalize(None, self.close, exitpriority=10)
        try:
            self.thread.run(self._start())
        except Error as error:
            self.close()
            hint = "check that there is a display for its window." if setup.is_shown else "check its installation."
            raise BrowserError(f"Chromium does not start ({_first_line(error)})", hint) from error

    async def _start(self) -> None:
        with _temporary(self._folder):
            self._playwright = await async_playwright().start()
        self._browser = await self._playwright.chromium.launch(**self._given())
        self.version = f"Chromium {self._browser.version}"

    def _given(self) -> dict[str, Any]:
        """How it is launched; signals are ours to handle."""
        return {
            "executable_path": self._path,
            "args": FLAGS,
            "headless": not self._is_shown,
            "chromium_sandbox": has_sandbox(),
            "env": {**os.environ, "TMPDIR": self._folder},
            **dict.fromkeys(("handle_sigint", "handle_sigterm", "handle_sighup"), False),
        }

    @property
    def is_alive(self) -> bool:
        """Whether it can still be asked."""
        return self._browser is not None and self._browser.is_connected()

    async def context(self, setup: BrowserSetup, width: int) -> BrowserContext:
        """Return a room of its own for one page: its own cookies, storage and cache."""
        assert self._playwright is not None
        assert self._browser is not None
        scale = setup.zoom / 100
        given: dict[str, Any] = {
            "viewport": {"width": max(1, round(width / scale)), "height": max(1, round(HEIGHT / scale))},
            "device_scale_factor": scale,
            "color_scheme": "dark" if setup.is_dark else "light",
            "reduced_motion": "reduce" if setup.has_less_motion else "no-preference",
            "forced_colors": "active" if setup.has_forced_colors else "none",
            "accept_downloads": False,
            "service_workers": "block",
        }
        if setup.state is not None and not setup.state.expanduser().is_file():
            raise BrowserError(
                f"There is no file {shown(str(setup.state))} with cookies and storage", "check the path."
            )
        if setup.profile is None:
            return await self._browser.new_context(**given, storage_state=setup.state)
        profile = setup.profile.expanduser()
        return await self._playwright.chromium.launch_persistent_context(profile, **given, **self._given())

    def close(self) -> None:
        """End the browser and take away what it left; again it does nothing."""
        if self._is_closed:
            return
        self._is_closed = True
        atexit.unregister(self.close)
        with suppress(Exception):
            self.thread.run(self._stop(), patience=10)
        self.thread.stop()
        shutil.rmtree(self._folder, ignore_errors=True)

    async def _stop(self) -> None:
        if self._browser is not None:
            await self._browser.close()
        if self._playwright is not None:
            await self._playwright.stop()


_running: dict[tuple[Path | None, bool], Chromium] = {}


def chromium(setup: BrowserSetup) -> Chromium:
    """Return the browser that serves all pages of this process; it is started where it does not run.

    Raises:
        BrowserError: it cannot be started.
    """
    key = (setup.program, setup.is_shown)
    running = _running.get(key)
    if running is None or not running.is_alive:
        if running is not None:
            running.close()
        running = _running[key] = Chromium(setup)
    return running


def _own_folder() -> str:
    """Make a temporary folder of this process, and take away those of processes that are gone."""
    for temporary in {Path(tempfile.gettempdir()), _SHORT}:
        for left in temporary.glob(f"{_FOLDER}*"):
            owner = left.name.removeprefix(_FOLDER).partition("-")[0]
            if owner.isdecimal() and not _is_running(int(owner)):
                shutil.rmtree(left, ignore_errors=True)
    folder = tempfile.mkdtemp(prefix=f"{_FOLDER}{os.getpid()}-")
    if len(folder) <= _LONGEST_FOLDER or not _SHORT.is_dir():
        return folder
    os.rmdir(folder)
    return tempfile.mkdtemp(prefix=f"{_FOLDER}{os.getpid()}-", dir=_SHORT)


@contextmanager
def _temporary(folder: str) -> Iterator[None]:
    """Let a program that is started meanwhile keep its temporary files in a folder."""
    before = os.environ.get("TMPDIR")
    os.environ["TMPDIR"] = folder
    try:
        yield
    finally:
        if before is None:
            del os.environ["TMPDIR"]
        else:
            os.environ["TMPDIR"] = before


def _is_running(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except OSError:
        return True
    return True


def _first_line(error: Error) -> str:
    return error.message.strip().splitlines()[0] if error.message.strip() else "no reason was given"
