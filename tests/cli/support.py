"""Running commands: in this process, which takes a fraction of the time, or in one of their own."""

import contextlib
import io
import os
import pty
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from unittest.mock import patch

import pytest

from murvel.cli.main import run
from tests.support import DEMO


def murvel(*arguments: str, stdin: str = "", home: Path | None = None) -> subprocess.CompletedProcess[str]:
    """Run a command in this process."""
    given = io.TextIOWrapper(io.BytesIO(stdin.encode("utf-8", "surrogateescape")), encoding="utf-8")
    out, err = (io.TextIOWrapper(io.BytesIO(), encoding="utf-8", write_through=True) for _ in range(2))
    with (
        at_home(home),
        patch.object(sys, "stdin", given),
        contextlib.redirect_stdout(out),
        contextlib.redirect_stderr(err),
        pytest.raises(SystemExit) as ended,
    ):
        run(list(arguments))
    printed = [stream.buffer.getvalue().decode("utf-8") for stream in (out, err)]  # type: ignore[attr-defined]
    return subprocess.CompletedProcess(arguments, int(ended.value.code or 0), *printed)


def murvel_process(*arguments: str, home: Path | None = None) -> subprocess.CompletedProcess[str]:
    """Run a command in a process of its own, as a shell does."""
    with at_home(home):
        return subprocess.run(
            [sys.executable, "-m", "murvel", *arguments], input="", capture_output=True, text=True, timeout=60
        )


def in_terminal(command: list[str], environment: dict[str, str]) -> str:
    """Run a command in a terminal of its own, and return what it prints there."""
    reader, terminal = pty.openpty()
    process = subprocess.Popen(
        command, stdin=terminal, stdout=terminal, stderr=terminal, env={**os.environ, **environment}
    )
    os.close(terminal)
    said = b""
    with contextlib.suppress(OSError):  # Linux ends a terminal that nobody has any more so
        while part := os.read(reader, 65536):
            said += part
    os.close(reader)
    process.wait(30)
    return said.decode("utf-8", "replace")


@contextlib.contextmanager
def at_home(home: Path | None) -> Iterator[None]:
    """Let a folder be the person's home."""
    if home is None:
        yield
        return
    with patch.dict(
        os.environ,
        HOME=str(home),
        XDG_DATA_HOME=str(home / "data"),
        XDG_CONFIG_HOME=str(home / "config"),
        XDG_STATE_HOME=str(home / "state"),
        XDG_CACHE_HOME=str(home / "cache"),
    ):
        yield


READ_FROM = f"What belongs to the page is read from {DEMO}, as murvel.toml says."
"""What is told of each page of the demo."""


def assert_error(result: subprocess.CompletedProcess[str], words: str) -> None:
    """A command ended with one line on standard error."""
    assert result.returncode == 2
    assert result.stdout == ""
    assert words in result.stderr
    assert result.stderr.startswith("murvel: ")
    assert [READ_FROM in line for line in result.stderr.splitlines()].count(False) == 1
    assert "\x1b" not in result.stderr
