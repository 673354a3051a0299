"""What could not be honoured on a page. Every judgement of the page reports it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from enum import StrEnum
from typing import NamedTuple


class ProblemKind(StrEnum):
    """What a problem is about."""

    SCRIPTS = "scripts"
    """The page is made by scripts, which do not run: what is judged is the page before them."""
    NOT_READ = "not-read"
    """Something that belongs to the page was not read."""
    LIMIT = "limit"
    """Something was given up because it is too much."""
    BROWSER = "browser"
    """Something went wrong while a browser loaded the page: it did not come to rest, or something was refused to it."""
    ERRORS = "errors"
    """A script of the page failed, or something that the page asked for did not come."""
    NOTE = "note"
    """Something that a person should know of how the page was opened; nothing is missing for it."""
    CUES = "cues"
    """A cue says something of a place that the page has not."""
    CHECK = "check"
    """A check failed, so that nothing is known of what it looks for."""
    STYLE = "style"
    """A rule of a style sheet is not understood and is left out, as browsers leave out what they do not understand."""


_LIGHT = frozenset({ProblemKind.STYLE, ProblemKind.CUES, ProblemKind.ERRORS, ProblemKind.NOTE})


class Problem(NamedTuple):
    """A problem: its kind, and a sentence."""

    kind: ProblemKind
    text: str

    @property
    def is_grave(self) -> bool:
        """Whether a judgement of the page is incomplete for it."""
        return self.kind not in _LIGHT


class Problems:
    """The problems of a page in the order in which they were noticed, each once."""

    def __init__(self) -> None:
        self._all: dict[Problem, None] = {}

    def __iter__(self) -> Iterator[Problem]:
        return iter(self._all)

    def __len__(self) -> int:
        return len(self._all)

    def add(self, kind: ProblemKind, text: str) -> None:
        """Note a problem."""
        self._all[Problem(kind, text)] = None

    def replace(self, old: Iterable[Problem], new: Iterable[Problem]) -> None:
        """Take problems out, and note others."""
        for each in old:
            self._all.pop(each, None)
        self.update(new)

    def update(self, problems: Iterable[Problem]) -> None:
        """Note problems that were noticed elsewhere."""
        self._all.update(dict.fromkeys(problems))


def in_few_lines(problems: Iterable[Problem]) -> list[str]:
    """Return problems as sentences: that scripts make the page first, those of style rules last and in one."""
    known = sorted(problems, key=lambda each: each.kind is not ProblemKind.SCRIPTS)
    lines = [each.text for each in known if each.kind is not ProblemKind.STYLE]
    style = [each.text for each in known if each.kind is ProblemKind.STYLE]
    if len(style) > 1:
        style = [f"{style[0].rstrip('.')} (and {len(style) - 1} more of the kind)."]
    return lines + style
