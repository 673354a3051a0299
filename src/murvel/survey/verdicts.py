"""Verdicts at their entries, those of casebooks of earlier versions as well."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping

from murvel.survey.entry import EntryKey, Judgement
from murvel.survey.survey import Survey

_LONGEST = 200
"""Earlier versions cut keys off at this length."""


def placed(judged: Mapping[EntryKey, Judgement], survey: Survey) -> dict[EntryKey, Judgement]:
    """Return what was said of entries by the keys that they have now; what has no entry keeps its key.

    Args:
        judged: what was said, by key.
        survey: the survey of the page.
    """
    now = {then: key for key, then in earlier_keys(judged, survey).items()}
    return {now.get(key, key): said for key, said in judged.items()}


def earlier_keys(judged: Iterable[EntryKey], survey: Survey) -> dict[EntryKey, EntryKey]:
    """Return the keys of earlier versions under which something was said, by the keys of their entries now."""
    known = {key.earlier: key for key in judged if key.earlier}
    if not known:
        return {}
    return {key: known[text] for text, key in _by_earlier_key(survey).items() if text in known}


def _by_earlier_key(survey: Survey) -> dict[str, EntryKey]:
    """The keys of all entries, by those that earlier versions gave them."""
    found: dict[str, EntryKey] = {}
    seen: Counter[str] = Counter()
    for entries in survey.entries.values():
        for key in (entry.key for entry in entries):
            base = f"{key.slice}|{key.tag}|{key.target}|{key.heard}"[:_LONGEST]
            seen[base] += 1
            found[f"{base}|{seen[base]}"] = key
    return found
