"""Values in words: percent of a gauge, dates, mathematics."""

from __future__ import annotations

from datetime import date

from murvel.dom.document import Element
from murvel.patterns import pattern
from murvel.reader.speech.wording.words import Words
from murvel.text import collapse
from murvel.tree.states.ranges import range_of

_DATE = pattern(r"(\d{4,6})-(\d\d)(?:-(\d\d)(?:T(\d\d:\d\d(?::\d\d)?).*)?)?")
_WEEK = pattern(r"(\d{4,6})-W(\d\d)")
_REGIONS = {"en": "en_GB"}
"""Where a language writes dates in several ways, whose way is taken."""


def percent(element: Element, role: str, words: Words) -> str:
    """Return where a gauge stands between its bounds; empty if its author says it in words, or it has no bounds."""
    found = range_of(element, role, is_focusable=False)
    if found is None or found.text or found.now is None or found.low is None or found.high is None:
        return ""
    if found.high <= found.low:
        return ""
    return words.phrase("percent", n=round(100 * (found.now - found.low) / (found.high - found.low)))


def date_words(kind: str, value: str, words: Words) -> str:
    """Return the value of a date field as it is said; one that is no date, as it is.

    Args:
        kind: the type of the input: date, month, week, time or datetime-local.
        value: its value (HTML §2.3.5, Dates and times).
        words: the words of the voice.
    """
    week = _WEEK.fullmatch(value)
    if week is not None:
        return words.phrase("week", week=int(week.group(2)), year=week.group(1))
    found = _DATE.fullmatch(value)
    if found is None or kind == "time":
        return value
    year, month, day, time = found.groups()
    try:
        when = date(int(year), int(month), int(day or 1))
    except ValueError:
        return value
    from babel.dates import format_date, format_skeleton

    locale = _REGIONS.get(words.language, words.language)
    if day is None:
        return str(format_skeleton("yMMMM", when, locale=locale))
    said = str(format_date(when, "long", locale=locale))
    return f"{said} {time}" if time else said


_DEEPEST = 20
_MINUS = frozenset("-−")


def math_words(element: Element, words: Words, depth: int = 0) -> str:
    """Return mathematics in words (MathML Core, §3: fractions, radicals, scripts, tables).

    Args:
        element: an element of MathML.
        words: the words of the voice.
        depth: how deep it stands; what stands too deep is read without structure.
    """
    parts = list(element.elements())
    tag = element.tag
    if not parts or depth > _DEEPEST:
        text = collapse(element.text())
        if tag != "mo":
            return text
        return words.phrase("minus") if text in _MINUS else words.symbols.get(text, text)
    said = [math_words(each, words, depth + 1) for each in parts]
    if tag == "mfrac" and len(said) == 2:
        return words.phrase("fraction", one=said[0], other=said[1])
    if tag == "msqrt":
        return words.phrase("root", what=" ".join(said))
    if tag == "mroot" and len(said) == 2:
        return words.phrase("nth_root", what=said[0], n=said[1])
    if tag == "msup" and len(said) == 2 and said[1] in ("2", "3"):
        return words.phrase("squared" if said[1] == "2" else "cubed", what=said[0])
    if tag in ("msup", "mover") and len(said) == 2:
        return words.phrase("power" if tag == "msup" else "above", what=said[0], n=said[1])
    if tag in ("msub", "munder") and len(said) == 2:
        return words.phrase("index" if tag == "msub" else "below", what=said[0], n=said[1])
    if tag in ("msubsup", "munderover") and len(said) == 3:
        lower, upper = ("index", "power") if tag == "msubsup" else ("from", "to")
        return words.phrase(upper, what=words.phrase(lower, what=said[0], n=said[1]), n=said[2])
    if tag == "semantics":
        return said[0]  # annotations say the same in other ways
    if tag == "mtable":
        return ", ".join(said)
    return " ".join(filter(None, said))
