"""The spoken form of text: symbols, emoji and addresses as the words they are heard as.

Which symbols are spoken depends on a voice's punctuation level; what is not spoken stays as it is, a pause at most.
"""

from __future__ import annotations

import re
import unicodedata
from enum import IntEnum
from functools import lru_cache


class Punctuation(IntEnum):
    """How much of the punctuation is spoken."""

    NONE = 0
    SOME = 1
    MOST = 2
    ALL = 3


SYMBOLS: dict[str, tuple[str, Punctuation]] = {
    **{
        symbol: (word, Punctuation.SOME)
        for symbol, word in {
            "*": "star",
            "#": "number sign",
            "@": "at",
            "&": "and",
            "+": "plus",
            "=": "equals",
            "<": "less than",
            ">": "greater than",
            "%": "percent",
            "|": "vertical bar",
            "~": "tilde",
            "^": "caret",
            "\\": "backslash",
            "§": "section sign",
            "©": "copyright",
            "®": "registered",
            "™": "trademark",
            "°": "degrees",
            "×": "times",
            "÷": "divided by",
            "±": "plus or minus",
            "≤": "at most",
            "≥": "at least",
            "≠": "not equal",
            "←": "left arrow",
            "→": "right arrow",
            "↑": "up arrow",
            "↓": "down arrow",
            "↔": "left right arrow",
            "⇒": "right double arrow",
            "»": "right double angle",
            "«": "left double angle",
            "›": "right angle",
            "‹": "left angle",
            "✓": "check mark",
            "✗": "cross mark",
            "✕": "cross mark",
            "★": "black star",
            "☆": "white star",
            "•": "bullet",
            "■": "black square",
            "▲": "black up triangle",
            "▼": "black down triangle",
            "▶": "black right triangle",
            "◀": "black left triangle",
        }.items()
    },
    **{
        symbol: (word, Punctuation.MOST)
        for symbol, word in {
            "/": "slash",
            "_": "underscore",
            "(": "left parenthesis",
            ")": "right parenthesis",
            "[": "left bracket",
            "]": "right bracket",
            "{": "left brace",
            "}": "right brace",
            "–": "dash",
            "—": "long dash",
            "…": "ellipsis",
            "·": "middle dot",
            "`": "backquote",
        }.items()
    },
    **{
        symbol: (word, Punctuation.ALL)
        for symbol, word in {
            ".": "point",
            ",": "comma",
            ";": "semicolon",
            ":": "colon",
            "!": "exclamation mark",
            "?": "question mark",
            "-": "hyphen",
            "'": "apostrophe",
            "’": "apostrophe",
            '"': "quote",
            "“": "left quote",
            "”": "right quote",
            "$": "dollar",
            "€": "euro",
            "£": "pound",
        }.items()
    },
}
"""Each symbol's word, and the level from which on it is spoken. Currency goes with its amount until all is spoken."""

_SILENT = re.compile("[\u00ad\u061c\u200b-\u200f\u202a-\u202e\u2060\u2066-\u2069\ufe0e\ufe0f\U0001f3fb-\U0001f3ff]")
"""Soft hyphens, joiners, direction marks, and what only changes how the character before looks."""

_PLAIN = re.compile(r"[A-Za-z0-9 .,;:!?'\"$€£’“”\-\n]*\Z")
"""Text in which nothing is spoken on the levels up to some."""

_ADDRESS = re.compile(r"(?:[a-z][a-z0-9+.-]*://|www\.|mailto:)[^\s<>\"]+", re.IGNORECASE)
_ADDRESS_END = ".,;:!?)"
_SPACES = re.compile(r" {2,}")


@lru_cache(maxsize=50_000)
def spoken(text: str, level: Punctuation) -> str:
    """Return the words that `text` is heard as.

    Addresses are heard symbol by symbol on every level: that is what a person has to sit through.

    Args:
        text: text of a page.
        level: how much of the punctuation is spoken.
    """
    if level <= Punctuation.SOME and _PLAIN.match(text) and "://" not in text and "www." not in text:
        return text
    pieces: list[str] = []
    done = 0
    for found in _ADDRESS.finditer(text):
        address = found.group().rstrip(_ADDRESS_END)
        pieces.append(_words(text[done : found.start()], level))
        pieces.append(_address(address))
        done = found.start() + len(address)
    pieces.append(_words(text[done:], level))
    return _SPACES.sub(" ", "".join(pieces))


def _words(text: str, level: Punctuation) -> str:
    text = _SILENT.sub("", text)
    return "".join(_word(character, level) for character in text)


def _word(character: str, level: Punctuation) -> str:
    if character.isalnum() or character in " \n":
        return character
    known = SYMBOLS.get(character)
    if known is not None:
        return f" {known[0]} " if level >= known[1] else character
    if level > Punctuation.NONE and unicodedata.category(character) in ("So", "Sm"):
        name = unicodedata.name(character, "").lower()
        return f" {name} " if name else ""
    return character


def _address(address: str) -> str:
    words = {".": "dot", "-": "dash", ":": "colon"}
    spelled = [
        f" {words.get(character) or SYMBOLS[character][0]} " if character in SYMBOLS else character
        for character in address
    ]
    return "".join(spelled)


_LETTERS = {
    word[0]: word
    for word in (
        "acorn birch clover dahlia elder fern garden hazel iris juniper kale lilac maple nettle orchid poppy quince "
        "rose sage thistle umbel violet willow xylem yarrow zinnia"
    ).split()
}
"""A word for each letter, so that b and d are told apart; from the garden, as the demo is."""


def spelled(character: str, *, with_word: bool = False) -> str:
    """Return how a single character is heard when it is spelled.

    Args:
        character: one character.
        with_word: for letters, add the word that begins with it.
    """
    if character == " ":
        return "space"
    if character == "\u00a0":
        return "no-break space"
    if character == "\n":
        return "line break"
    if character in SYMBOLS:
        return SYMBOLS[character][0]
    if character.isalpha():
        word = _LETTERS.get(character.lower()) if with_word else None
        letter = f"capital {character.lower()}" if character.isupper() else character
        return f"{letter}, {word}" if word else letter
    if character.isalnum():
        return character
    return unicodedata.name(character, f"character {ord(character):X}").lower()
