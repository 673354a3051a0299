"""Odd streams and odd names: closed outputs, readers that go away, full disks, file names that are not UTF-8."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

from tests.cli.support import murvel

MURVEL = f"{sys.executable} -m murvel"


@pytest.fixture
def here(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.chdir(tmp_path)
    (tmp_path / "a.html").write_text("<html lang=en><title>Plots</title><main>" + "<p>Ninety plots to let.</p>" * 3000)
    return tmp_path


@pytest.mark.parametrize(
    ("line", "status", "said"),
    [
        ("read a.html | head -1 >&2; exit ${PIPESTATUS[0]}", 141, "Plots, page"),
        ("tree a.html --format json | head -c 10 >&2; exit ${PIPESTATUS[0]}", 141, '{"format":'),
        ("check a.html --format json | head -c 1 >&2; exit ${PIPESTATUS[0]}", None, "{"),
        ("read a.html >&-", 2, "murvel: Standard output is closed; the command could not finish.\n"),
        ("--version >&-", 2, "murvel: Standard output is closed; the command could not finish.\n"),
        ("read a.html >/dev/full", 2, "murvel: No space left on device; the command could not finish.\n"),
        ("read gone.html 2>&-", 2, ""),
        ("check a.html -o out.json >&-", 0, ""),
    ],
)
def test_streams_that_are_not_there(here: Path, line: str, status: int | None, said: str) -> None:
    ended = subprocess.run(["bash", "-c", f"{MURVEL} {line}"], capture_output=True, text=True, timeout=60)
    assert status is None or ended.returncode == status
    assert said in ended.stderr  # which of two programs writes first is open
    assert "Traceback" not in ended.stderr


def test_names_that_are_not_utf_8(here: Path) -> None:
    name = os.fsdecode(b"pl\xffots.html")
    (here / name).write_text("<html lang=en><title>Plots</title><main><h1>Plots</h1><img src=x.png></main>")
    for command in ("read", "tree", "survey"):
        assert murvel(command, name).returncode == 0
    for form in ("text", "json", "sarif", "junit", "csv"):
        assert murvel("check", name, "--format", form).returncode == 1
    book = os.fsdecode(b"b\xff.murvel")
    assert murvel("listen", name, "--casebook", book, stdin="next\nquit\n").returncode == 0
    assert murvel("report", book).returncode == 0
    assert murvel("tree", ".", "-o", "out").returncode == 0


def test_one_bad_page_never_ends_the_run(here: Path) -> None:
    (here / "cues.html").write_text("<p>x")
    (here / "cues.cues.yaml").write_text("cues: !!int abc")
    (here / "dump.json").write_text('{"nodes": [3]}')
    (here / "deep.json").write_text('{"a":' * 100_000)
    checked = murvel("check", "cues.html", "dump.json", "a.html", "deep.json", "gone.html")
    assert checked.returncode == 2
    assert checked.stdout.startswith("a.html: 0 fail")
    assert len(checked.stderr.splitlines()) == 5  # the last one says which checks were not made
    assert all(line.startswith("murvel: ") for line in checked.stderr.splitlines())
