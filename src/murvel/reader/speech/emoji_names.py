"""Emoji by their names in CLDR (UTS #35 part 2, annotations), in the language of a voice."""

from __future__ import annotations

from functools import cache
from typing import Any

from murvel.patterns import pattern

_LIKELY = pattern("[\u203c-\u3299\U0001f000-\U0001faff\ufe0f\u20e3©®™]")
"""What stands in most emoji; text without it is left as it is at once."""

_SKIN = pattern("[\U0001f3fb-\U0001f3ff]")
_FLAG = pattern("[\U0001f1e6-\U0001f1ff]{2}\\Z")
_ENGLISH = "en"


def named(text: str, language: str, kept: frozenset[str]) -> str:
    """Return a text with the names of its emoji in their place, each between spaces.

    Args:
        text: text of a page; the colour of a skin is not told.
        language: a primary language subtag; English names stand in for those of a language without any.
        kept: characters that have words of their own.
    """
    if not _LIKELY.search(text):
        return text
    import emoji  # its tables are large, and most text has none of them

    code = _loaded(language)

    def name(character: str, facts: dict[str, Any]) -> str:
        if character in kept or character.isascii():
            return character
        words = str(facts.get(code) or facts[_ENGLISH]).strip(":").replace("_", " ")
        return f" flag {words} " if code == _ENGLISH and _FLAG.match(character) else f" {words} "

    found = str(emoji.replace_emoji(_SKIN.sub("", text), name))
    return text if found == text else found


@cache
def _loaded(language: str) -> str:
    """The language whose names are used for one, read where they were not."""
    import emoji

    if language not in emoji.LANGUAGES:
        return _ENGLISH
    emoji.config.load_language(language)
    return language
