"""The words in which things are said, by language: roles, states, counts and sentences, from a table each."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from pathlib import Path
from typing import Any

from murvel.patterns import pattern
from murvel.tree.node import Node
from murvel.tree.states.states import State

_TABLES = Path(__file__).parent / "tables"

LANGUAGES = tuple(sorted(entry.name.removesuffix(".toml") for entry in _TABLES.iterdir() if entry.name[0] != "."))
"""The languages that have a table."""

SWITCHED = "switched"
"""The state that a switch has instead of `checked`: it is on or off."""


FORMS = ("one", "other", "none")
"""The forms of a count in languages that tell only one from several; a table may list them in this order."""

_PLAIN_FORMS = len(FORMS)

_BLANK = pattern(r"\{(\w+)\}")
"""What is filled in."""


@dataclass(frozen=True, slots=True, eq=False)
class Words:
    """The words of one language.

    Attributes:
        language: its primary subtag.
        roles: what is said for a role; roles that stand nowhere here are not said.
        states: what is said for the values of a state, in the order in which states are said; what is nowhere
            here is not said.
        counts: how many of something there are, by CLDR's plural categories, and `none`; `{n}` is the number.
        phrases: sentences and single words by what they tell, with what is filled in, in braces.
        hints: what to press, by role.
        symbols: the words for symbols.
    """

    language: str
    roles: Mapping[str, str]
    states: Mapping[str, Mapping[str, str]]
    counts: Mapping[str, Mapping[str, str]]
    phrases: Mapping[str, str]
    hints: Mapping[str, str]
    symbols: Mapping[str, str] = field(default_factory=dict)

    def role(self, node: Node) -> str:
        """Return the words for a node's role: its author's description where there is one; empty for none."""
        described = node.states.get("roledescription")
        if described:
            return str(described)
        if node.role == "heading":
            return self.phrase("heading", n=node.states.get("level", ""))
        return self.roles.get(node.role, "")

    def state(self, name: str, value: State) -> str:
        """Return the words for a state's value, empty if nothing is said of it."""
        words = self.states.get(name)
        return words.get(str(value).lower(), "") if words is not None else ""

    def counted(self, what: str, number: int) -> str:
        """Return a number with its noun; `what` is one of `counts`."""
        forms = self.counts[what]
        form = forms["none"] if not number else forms.get(self._category(forms, number), forms["other"])
        return form.replace("{n}", str(number))

    def _category(self, forms: Mapping[str, str], number: int) -> str:
        """The plural category of a number (UTS #35 part 3, plural rules); most languages have one and several."""
        if len(forms) <= _PLAIN_FORMS:
            return "one" if number == 1 else "other"
        from babel import Locale

        return str(Locale.parse(self.language).plural_form(number))

    def phrase(self, name: str, **filled: object) -> str:
        """Return a sentence with what is filled in."""
        return _BLANK.sub(lambda found: str(filled.get(found.group(1), found.group())), self.phrases[name])

    def name_of_language(self, code: str) -> str:
        """Return what a language is called, by CLDR; its code where that is not known."""
        return _name_of_language(code, self.language)

    def with_own(self, own: Mapping[str, Mapping[str, Any]], language: str) -> Words:
        """Return the words with some of a person's own in their place, as those of a language."""
        merged = {table: {**getattr(self, table), **given} for table, given in own.items()}
        if "counts" in merged:
            merged["counts"] = by_form(merged["counts"])
        return Words(
            language,
            merged.get("roles", self.roles),
            merged.get("states", self.states),
            merged.get("counts", self.counts),
            merged.get("phrases", self.phrases),
            merged.get("hints", self.hints),
            merged.get("symbols", self.symbols),
        )


@lru_cache(maxsize=32)
def words_of(language: str) -> Words:
    """Return the words of a language, English for one that has no table.

    Args:
        language: a language tag; its region counts for nothing.
    """
    main = language.partition("-")[0].lower()
    if main not in LANGUAGES:
        main = "en"
    table = tomllib.loads((_TABLES / f"{main}.toml").read_text(encoding="utf-8"))
    return Words(main, counts=by_form(table.pop("counts")), **table)


def by_form(counts: Mapping[str, Any]) -> dict[str, Mapping[str, str]]:
    """Return the forms of counts by their category, also of those that list the usual three."""
    return {
        what: forms if isinstance(forms, Mapping) else dict(zip(FORMS, forms, strict=True))
        for what, forms in counts.items()
    }


@lru_cache(maxsize=256)
def _name_of_language(code: str, language: str) -> str:
    from babel import Locale, UnknownLocaleError

    try:
        return str(Locale.parse(language).languages.get(code.lower(), code))
    except (UnknownLocaleError, ValueError):
        return code


ENGLISH = words_of("en")
"""The words that the tool itself uses."""


def role_words(node: Node) -> str:
    """Return the words for a node's role in what the tool itself says; empty if it has none."""
    return ENGLISH.role(node)
