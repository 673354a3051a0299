"""The spoken form of text: symbols, emoji and addresses as the words they are heard as.

Which symbols are spoken depends on a voice's punctuation level; what is not spoken stays as it is, a pause at most.
"""

from __future__ import annotations

import re
import unicodedata
from enum import IntEnum
from functools import lru_cache

from murvel.patterns import pattern
from murvel.reader.speech.capitals import by_letters
from murvel.reader.speech.emoji_names import named
from murvel.reader.speech.wording.words import ENGLISH, Words


class Punctuation(IntEnum):
    """How much of the punctuation is spoken."""

    NONE = 0
    SOME = 1
    MOST = 2
    ALL = 3


_SOME = "*#@&+=<>%|~^\\§©®™°×÷±≤≥≠←→↑↓↔⇒»«›‹✓✗✕★☆⌘⌥⇧⌃•■▲▼▶◀"
_MOST = "/_()[]{}–—…·`"
_ALL = ".,;:!?-'’\"“”$€£"

LEVELS: dict[str, Punctuation] = {
    symbol: level
    for symbols, level in ((_SOME, Punctuation.SOME), (_MOST, Punctuation.MOST), (_ALL, Punctuation.ALL))
    for symbol in symbols
}
"""Each symbol, and the level from which on it is spoken. Currency goes with its amount until all is spoken."""

_WITH_WORDS = frozenset(LEVELS)

_SILENT = pattern(
    "[\ue000-\uf8ff\U000f0000-\U0010ffff"  # icons of private use
    "\u00ad\u061c\u200b\u200e\u200f\u202a-\u202e\u2060\u2066-\u2069\ufeff"  # soft hyphens, direction marks, no width
    "\ufe0e\ufe0f\U0001f3fb-\U0001f3ff]"  # what only changes how the character before looks
    "|(?<![\u0590-\u1cff])[\u200c\u200d]|[\u200c\u200d](?![\u0590-\u1cff])"  # joiners, but where they shape letters
)
"""Characters that are not heard."""

_PLAIN = pattern(r"[A-Za-z0-9 .,;:!?'\"$€£’“”\-\n]*\Z")
"""Text in which nothing is spoken on the levels up to some."""

_ADDRESS = pattern(r"(?:[a-z][a-z0-9+.-]{0,30}://|www\.|mailto:)[^\s<>\"]+", re.IGNORECASE)
_ADDRESS_END = ".,;:!?)"
_SPACES = pattern(r" {2,}")
_BEFORE_SIGN = pattern(r"(?<=\w) (?=[,.;:!?)\]](?:[ ,.;:!?)]|\Z))")
"""The space that the words of a symbol bring along, before a sign that is not spoken."""


@lru_cache(maxsize=50_000)
def spoken(text: str, level: Punctuation, words: Words = ENGLISH) -> str:
    """Return the words that `text` is heard as.

    Abbreviations that are read letter by letter have their letters apart. Addresses are heard symbol by symbol on every
    level: that is what a person has to sit through.

    Args:
        text: text of a page.
        level: how much of the punctuation is spoken.
        words: the words for symbols.
    """
    given = text = by_letters(text)
    if Punctuation.NONE < level < Punctuation.ALL and _READ_TOGETHER.search(text):
        text = _READ_TOGETHER.sub(lambda found: _together(found, words), text)
    if level > Punctuation.NONE:
        text = named(text, words.language, _WITH_WORDS)
    if text is given and level <= Punctuation.SOME and _PLAIN.match(text) and "://" not in text and "www." not in text:
        return text
    pieces: list[str] = []
    done = 0
    for found in _ADDRESS.finditer(text):
        address = found.group().rstrip(_ADDRESS_END)
        pieces.append(_words(text[done : found.start()], level, words))
        pieces.append(_address(address, words))
        done = found.start() + len(address)
    pieces.append(_words(text[done:], level, words))
    return _BEFORE_SIGN.sub("", _SPACES.sub(" ", "".join(pieces)))


