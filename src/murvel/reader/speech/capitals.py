"""Words in capitals: which are abbreviations that are read letter by letter, and which are words that are only set so.

A synthesiser decides by rules like these, and it may decide wrongly: the check `capitals-misread` says where.
"""

from __future__ import annotations

from murvel.patterns import pattern

_CAPITALS = pattern(r"(?<![^\W_])[A-Z]{2,6}(?![^\W_])")
_WORD = pattern(r"[^\W\d_]+")
_VOWEL = pattern("[AEIOUY]")
_ROMAN = pattern("M{0,3}(?:CM|CD|D?C{0,3})(?:XC|XL|L?X{0,3})(?:IX|IV|V?I{0,3})")

_BY_LETTER = frozenset(
    "AA AAA AI API ATM CEO CIO DIY DNA DOI EEA ETA EU EV FAQ FAQS GUI HIV ID IDE IO IP IQ ISBN IT IV NGO OCR OS PA PE "
    "RNA SEO TBA UAE UI UK UN URI URL URLS US USA USB UX VIP".split()
)
"""Abbreviations with a vowel that are read letter by letter all the same."""

_AMBIGUOUS = frozenset("AM AN AS AT BE BY DO GO HE IF IN IS IT ME MY NO OF ON OR PA PE SO TO UP US WE".split())
"""Words that are abbreviations as well, or are taken for such; in a text that is set in capitals they are words."""


def is_shouted(text: str) -> bool:
    """Whether a text of several words is set in capitals as a whole."""
    found = _WORD.findall(text)
    return len(found) > 1 and sum(word.isupper() for word in found) * 3 > 2 * len(found)


def is_read_by_letter(word: str, *, shouted: bool) -> bool:
    """Whether a word in capitals is read letter by letter.

    Args:
        word: two to six capital letters.
        shouted: whether all of the text around is set in capitals.
    """
    if word in _BY_LETTER:
        return not (shouted and word in _AMBIGUOUS)
    return _VOWEL.search(word) is None and _ROMAN.fullmatch(word) is None


def by_letters(text: str) -> str:
    """Return text with the letters apart of what is read letter by letter: "a P D F"."""
    if _CAPITALS.search(text) is None:
        return text
    shouted = is_shouted(text)
    return _CAPITALS.sub(
        lambda found: " ".join(found.group()) if is_read_by_letter(found.group(), shouted=shouted) else found.group(),
        text,
    )


def joined(text: str) -> str:
    """Return text with letters that stand apart put together again, to compare it with what is written."""
    return _APART.sub("", text)


_APART = pattern(r"(?<=(?<![^\W_])[A-Z]) (?=[A-Z](?![^\W_]))")


def misread(text: str) -> list[str]:
    """Return the words in capitals that a synthesiser may read the wrong way: as letters, or as a word."""
    found: list[str] = []
    shouted = is_shouted(text)
    for match in _CAPITALS.finditer(text):
        word = match.group()
        if shouted and (word in _AMBIGUOUS or word in _BY_LETTER):
            found.append(word)
    return list(dict.fromkeys(found))
