"""What of a page could not be honoured: it is told wherever the page is judged, and never left out in silence."""

from __future__ import annotations

from collections.abc import Iterable
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
    CUES = "cues"
    """A cue says something of a place that the page has not."""
    STYLE = "style"
    """A rule of a style sheet is not understood and is left out, as browsers leave out what they do not understand."""


class Problem(NamedTuple):
    """A problem: its kind, and a sentence."""

    kind: ProblemKind
    text: str

    @property
    def is_grave(self) -> bool:
        """Whether a judgement of the page is incomplete for it."""
        return self.kind not in (ProblemKind.STYLE, ProblemKind.CUES)


def in_few_lines(problems: Iterable[Problem]) -> list[str]:
    """Return problems as sentences, those of style rules in one."""
    known = list(dict.fromkeys(problems))
    lines = [each.text for each in known if each.kind is not ProblemKind.STYLE]
    style = [each.text for each in known if each.kind is ProblemKind.STYLE]
    if len(style) > 1:
        style = [f"{style[0].rstrip('.')} (and {len(style) - 1} more of the kind)."]
    return lines + style
