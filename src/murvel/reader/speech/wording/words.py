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
        counts: how many of something there are, for one, for several and for none; `{n}` is the number.
        phrases: sentences and single words by what they tell, with what is filled in, in braces.
        hints: what to press, by role.
        symbols: the words for symbols.
    """

    language: str
    roles: Mapping[str, str]
    states: Mapping[str, Mapping[str, str]]
    counts: Mapping[str, tuple[str, str, str]]
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
        one, several, none = self.counts[what]
        return (none if not number else one if number == 1 else several).replace("{n}", str(number))

    def phrase(self, name: str, **filled: object) -> str:
        """Return a sentence with what is filled in."""
        return _BLANK.sub(lambda found: str(filled.get(found.group(1), found.group())), self.phrases[name])

    def name_of_language(self, code: str) -> str:
        """Return what a language is called, by CLDR; its code where that is not known."""
        return _name_of_language(code, self.language)

    def with_own(self, own: Mapping[str, Mapping[str, Any]], language: str) -> Words:
        """Return the words with some of a person's own in their place, as those of a language."""
        merged = {table: {**getattr(self, table), **given} for table, given in own.items()}
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
    counts = {what: tuple(forms) for what, forms in table.pop("counts").items()}
    return Words(main, counts=counts, **table)


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
