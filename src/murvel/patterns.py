"""Regular expressions that are compiled when they are first used.

A command uses few of the program's patterns, and compiling them all took a quarter of the time of a small `check`.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, AnyStr, cast


def pattern(source: AnyStr, flags: int = 0) -> re.Pattern[AnyStr]:
    """Return what stands for `re.compile(source, flags)`, which is called by the first use of one of its members.

    An error in `source` is raised then, not here: tests/test_patterns.py compiles every pattern of the program.
    """
    return cast("re.Pattern[AnyStr]", Late(lambda: re.compile(source, flags)))


def unicode_pattern(source: str) -> re.Pattern[str]:
    """Return what `pattern` does, of the package `regex`, which knows Unicode's properties and loads slowly."""

    def compiled() -> Any:
        import regex

        return regex.compile(source)

    return cast("re.Pattern[str]", Late(compiled))


class Late:
    """A pattern that takes over each member of the compiled one as it is asked for, so that later uses cost nothing."""

    def __init__(self, compiled: Callable[[], Any]) -> None:
        self.compiled = compiled

    def __getattr__(self, name: str) -> Any:
        member = getattr(self.compiled(), name)
        setattr(self, name, member)
        return member
