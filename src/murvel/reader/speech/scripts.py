"""Scripts of the world: what a text in one of them takes to be heard, and where its words are.

Their patterns load only where a text has more than ASCII, or is read word by word.
"""

from __future__ import annotations

from collections.abc import Mapping

from murvel.patterns import unicode_pattern

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
_COUNTED = unicode_pattern("|".join(f"(?P<{name}>{letters}+)" for name, letters in (*_SCRIPTS, *_LETTERS)))
_KANA = unicode_pattern(r"[\p{Hiragana}\p{Katakana}]")
_WORD = unicode_pattern(r"(?w)\b(?=[\p{L}\p{N}]).+?\b")
_SPACED = unicode_pattern(r"\S+")
_UNSPACED = unicode_pattern(r"[\p{Han}\p{Hiragana}\p{Katakana}\p{Thai}\p{Lao}\p{Khmer}]")


def minutes_of(text: str, main: str, characters: Mapping[str, int], words: int) -> float:
    """Return how many minutes a text takes at a usual speed.

    Args:
        text: the text.
        main: the language of letters that many languages share.
        characters: the characters a minute of each language.
        words: the words a minute of English.
    """
    letters = characters.get(main, characters["en"])
    is_japanese = main == "ja" or _KANA.search(text) is not None
    total = 0.0
    for found in _COUNTED.finditer(text):
        size = found.end() - found.start()
        script = found.lastgroup
        if script in ("digits", "letters"):
            total += size / words  # a digit or a single letter is about a word: "forty", "double u"
        elif script == "other" or script is None:
            total += size / letters
        else:
            total += size / characters["ja" if script == "zh" and is_japanese else script]
    return total


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
