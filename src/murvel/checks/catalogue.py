"""All checks, put together and found by identifier or topic."""

from __future__ import annotations

from collections.abc import Iterable
from difflib import get_close_matches

from murvel.checks.check import Check, Topic
from murvel.checks.errors import CheckError
from murvel.checks.topics import (
    aria,
    forms,
    headings,
    images,
    keyboard,
    landmarks,
    links,
    listening,
    live,
    names,
    page,
    tables,
)
from murvel.page.text import visible

CHECKS: tuple[Check, ...] = tuple(
    check
    for module in (names, headings, landmarks, links, keyboard, forms, images, tables, live, aria, page, listening)
    for check in module.checks.all
)
"""All checks, by topic."""

BY_ID: dict[str, Check] = {check.id: check for check in CHECKS}
assert len(BY_ID) == len(CHECKS), "two checks have the same identifier"
assert {check.topic for check in CHECKS} == set(Topic), "a topic has no check"


def chosen(only: Iterable[str] = (), skip: Iterable[str] = (), level: str = "AAA") -> list[Check]:
    """Return the checks that are wanted.

    Args:
        only: identifiers or topics; all checks where there are none.
        skip: identifiers or topics that are left out.
        level: A, AA or AAA: the highest level of WCAG that counts.

    Raises:
        CheckError: there is no such check or topic; the message names what comes nearest.
    """
    wanted = _ids(only) or set(BY_ID)
    unwanted = _ids(skip)
    return [check for check in CHECKS if check.id in wanted - unwanted and check.is_within(level)]


def _ids(words: Iterable[str]) -> set[str]:
    found: set[str] = set()
    for word in words:
        name = word.strip().lower()
        if name in BY_ID:
            found.add(name)
        elif name in set(Topic):
            found.update(check.id for check in CHECKS if check.topic == name)
        else:
            close = get_close_matches(name, [*BY_ID, *(topic.value for topic in Topic)], 1)
            hint = f"; did you mean {close[0]!r}?" if close else "; murvel checks lists them"
            raise CheckError(f"There is no check or topic {visible(word)!r}{hint}.")
    return found
