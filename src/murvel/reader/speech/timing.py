"""Listening time: how long an utterance takes at a rate, by the scripts and languages it is in.

A rate is stated in words a minute of English. Texts read aloud take other numbers of characters a minute in each
language; those are from Trauzettel-Klosinski and Dietz, "Standardized Assessment of Reading Performance: The New
International Reading Speed Texts IReST", Investigative Ophthalmology and Visual Science 53 (2012), table 3: English has
228 words and 987 characters there, Japanese 357 characters. Korean and Thai, which are not among them, are reckoned
from syllables a second in Coupé, Oh, Dediu and Pellegrino, "Different languages, similar encoding efficiency", Science
Advances 5 (2019). A rate of 180 words of English is 180/228 of those speeds. docs/architecture.md, Listening time, says
what the estimate leaves out.
"""

from __future__ import annotations

from functools import lru_cache

from murvel.patterns import pattern
from murvel.reader.speech.scripts import minutes_of

DEFAULT_RATE = 180
"""Words a minute: an unhurried rate, that of a listener new to a page."""

SLOWEST, FASTEST = 60, 900
"""The bounds of rates, in words a minute."""

PAUSE = 0.3
"""Seconds of silence after an item."""

_ENGLISH_WORDS = 228
"""Words of English a minute in the texts that the table is from."""

CHARACTERS: dict[str, int] = {
    "ar": 612, "zh": 255, "nl": 978, "en": 987, "fi": 1078, "fr": 998, "de": 920, "he": 833, "it": 950, "ja": 357,
    "pl": 916, "pt": 913, "ru": 986, "sl": 885, "es": 1025, "sv": 917, "tr": 1054, "ko": 360, "th": 850,
}  # fmt: skip
"""Characters a minute read aloud, by language. A Korean character is a syllable, three Thai ones are about one."""

_ALONE = pattern(r"\b[A-Z]\b")
_ASCII = [chr(code) for code in range(128)]
_ONLY_LETTERS = str.maketrans("", "", "".join(each for each in _ASCII if not each.isalpha()))
_ONLY_DIGITS = str.maketrans("", "", "".join(each for each in _ASCII if not each.isdigit()))


@lru_cache(maxsize=50_000)
def seconds(text: str, rate: int = DEFAULT_RATE, language: str = "en") -> float:
    """Return the seconds that text is heard for, with the pause after it.

    Args:
        text: the words as they are spoken, symbols and addresses spelled out.
        rate: words of English a minute.
        language: the language of the page, for letters that many languages share.
    """
    main = language.partition("-")[0].lower()
    if text.isascii():
        minutes = _plain(text, CHARACTERS.get(main, CHARACTERS["en"]))
    else:
        minutes = minutes_of(text, main, CHARACTERS, _ENGLISH_WORDS)
    return minutes * 60 * _ENGLISH_WORDS / rate + PAUSE


def at_rate(time: float, rate: int, other: int) -> float:
    """Return the seconds that something takes at another rate, given those that it takes at one."""
    return (time - PAUSE) * rate / other + PAUSE


def _plain(text: str, letters: int) -> float:
    """The minutes that text of ASCII alone takes."""
    alone = len(_ALONE.findall(text))
    digits = len(text.translate(_ONLY_DIGITS))
    return (len(text.translate(_ONLY_LETTERS)) - alone) / letters + (digits + alone) / _ENGLISH_WORDS


def clock(time: float) -> str:
    """Return a time in seconds as minutes and seconds, as in 4:05."""
    whole = int(time)
    return f"{whole // 60}:{whole % 60:02d}"
