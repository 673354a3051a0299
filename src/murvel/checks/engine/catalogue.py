"""The catalogue: the checks of a run, found by identifier or topic. It is a value that is passed down."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import cache

from murvel.checks.engine.check import Check
from murvel.checks.errors import CheckError
from murvel.checks.tables.criteria import Level
from murvel.checks.topics import (
    aria,
    eyes,
    forms,
    headings,
    images,
    keyboard,
    landmarks,
    links,
    listening,
    live_regions,
    markup,
    media,
    motion,
    names,
    page,
    sight,
    tabbing,
    tables,
)
from murvel.errors import did_you_mean
from murvel.text import visible

_TOPICS = (
    names, headings, landmarks, links, keyboard, tabbing, forms, images, tables, media, live_regions, aria, page, sight,
    markup, listening, eyes, motion,
)  # fmt: skip


class Catalogue:
    """Checks by topic, each with an identifier of its own.

    Args:
        checks: the checks, those of a topic together.

    Raises:
        CheckError: two checks have the same identifier.
    """

    def __init__(self, checks: Iterable[Check]) -> None:
        self.checks: tuple[Check, ...] = tuple(checks)
        self._by_id: dict[str, Check] = {}
        for check in self.checks:
            if check.id in self._by_id:
                raise CheckError(f"There are two checks {visible(check.id)!r}", "give one of them another identifier.")
            self._by_id[check.id] = check

    def __iter__(self) -> Iterator[Check]:
        return iter(self.checks)

    def __len__(self) -> int:
        return len(self.checks)

    def __getitem__(self, identifier: str) -> Check:
        return self._by_id[identifier]

    def get(self, identifier: str) -> Check | None:
        """Return the check with an identifier, None if there is none."""
        return self._by_id.get(identifier)

    @property
    def topics(self) -> list[str]:
        """The topics, in the order of their checks."""
        return list(dict.fromkeys(str(check.topic) for check in self.checks))

    def of_topic(self, topic: str) -> list[Check]:
        """Return the checks of a topic."""
        return [check for check in self.checks if check.topic == topic]

    def chosen(self, only: Iterable[str] = (), skip: Iterable[str] = (), level: Level = Level.AAA) -> list[Check]:
        """Return the checks that are wanted.

        Args:
            only: identifiers or topics; all checks if there are none.
            skip: identifiers or topics that are left out.
            level: the highest level of WCAG that counts.

        Raises:
            CheckError: there is no such check or topic; the message suggests the nearest name.
        """
        wanted = self._named(only) or set(self._by_id)
        unwanted = self._named(skip)
        return [check for check in self.checks if check.id in wanted - unwanted and check.is_within(level)]

    def _named(self, words: Iterable[str]) -> set[str]:
        found: set[str] = set()
        for word in words:
            name = word.strip().lower()
            if name in self._by_id:
                found.add(name)
            elif name in self.topics:
                found.update(check.id for check in self.of_topic(name))
            else:
                hint = did_you_mean(name, [*self._by_id, *self.topics], "murvel checks lists them.")
                raise CheckError(f"There is no check or topic {visible(word)!r}", hint)
        return found


@cache
def built_in() -> Catalogue:
    """Return the checks that come with Murvel."""
    return Catalogue(check for module in _TOPICS for check in module.checks.all)
