"""Listening time: how long an utterance takes at a rate in words a minute.

The estimate counts runs of letters and digits as words, a run over twelve characters once more for each twelve begun,
since long words take longer; each pause adds a fixed time. See docs/architecture.md, Listening time.
"""

import re

DEFAULT_RATE = 180
"""Words a minute: an unhurried rate, that of a listener new to a page."""

SLOWEST, FASTEST = 60, 900
"""The bounds of rates, in words a minute."""

PAUSE = 0.3
"""Seconds of silence after an item."""

_WORD = re.compile(r"\w+")
_LONG = 12


def seconds(text: str, rate: int = DEFAULT_RATE) -> float:
    """Return the seconds that `text` is heard for, with the pause after it."""
    words = sum(1 + (match.end() - match.start() - 1) // _LONG for match in _WORD.finditer(text))
    return words * 60 / rate + PAUSE


def clock(time: float) -> str:
    """Return a time in seconds as minutes and seconds, as in 4:05."""
    whole = int(time)
    return f"{whole // 60}:{whole % 60:02d}"