_READ_TOGETHER = pattern(
    r"(?P<stars>[★☆]{3,10})"
    r"|(?P<run>([*#=<>~|^\\_-])\3{2,})"
    r"|(?P<sharp>\b[ACDFG]#(?!\w))"
    r"|(?P<number>(?<!\S)#(?=\d))"
    r"|(?P<minus>(?<=\d) [-−] (?=\d))"
    r"|(?P<raised>(?<=\w)⁻?[⁰¹²³⁴-⁹]+)"
    r"|(?P<lowered>(?<=\w)[₀-₉]+)"
)
"""Signs that are read as one: a rating, a line or prompt of the same sign, C#, #1, a minus between numbers, and digits
that are raised or lowered: a power behind a number or a unit, a mark behind a word."""

_DIGITS = str.maketrans("⁻⁰¹²³⁴⁵⁶⁷⁸⁹₀₁₂₃₄₅₆₇₈₉", "-01234567890123456789")
_BASE = pattern(r"(?<![^\W\d_])(?:[^\W\d_]{1,2}|\d+)\Z")
_POWERS = {"2": "squared", "3": "cubed"}


def _together(found: re.Match[str], words: Words) -> str:
    text = found[0]
    match found.lastgroup:
        case "stars":
            return words.phrase("stars", n=text.count("★"), size=len(text))
        case "sharp":
            return words.phrase("sharp", letter=text[0])
        case "number":
            return f"{words.phrase('number')} "
        case "minus":
            return f" {words.phrase('minus')} "
        case "lowered":
            return words.phrase("index", what="", n=text.translate(_DIGITS)).rstrip() + " "
        case "raised":
            digits = text.translate(_DIGITS)
            if not _BASE.search(found.string, 0, found.start()):
                return f" {words.roles['superscript']} {digits}"
            return words.phrase(_POWERS.get(digits, "power"), what="", n=digits)
    return " "  # a line, or a prompt: no more than a pause


def _words(text: str, level: Punctuation, words: Words) -> str:
    text = _SILENT.sub("", text).replace("\t", " ")
    return "".join(_word(character, level, words) for character in text)


def _word(character: str, level: Punctuation, words: Words) -> str:
    if character.isalnum() or character in " \n":
        return character
    from_level = LEVELS.get(character)
    if from_level is not None:
        return f" {words.symbols[character]} " if level >= from_level else character
    if level > Punctuation.NONE and unicodedata.category(character) in ("So", "Sm"):
        name = unicodedata.name(character, "").lower()
        return f" {name} " if name else ""
    return character


def _address(address: str, words: Words) -> str:
    special = {".": "dot", "-": "dash", ":": "colon"} if words is ENGLISH else {}
    return "".join(
        f" {special.get(character) or words.symbols[character]} " if character in LEVELS else character
        for character in address
    )


_LETTERS = {
    word[0]: word
    for word in (
        "acorn birch clover dahlia elder fern garden hazel iris juniper kale lilac maple nettle orchid poppy quince "
        "rose sage thistle umbel violet willow xylem yarrow zinnia"
    ).split()
}
"""A word for each letter, so that b and d are told apart; from the garden, as the demo is."""


_SPELLED_SPACES = {" ": "space", "\u00a0": "no_break_space", "\n": "line_break"}


def spelled(character: str, words: Words = ENGLISH, *, with_word: bool = False) -> str:
    """Return how a single character is heard when it is spelled.

    Args:
        character: one character.
        words: the words for symbols and capitals.
        with_word: for letters, add the word that begins with it.
    """
    if character in _SPELLED_SPACES:
        return words.phrase(_SPELLED_SPACES[character])
    if character in LEVELS:
        return words.symbols[character]
    if character.isalpha():
        word = _LETTERS.get(character.lower()) if with_word else None
        letter = words.phrase("capital", letter=character.lower()) if character.isupper() else character
        return f"{letter}, {word}" if word else letter
    if character.isalnum():
        return character
    name = named(character, words.language, _WITH_WORDS).strip()
    if name != character:
        return name
    return unicodedata.name(character, f"character {ord(character):X}").lower()
