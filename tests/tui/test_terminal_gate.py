"""What goes to the terminal, byte by byte, for a page whose every text would act on it."""

import fcntl
import os
import pty
import re
import select
import signal
import struct
import sys
import termios
import time
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from html import unescape
from pathlib import Path

import pytest
from rich.segment import Segment
from rich.style import Style
from textual.color import Color
from textual.pilot import Pilot

from murvel.browser.launch import find_chromium
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.loading.setup import Setup
from murvel.text import ACTING
from murvel.tui.app import MurvelApp
from murvel.tui.registry import NUMBERED
from murvel.tui.terminal_gate import TerminalGate
from murvel.work.opening import Opening
from tests.tui.support import press, until

BYTES = "\x1b]52;c;QQ==\x07\x1b]2;taken\x07\x9b31m\x1b[2J\u202e\u2066\u200f\ufffe\U000e0041\r\n\x08\x7f"
OWN = re.compile(
    r"\x1b\[[0-9;?>=<$ ]*[a-zA-Z]|\x1b[=>78]|\x1b\]22;\w+\x07|\x1b\]52;c;[A-Za-z0-9+/=]*\x07|\x1b\[[?0-9;]*\$p|\x1bP\+q[0-9a-f;]*\x1b\\\\"
)
"""What the application itself writes: colours, places, modes, the pointer's shape, what a person copies."""

DIALOGS = ["slash", "ctrl+p", "o", "d", "3"]


def hostile_page() -> str:
    written = BYTES.encode().decode("latin-1").encode("latin-1").decode("utf-8")
    x = "".join(f"&#{ord(each)};" if each not in "\x9b\r" else each for each in written) + "name"
    attributes = f'aria-label="{x}" title="{x}" id="i{x}" data-x="{x}" class="{x}"'
    return f"""<!DOCTYPE html><html lang="{x}"><title>{x}</title><a href="#i{x}">Skip {x}</a>
    <nav {attributes}><a href="{x}.html">{x}</a><a href="http://{x}.test/">{x}</a></nav>
    <main id="i{x}"><h1>{x}</h1><h3 {attributes}>{x}</h3><p>{x}</p><img src="{x}.png" alt="{x}"><img src="{x}.png">
    <form action="{x}"><label>{x}<input value="{x}" placeholder="{x}" name="{x}" pattern="{x}"></label>
    <input {attributes}><select><option>{x}</select><textarea>{x}</textarea><button onclick="{x}">{x}</button></form>
    <table><caption>{x}</caption><tr><th>{x}<td>{x}</table><div role=status>{x}</div><div onclick=x>{x}</div>
    <details><summary>{x}</summary>{x}</details><iframe title="{x}" src="{x}.html"></iframe>
    <style>p::after {{ content: "{BYTES}" }} .{x} {{ x: y }}</style></main>"""


def hostile_file(folder: Path) -> Path:
    page = folder / "page \x1b]2;x\x07\u202e.html"
    page.write_bytes(hostile_page().encode("utf-8", "surrogatepass"))
    return page


@asynccontextmanager
async def opened_page(folder: Path) -> AsyncIterator[Pilot[None]]:
    with Casebook(folder / "book.murvel") as book:
        app = MurvelApp(book, Opening(str(hostile_file(folder)), Setup()), built_in())
        async with app.run_test(size=(160, 47)) as pilot:
            await until(pilot, lambda: app.page is not None and app.page.front)
            yield pilot
            app.exit()


def acting(text: str) -> list[str]:
    """What of it acts on the terminal beside the application's own colours and places."""
    text = OWN.sub("", text).replace("\n", "").replace("\r", "")
    return [text[max(0, found.start() - 30) : found.end() + 10] for found in ACTING.finditer(text)]


def drawn(pilot: Pilot[None]) -> str:
    """All text of the screen, as it is drawn."""
    return unescape(pilot.app.export_screenshot())


async def test_nothing_that_is_drawn_acts_on_the_terminal(tmp_path: Path) -> None:
    seen = set()
    async with opened_page(tmp_path) as pilot:
        for number in range(1, len(NUMBERED) + 1):
            for keys in ("down", *(DIALOGS if number == 1 else ["d"])):
                await press(pilot, str(number), "down", keys)
                text = drawn(pilot)
                assert acting(text) == []
                seen.add(text)
                await press(pilot, "escape", "escape")
    assert len(seen) > 8


async def test_without_the_gate_it_would(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(TerminalGate, "apply", lambda _, segments, background: segments)
    async with opened_page(tmp_path) as pilot:
        await press(pilot, "d")
        await until(pilot, lambda: pilot.app.screen is not pilot.app.page)
        await pilot.pause()
        assert acting(drawn(pilot)) != []


@pytest.mark.thorough
@pytest.mark.parametrize("options", [[], ["--browser"]])
def test_the_bytes_that_a_terminal_gets(tmp_path: Path, options: list[str]) -> None:
    if options and find_chromium() is None:
        pytest.skip("Chromium is not installed")
    given = ["open", str(hostile_file(tmp_path)), "--casebook", str(tmp_path / "b.murvel"), *options]
    process, terminal = pty.fork()
    if process == 0:
        os.environ.update(TERM="xterm-256color", COLUMNS="160", LINES="47", HOME=str(tmp_path))
        os.execv(sys.executable, [sys.executable, "-m", "murvel", *given])
    fcntl.ioctl(terminal, termios.TIOCSWINSZ, struct.pack("HHHH", 47, 160, 0, 0))
    data = _read(terminal, 12 if options else 5)
    for number, view in enumerate(NUMBERED, 1):
        keys = {each for action in view.ACTIONS for each in action.keys.split(",") if len(each) == 1 and each != "q"}
        for key in [*sorted(keys), "d", "/", "?", "\x10", "]"]:
            os.write(terminal, f"{number}".encode() + key.encode())
            data += _read(terminal, 0.15)
            os.write(terminal, b"\x1b")
            data += _read(terminal, 0.05)
    os.kill(process, signal.SIGTERM)
    data += _read(terminal, 3)
    os.waitpid(process, 0)
    text = data.decode("utf-8", "replace")
    assert len(text) > 200_000
    assert "name" in text
    assert acting(text) == []


def _read(terminal: int, seconds: float) -> bytes:
    """What a terminal gets for so long."""
    data, end = b"", time.monotonic() + seconds
    while (left := end - time.monotonic()) > 0:
        if select.select([terminal], [], [], left)[0]:
            try:
                data += os.read(terminal, 1 << 16)
            except OSError:
                break
    return data


@pytest.mark.parametrize(
    ("text", "drawn"),
    [
        ("plain", "plain"),
        ("a\x1b]2;x\x07b", "a]2;xb"),
        ("é\u202eü", "éü"),
        ("x\ufffey", "x\ufffdy"),
        ("ни\u200cми", "ни\u200cми"),
        ("a\nb\tc", "abc"),
    ],
)
def test_what_is_drawn_has_the_same_width(text: str, drawn: str) -> None:
    before = Segment(text, Style(link="http://x.test/"))
    (after,) = TerminalGate().apply([before], Color(0, 0, 0))
    assert after.text == drawn
    assert after.cell_length == before.cell_length
    assert after.style is not None
    assert after.style.link is None
