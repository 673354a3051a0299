"""Starting Chromium, once for a whole run, and ending it with everything that it made.

Chromium's own sandbox is used wherever it can be: it is given up only for root, for whom it does not start. Profiles
are thrown away unless a folder is named. Chromium ends when the pipe to it closes, so it ends with us however we end;
what a killed run left in the temporary folder is taken away by the next one.
"""

from __future__ import annotations

import atexit
import json
import multiprocessing
import os
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from multiprocessing.util import Finalize
from pathlib import Path
from typing import Any, NamedTuple

from playwright.async_api import Browser, BrowserContext, Error, Playwright, async_playwright

from murvel.browser.door import Door
from murvel.browser.errors import BrowserError, NoBrowserError
from murvel.browser.targets import Targets
from murvel.browser.thread import BrowserThread
from murvel.files.replacing import write_text
from murvel.loading.addresses import shown
from murvel.loading.setup import BrowserSetup

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
    # Names are the door's to resolve (`murvel.browser.door`), for whatever asks.
    "--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1",
    # Requests of frames of other sites are paused by the same session as those of the page.
    "--disable-site-isolation-trials",
    # The driver's own list of features, which is replaced, holds those that call home.
    "--disable-features=IsolateOrigins,site-per-process,WebRtcHideLocalIpsWithMdns,HttpsUpgrades,"
    "HttpsFirstBalancedModeAutoEnable,OptimizationHints,NetworkTimeServiceQuerying,MediaRouter,Translate,LensOverlay,"
    "AimEnabled,PreconnectToSearch,AutofillServerCommunication,FencedFrames,Prerender2,"
    # Each window would render the list under its address bar, whether it is shown or not, for a second of a processor.
    "WebUIOmniboxPopup,WebUIOmniboxAimPopup",
    "--webrtc-ip-handling-policy=disable_non_proxied_udp",
    "--disable-domain-reliability",
    "--disable-client-side-phishing-detection",
]

_REFUSED = 2
_PREFERENCES: dict[str, Any] = {
    "net": {"network_prediction_options": 2},  # never: no prefetch, no page shown in advance, no names in advance
    "profile": {
        "default_content_setting_values": dict.fromkeys(
            (
                "notifications", "geolocation", "media_stream_mic", "media_stream_camera", "midi_sysex", "sensors",
                "usb_guard", "serial_guard", "hid_guard", "bluetooth_guard", "bluetooth_scanning", "clipboard",
                "file_system_read_guard", "file_system_write_guard", "local_fonts", "payment_handler",
                "window_placement", "idle_detection", "background_sync", "automatic_downloads", "storage_access",
                "vr", "ar", "local_network_access",
            ),
            _REFUSED,
        )
    },
    "printing": {"enabled": False},
    "webrtc": {"ip_handling_policy": "disable_non_proxied_udp", "multiple_routes_enabled": False},
    "search": {"suggest_enabled": False},
    "safebrowsing": {"enabled": False},
    "alternate_error_pages": {"enabled": False},
    "signin": {"allowed": False},
    "translate": {"enabled": False},
}  # fmt: skip
"""What a browser's profile says of what pages may do, beside what the gate and the door hold them to."""


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


class Room(NamedTuple):
    """Where one page lives: its context, and what closes all that it opens beside itself."""

    context: BrowserContext
    targets: Targets


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
        self._programs = _no_programs(Path(self._folder))
        self.thread = BrowserThread()
        self._playwright: Playwright | None = None
        self._browser: Browser | None = None
        self._targets: Targets | None = None
        self._shut = Door(None)
        """What does not come from a page's own room, as the browser's calls home, goes nowhere."""
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
        await self._shut.open()
        profile = Path(self._folder) / "profile"
        room = await self._launched(profile, {"no_viewport": True}, self._shut)
        assert room.browser is not None
        self._browser = room.browser
        self._targets = await _watched(self._browser)
        self.version = f"Chromium {self._browser.version}"

    async def _launched(self, profile: Path, given: dict[str, Any], door: Door) -> BrowserContext:
        """Start a browser with a profile; signals are ours to handle."""
        assert self._playwright is not None
        _prefer(profile)
        return await self._playwright.chromium.launch_persistent_context(
            profile,
            **given,
            executable_path=self._path,
            args=FLAGS,
            headless=not self._is_shown,
            chromium_sandbox=has_sandbox(),
            proxy={"server": door.address},
            env={**os.environ, "TMPDIR": self._folder, "PATH": f"{self._programs}:{os.environ.get('PATH', '')}"},
            **dict.fromkeys(("handle_sigint", "handle_sigterm", "handle_sighup"), False),  # type: ignore[arg-type]
        )

    @property
    def is_alive(self) -> bool:
        """Whether it can still be asked."""
        return self._browser is not None and self._browser.is_connected()

    async def room(self, setup: BrowserSetup, width: int, door: Door) -> Room:
        """Return a room of its own for one page: its own cookies, storage and cache.

        Args:
            setup: how the page is opened.
            width: the viewport's width in CSS pixels at 100 percent.
            door: its way to a network.
        """
        assert self._browser is not None
        assert self._targets is not None
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
            context = await self._browser.new_context(
                **given, storage_state=setup.state, proxy={"server": door.address}
            )
            return Room(context, self._targets)
        context = await self._launched(setup.profile.expanduser(), given, door)
        assert context.browser is not None
        return Room(context, await _watched(context.browser))

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
        await self._shut.close()
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


async def _watched(browser: Browser) -> Targets:
    """Return what closes all that pages of a browser open beside themselves."""
    targets = Targets(await browser.new_browser_cdp_session())
    await targets.watch()
    return targets


def _prefer(profile: Path) -> None:
    """Write what we prefer into a browser's profile, beside what it prefers itself.

    Raises:
        BrowserError: the folder cannot be written to.
    """
    path = profile / "Default" / "Preferences"
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        known: dict[str, Any] = {}
        with suppress(FileNotFoundError, ValueError):
            found = json.loads(path.read_text(encoding="utf-8"))
            known = found if isinstance(found, dict) else {}
        _merge(known, _PREFERENCES)
        write_text(json.dumps(known), path, "browser's profile", BrowserError)
    except OSError as error:
        raise BrowserError(
            f"The browser's profile {shown(str(profile))} cannot be used ({error.strerror})", "check the path."
        ) from error


def _merge(known: dict[str, Any], wanted: dict[str, Any]) -> None:
    for key, value in wanted.items():
        if isinstance(value, dict) and isinstance(known.get(key), dict):
            _merge(known[key], value)
        else:
            known[key] = value


_OPENERS = ("xdg-open", "xdg-email", "xdg-mime", "xdg-settings", "gio", "gvfs-open", "kde-open", "exo-open")
"""Programs by which a browser hands an address to another program, as to one for mail."""


def _no_programs(folder: Path) -> Path:
    """Return a folder in which each of those programs does nothing: a page starts no program of the person's."""
    programs = folder / "programs"
    programs.mkdir()
    nothing = shutil.which("false") or "/bin/false"
    for name in _OPENERS:
        (programs / name).symlink_to(nothing)
    return programs


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
