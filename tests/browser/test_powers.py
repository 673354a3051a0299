"""What else a page may want of a browser and of the machine: each is refused, and nothing of it stays on disk."""

import os
import stat
from collections.abc import Iterator
from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser
from murvel.loading.setup import BrowserSetup, Setup
from murvel.tree.exchange.write import to_text
from tests.loading.web import html, serving

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

ASKED = {
    "notifications": "Notification.requestPermission()",
    "geolocation": "new Promise((done) => navigator.geolocation.getCurrentPosition(() => done('granted'), (e) => done('denied')))",
    "camera": "navigator.mediaDevices.getUserMedia({video: true}).then(() => 'granted', () => 'denied')",
    "microphone": "navigator.mediaDevices.getUserMedia({audio: true}).then(() => 'granted', () => 'denied')",
    "screen": "navigator.mediaDevices.getDisplayMedia().then(() => 'granted', () => 'denied')",
    "clipboard": "navigator.clipboard.readText().then(() => 'granted', () => 'denied')",
    "files": "showOpenFilePicker().then(() => 'granted', () => 'denied')",
    "folders": "showDirectoryPicker().then(() => 'granted', () => 'denied')",
    "midi": "navigator.requestMIDIAccess({sysex: true}).then(() => 'granted', () => 'denied')",
    "bluetooth": "(navigator.bluetooth?.requestDevice({acceptAllDevices: true}) ?? Promise.reject()).then(() => 'granted', () => 'denied')",
    "usb": "(navigator.usb?.requestDevice({filters: []}) ?? Promise.reject()).then(() => 'granted', () => 'denied')",
    "serial": "(navigator.serial?.requestPort() ?? Promise.reject()).then(() => 'granted', () => 'denied')",
    "idle": "(globalThis.IdleDetector?.requestPermission() ?? Promise.reject()).then((got) => got, () => 'denied')",
    "windows": "(globalThis.getScreenDetails?.() ?? Promise.reject()).then(() => 'granted', () => 'denied')",
    "fonts": "(globalThis.queryLocalFonts?.() ?? Promise.reject()).then((got) => got.length ? 'granted' : 'denied', () => 'denied')",
    "persistence": "navigator.storage.persist().then((got) => got ? 'granted' : 'denied')",
}


def test_no_permission_is_given() -> None:
    items = "".join(
        f"<script>Promise.race([({question}), new Promise((done) => setTimeout(done, 1500, 'denied'))])"
        f".catch(() => 'denied').then((got) => document.body.append({name!r} + ' ' + got + '. '))</script>"
        for name, question in ASKED.items()
    )
    with serving() as server:
        server.answers = {"/": html(f"<title>x</title><body>{items}")}
        setup = Setup(browser=BrowserSetup(wait="2.5"))
        stage = open_in_browser(f"{server.address}/", setup)
        heard = "\n".join(to_text(stage.tree))
        stage.close()
    assert [name for name in ASKED if f"{name} denied" not in heard and f"{name} default" not in heard] == []
    assert "granted" not in heard


@pytest.fixture(scope="module")
def programs(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Path]:
    """Programs that a browser may start for a page, each of which tells that it was; the browser starts after them."""
    folder = tmp_path_factory.mktemp("programs")
    for name in ("xdg-open", "gio", "gvfs-open", "kde-open", "x-www-browser", "sensible-browser", "mail", "lp", "lpr"):
        (folder / name).write_text(f"#!/bin/sh\necho {name} >> {folder}/started\n")
        (folder / name).chmod(stat.S_IRWXU)
    before = os.environ["PATH"]
    os.environ["PATH"] = f"{folder}:{before}"
    yield folder
    os.environ["PATH"] = before


@pytest.mark.parametrize(
    ("markup", "told"),
    [
        ('<a id=a download href="data:text/plain,x">x</a><script>a.click()</script>', "a download was refused"),
        ("<script>alert('hello')</script>", "browser dialog (alert): “hello”"),
        ("<script>confirm('sure')</script>", "browser dialog (confirm): “sure”"),
        ("<script>prompt('name')</script>", "browser dialog (prompt): “name”"),
        ("<script>print()</script>", ""),
        ("<input type=file id=f><script>f.click(); try { f.showPicker() } catch {}</script>", ""),
        *(
            (f"<script>location = '{scheme}:x@y.test'</script>", f"another program to open {scheme}:x@y")
            for scheme in ("mailto", "tel", "odd")
        ),
        ("<script>window.open('mailto:x@y.test')</script>", "open a new tab (mailto:x@y.test)"),
        ("<iframe src='mailto:x@y.test'></iframe>", ""),
        ("<script>navigator.registerProtocolHandler('web+x', '/?%s')</script>", ""),
        ("<script>document.documentElement.requestFullscreen().catch(() => 0)</script>", ""),
        ("<script>localStorage.a = document.cookie = 'a=1'; indexedDB.open('x'); caches.open('y')</script>", ""),
    ],
)
def test_what_a_page_wants_of_the_machine(tmp_path: Path, programs: Path, markup: str, told: str) -> None:
    (tmp_path / "page.html").write_text(f"<!DOCTYPE html><title>x</title><h1>Beds</h1>{markup}")
    setup = Setup(browser=BrowserSetup(program=Path(find_chromium() or "")))
    stage = open_in_browser(str(tmp_path / "page.html"), setup)
    assert any("Beds" in line for line in to_text(stage.tree))
    assert told in "\n".join(stage.tab.take_happened().notes)
    stage.close()
    assert not (programs / "started").exists()
    assert [each.name for each in tmp_path.rglob("*")] == ["page.html"]
