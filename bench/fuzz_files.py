"""Damaged files of every kind that people give: python bench/fuzz_files.py TIMES [FIRST]. Status 1: one raised.

Each kind has a file that is right. Bytes of it are changed, cut, doubled and put together at random; a sentence
(`MurvelError`) is a good answer, and so is reading it. Anything else that is raised is not.
"""

from __future__ import annotations

import sys
import tempfile
import traceback
from collections.abc import Callable, Mapping
from pathlib import Path
from random import Random

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.casebook.support import PICTURE, a_defect
from tests.support import DEMO

from murvel.browser.open_in_browser import open_in_browser
from murvel.casebook.attaching import attach
from murvel.casebook.store import Casebook
from murvel.checks.engine.baseline import read_baseline
from murvel.checks.engine.config import read_config
from murvel.errors import MurvelError
from murvel.loading.headers import read_headers
from murvel.loading.network import cookies_of
from murvel.loading.settings import settings_for
from murvel.loading.setup import BrowserSetup, Setup
from murvel.page.captured.capture import read_capture
from murvel.page.captured.document import CapturedDocument
from murvel.reader.speech.voice_files import read_voice
from murvel.stage.html.cues import read_cues
from murvel.tree.build import build_tree
from murvel.tree.exchange.imported import import_tree
from murvel.walks.parsing import read_walk

Read = Callable[[Path], object]

WALK = """walk: Reserve
page: a.html
stage: built-in
steps:
  - jump headings: Plots, heading level 2
  - tab
  - space: {announced: 2 free plots, within: 2 s}
  - expect: {focus: {role: checkbox, state: checked}, headings includes: [Plots]}
"""
VOICE = 'name = "own"\nbased_on = "full"\nrate = 200\norder = ["name", "role"]\nlanguage = "en"\n'
BASELINE = '{"format": "murvel-baseline", "version": 2, "pages": {"a.html": ["link-vague a href=x"]}}'
COOKIES = "# Netscape HTTP Cookie File\nplots.test\tFALSE\t/\tFALSE\t0\tname\tvalue\n"
ODD = (
    b"\x00",
    b"\xff\xfe",
    b"\xed\xa0\x80",
    b"!!bool ",
    b"&a *a",
    b"9" * 400,
    b"[" * 300,
    b"\n\t- ",
    b'"',
    b"\x1b]2;",
    b"../",
)


def _attach(path: Path) -> None:
    with Casebook(path.with_name("book.murvel")) as book:
        attach(book, (book.defects() or [book.keep_defect(a_defect(book))])[0].id or 0, path)


def _capture() -> bytes:
    """A capture of a small page, made by the browser."""
    with tempfile.TemporaryDirectory() as folder:
        page = Path(folder) / "page.html"
        page.write_text("<!DOCTYPE html><title>Plots</title><h1>Plots</h1><p><a href=x>Home</a><input value=a>")
        stage = open_in_browser(str(page), Setup(browser=BrowserSetup()))
        text = stage.take().to_json()
        stage.close()
    return text.encode()


def _settings(path: Path) -> None:
    settings_for(path.parent)
    read_config(path)


def kinds() -> Mapping[str, tuple[str, bytes, Read]]:
    """Each kind of file: its name, one that is right, and what reads it."""
    return {
        "cues": ("a.cues.yaml", (DEMO / "found" / "plots.cues.yaml").read_bytes(), read_cues),
        "walks": ("a.walk.yaml", WALK.encode(), read_walk),
        "voices": ("a.toml", VOICE.encode(), read_voice),
        "captures": (
            "a.json",
            _capture(),
            lambda path: build_tree(CapturedDocument(read_capture(path.read_text("utf-8", "replace"), "x")).styled),
        ),
        "trees": (
            "b.json",
            (DEMO / "found" / "pocket.json").read_bytes(),
            lambda path: import_tree(path.read_text("utf-8", "replace"), "x", 800),
        ),
        "baselines": ("c.json", BASELINE.encode(), read_baseline),
        "headers": ("headers.txt", b"Authorization: Bearer x\n# note\nX-Plot: 17\n", read_headers),
        "cookies": ("cookies.txt", COOKIES.encode(), lambda path: cookies_of(Setup(cookies=path))),
        "settings": (
            "murvel.toml",
            b'root = "."\nwidth = 320\nskip = ["link-vague"]\nexclude = ["drafts"]\n',
            _settings,
        ),
        "attachments": ("picture.png", PICTURE, _attach),
    }


def changed(data: bytes, random: Random) -> bytes:
    """A file with something wrong in it."""
    made = bytearray(data)
    for _ in range(random.randint(1, 5)):
        at = random.randrange(len(made) + 1)
        match random.randrange(5):
            case 0 if made:
                made[at % len(made)] = random.randrange(256)
            case 1:
                del made[at : at + random.randint(1, 40)]
            case 2:
                made[at:at] = random.choice(ODD)
            case 3:
                made[at:at] = made[random.randrange(len(made) + 1) :][: random.randint(1, 200)]
            case _:
                made[at:at] = bytes(random.randrange(256) for _ in range(random.randint(1, 6)))
    return bytes(made)


def main() -> None:
    """Try every kind so many times, and print what went wrong."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    first = int(sys.argv[2]) if len(sys.argv) > 2 else 0
    failures = 0
    for kind, (name, data, read) in kinds().items():
        refused = 0
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / name
            path.write_bytes(data)
            read(path)  # the file that is right
            for seed in range(first, first + count):
                path.write_bytes(changed(data, Random(f"{kind} {seed}")))
                try:
                    read(path)
                except MurvelError:
                    refused += 1
                except BaseException:
                    failures += 1
                    print(f"{kind} {seed}: {traceback.format_exc(limit=-3)}", flush=True)
        print(f"{kind}: {count} damaged files, {refused} refused with a sentence", flush=True)
    print(f"{failures} failures")
    sys.exit(bool(failures))


if __name__ == "__main__":
    main()
