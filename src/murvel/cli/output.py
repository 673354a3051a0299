"""What commands print, and how they end."""

from __future__ import annotations

import errno
import io
import os
import sys
from collections.abc import Iterable
from contextlib import suppress
from enum import IntEnum
from pathlib import Path
from typing import TextIO

from murvel.errors import MurvelError
from murvel.text import visible


class Exit(IntEnum):
    """How a command ended."""

    DONE = 0
    FAILS = 1
    ERROR = 2
    NOTHING_FOUND = 3
    STOPPED = 130
    READER_GONE = 141

    @property
    def about(self) -> str:
        """When a command ends so."""
        return _ABOUT[self]


_ABOUT = {
    Exit.DONE: "The command did what was asked.",
    Exit.FAILS: "Something fails: leads of murvel check or drill, an expectation of murvel walk, a defect that murvel "
    "retest does not confirm as repaired.",
    Exit.ERROR: "Something could not be done, if only for one of many pages. Standard error says what and why. With "
    "--strict also: something of a page was not read, or scripts make it.",
    Exit.NOTHING_FOUND: "The page, list or casebook has nothing of what was asked for.",
    Exit.READER_GONE: "The program that reads the output has closed it, as head does.",
    Exit.STOPPED: "Ctrl+C stopped the command. murvel check prints what was done so far.",
}


def print_lines(lines: Iterable[str]) -> int:
    """Print lines of data, made safe for a terminal, and return how many there were."""
    printed = 0
    for line in lines:
        sys.stdout.write(visible(line) + "\n")
        printed += 1
    return printed


def print_json(value: object) -> None:
    """Print a value as JSON; everything but plain letters is escaped, so that no terminal or encoding minds."""
    import json  # most commands print text

    sys.stdout.write(json.dumps(value, indent=2) + "\n")


def write_out(text: str, output: Path | None, what: str, error: type[MurvelError], *, force: bool) -> None:
    """Write text to the file that a person asked for; to standard output where none was, or -.

    Args:
        text: the text.
        output: the file.
        what: what it holds, in one or two words, for the message.
        error: the error of the layer that writes.
        force: whether a file is replaced that Murvel did not write.

    Raises:
        MurvelError: of the class given, where it cannot be written or would replace what is not ours.
    """
    from murvel.files.outputs import must_be_replaceable
    from murvel.files.replacing import write_text

    if output is None or str(output) == "-":
        sys.stdout.write(text)
        return
    must_be_replaceable(output, error, force=force)
    write_text(text, output, what, error)


def print_error(message: str) -> None:
    """Print an error: one plain line on standard error."""
    sys.stderr.write(f"murvel: {visible(' '.join(message.split()))}\n")


def problem_with(page: str, error: Exception) -> str:
    """Return why a page was left out of a run over many, whatever went wrong with it: one sentence."""
    if isinstance(error, MurvelError):
        return str(error)
    if isinstance(error, (RecursionError, MemoryError)):
        return f"{visible(page)} is too much for this machine ({type(error).__name__}); it was left out."
    reason = f"{type(error).__name__}: {' '.join(str(error).split())}"[:200]
    return f"{visible(page)} was left out, for a fault of Murvel's own ({visible(reason)}); please report it."


class _ClosedStream(io.TextIOBase):
    """Stands for a standard output that was closed before the command began: Python has none then."""

    def write(self, text: str) -> int:
        """Fail, as a closed file does."""
        raise OSError(errno.EBADF, "Standard output is closed")


def _to_nowhere() -> TextIO:
    return os.fdopen(os.open(os.devnull, os.O_WRONLY), "w", encoding="utf-8")


def prepare_streams() -> None:
    """Let no character stop a line from being printed, whatever the terminal's encoding, nor from being read; and let
    streams be there.
    """
    if sys.stdout is None:
        sys.stdout = _ClosedStream()
    if sys.stderr is None:
        sys.stderr = _to_nowhere()
    for stream in (sys.stdout, sys.stderr, sys.stdin):
        if hasattr(stream, "reconfigure"):
            stream.reconfigure(errors="backslashreplace")


def reader_went_away() -> None:
    """Let nothing more be printed: the program that reads our output has closed it, as `head` does."""
    sys.stdout = _to_nowhere()
    with suppress(OSError):
        os.dup2(sys.stdout.fileno(), 1)
