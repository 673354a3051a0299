"""HTTP headers that a person gives in a file, one to a line (RFC 9110 §5)."""

from __future__ import annotations

from pathlib import Path

from murvel.loading.addresses import shown
from murvel.loading.errors import PageError
from murvel.patterns import pattern

_LARGEST = 100_000
_LINE = pattern(r"([!#$%&'*+.^_`|~0-9A-Za-z-]+):[ \t]*([\x20-\x7e\x80-\xff]*)")


def read_headers(path: Path) -> tuple[tuple[str, str], ...]:
    """Return the headers in a file; empty lines and those that begin with # count for nothing.

    Raises:
        PageError: the file cannot be read, or a line is no header; the message names the line but does not show it.
    """
    name = shown(str(path))
    try:
        with path.open(encoding="utf-8", errors="surrogateescape") as stream:
            text = stream.read(_LARGEST)
    except OSError as error:
        raise PageError(f"The headers {name} cannot be read ({error.strerror})", "check the path.") from error
    headers = []
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip() or line.startswith("#"):
            continue
        found = _LINE.fullmatch(line.rstrip())
        if found is None:
            raise PageError(f"Line {number} of the headers {name} is no header", "write each as Name: value.")
        headers.append((found.group(1), found.group(2)))
    return tuple(headers)
