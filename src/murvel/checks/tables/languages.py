"""Which language a text is in, told by its letters and its smallest words; no answer where that is not clear."""

from __future__ import annotations

import re

from murvel.patterns import pattern

_SMALL_WORDS: dict[str, frozenset[str]] = {
    language: frozenset(words.split())
    for language, words in {
        "en": "the and of to is are was were with for that this from you your have has not which will by they our",
        "de": "der die das und ist sind war mit für nicht ein eine einen dem den des auf wird werden auch sie wir von",
        "fr": "le la les et est sont dans pour avec une des du pas que qui sur vous nous votre cette aux ne par plus",
        "es": "el los las y es son en para con una del no que por su sus más este esta como pero usted nosotros al",
        "it": "il gli è sono nel per con una del della non che su più questo questa come ma di anche lo",
        "nl": "het een en van is zijn met voor niet dat deze naar wij uw ook worden door aan bij op te",
        "pl": "się nie jest są że dla od przez oraz ale lub być był była który która które tego tej jako przy pod nad",
        "tr": "ve bir bu için ile olarak daha çok gibi olan her veya kadar sonra değil ancak ise tüm hem göre üzere",
        "pt": "o os são em para com uma do da não que por sua seu mais este esta como mas ao",
    }.items()
}

_SCRIPTS: tuple[tuple[str, re.Pattern[str], frozenset[str]], ...] = (
    ("Greek", pattern("[\u0370-\u03ff]"), frozenset({"el"})),
    ("Cyrillic", pattern("[\u0400-\u04ff]"), frozenset("ru uk bg sr mk be kk ky mn tg".split())),
    ("Hebrew", pattern("[\u0590-\u05ff]"), frozenset({"he", "yi"})),
    ("Arabic", pattern("[\u0600-\u06ff]"), frozenset("ar fa ur ps ckb ug".split())),
    ("Devanagari", pattern("[\u0900-\u097f]"), frozenset("hi mr ne sa".split())),
    ("Thai", pattern("[\u0e00-\u0e7f]"), frozenset({"th"})),
    ("Japanese", pattern("[\u3040-\u30ff]"), frozenset({"ja"})),
    ("Korean", pattern("[\uac00-\ud7af]"), frozenset({"ko"})),
    ("Chinese", pattern("[\u4e00-\u9fff]"), frozenset({"zh", "ja", "yue"})),
)

_COMMON = frozenset("ar cs da de el en es fi fr he hu it ja ko nb nl pl pt ro ru sv tr uk zh".split())
"""Languages that pages are most often in: they need no registry to be looked up in."""

_WORD = pattern(r"[^\W\d_]+")
_FEWEST = 8
_TAG = pattern(r"(?:[a-z]{2,3}(?:-[a-z]{3}){0,3}|[a-z]{4}|x|i)(?:-[a-z0-9]{1,8})*", re.IGNORECASE)


def is_tag(value: str) -> bool:
    """Whether a value is a language tag that is well formed, and of parts that are registered (BCP 47 §2.1, §2.2.9)."""
    main, _, more = value.lower().partition("-")
    if not more and main in _COMMON:
        return True
    from langcodes import tag_is_valid

    return _TAG.fullmatch(value) is not None and bool(tag_is_valid(value))


def other_language(text: str, stated: str) -> str:
    """Return the language that a text is in if that is clear and another than stated; else an empty string.

    Args:
        text: the text.
        stated: the language tag that it is said to be in.

    Returns:
        A primary language subtag, or the name of a script.
    """
    main = stated.partition("-")[0].lower()
    letters = sum(character.isalpha() for character in text)
    for name, letters_of, languages in _SCRIPTS:
        count = len(letters_of.findall(text)) if letters >= _FEWEST else 0
        if count * 2 > letters and main not in languages:
            return name
    words = [word.casefold() for word in _WORD.findall(text)]
    if len(words) < _FEWEST:
        return ""
    counts = {language: sum(word in small for word in words) for language, small in _SMALL_WORDS.items()}
    best = max(counts, key=lambda language: counts[language])
    clear = counts[best] >= 3 and counts[best] * 5 >= len(words)
    if best == main or not clear or main not in counts:
        return ""
    return best if counts[best] >= 3 * counts[main] + 2 else ""
