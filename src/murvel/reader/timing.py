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

import regex

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

_SCRIPTS = (
    ("ja", r"[\p{Hiragana}\p{Katakana}ー]"),
    ("ko", r"[\p{Hangul}]"),
    ("zh", r"[\p{Han}]"),
    ("th", r"[\p{Thai}\p{Lao}\p{Khmer}]"),
    ("ar", r"[\p{Arabic}]"),
    ("he", r"[\p{Hebrew}]"),
    ("ru", r"[\p{Cyrillic}]"),
)
"""Scripts that tell a language, or one that is spoken about as fast."""

_LETTERS = (("digits", r"\d"), ("letters", r"\b\p{Lu}\b"), ("other", r"\p{L}"))
_COUNTED = regex.compile("|".join(f"(?P<{name}>{letters}+)" for name, letters in (*_SCRIPTS, *_LETTERS)))
_KANA = regex.compile(r"[\p{Hiragana}\p{Katakana}]")
_ALONE = regex.compile(r"\b[A-Z]\b")
_ASCII = [chr(code) for code in range(128)]
_ONLY_LETTERS = str.maketrans("", "", "".join(each for each in _ASCII if not each.isalpha()))
_ONLY_DIGITS = str.maketrans("", "", "".join(each for each in _ASCII if not each.isdigit()))
_WORD = regex.compile(r"(?w)\b(?=[\p{L}\p{N}]).+?\b")
_SPACED = regex.compile(r"\S+")
_UNSPACED = regex.compile(r"[\p{Han}\p{Hiragana}\p{Katakana}\p{Thai}\p{Lao}\p{Khmer}]")


@lru_cache(maxsize=50_000)
def seconds(text: str, rate: int = DEFAULT_RATE, language: str = "en") -> float:
    """Return the seconds that text is heard for, with the pause after it.

    Args:
        text: the words as they are spoken, symbols and addresses spelled out.
        rate: words of English a minute.
        language: the language of the page, for letters that many languages share.
    """
    main = language.partition("-")[0].lower()
    letters = CHARACTERS.get(main, CHARACTERS["en"])
    minutes = _plain(text, letters) if text.isascii() else _by_script(text, letters, is_japanese=main == "ja")
    return minutes * 60 * _ENGLISH_WORDS / rate + PAUSE


def _plain(text: str, letters: int) -> float:
    """The minutes that text of ASCII alone takes."""
    alone = len(_ALONE.findall(text))
    digits = len(text.translate(_ONLY_DIGITS))
    return (len(text.translate(_ONLY_LETTERS)) - alone) / letters + (digits + alone) / _ENGLISH_WORDS


def _by_script(text: str, letters: int, *, is_japanese: bool) -> float:
    is_japanese = is_japanese or _KANA.search(text) is not None
    minutes = 0.0
    for found in _COUNTED.finditer(text):
        size = found.end() - found.start()
        script = found.lastgroup
        if script in ("digits", "letters"):
            minutes += size / _ENGLISH_WORDS  # a digit or a single letter is about a word: "forty", "double u"
        elif script == "other" or script is None:
            minutes += size / letters
        else:
            minutes += size / CHARACTERS["ja" if script == "zh" and is_japanese else script]
    return minutes


def words_in(text: str) -> list[tuple[int, int]]:
    """Return where the words of a text begin and end: between spaces, and by Unicode's rules where none are written.

    Source: Unicode Standard Annex 29, Word Boundaries.
    """
    found: list[tuple[int, int]] = []
    for piece in _SPACED.finditer(text):
        if _UNSPACED.search(piece.group()) is None:
            found.append(piece.span())
            continue
        start = piece.start()
        found += [(start + word.start(), start + word.end()) for word in _WORD.finditer(piece.group())]
    return found


def clock(time: float) -> str:
    """Return a time in seconds as minutes and seconds, as in 4:05."""
    whole = int(time)
    return f"{whole // 60}:{whole % 60:02d}"
