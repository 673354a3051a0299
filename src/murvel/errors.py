"""The one tree of errors. Each layer has its class; a message is one sentence that says what was wrong and what to do.

MurvelError
├── PageError       a page, a tree, an address or a file of settings cannot be read
│   ├── CredentialsError   a page wants a user name and password
│   └── SelectorError      a selector is not understood
├── StageError      a cue file cannot be used
├── BrowserError    a browser cannot be started or asked
│   └── NoBrowserError     Chromium, or what drives it, is not installed
├── ReaderError     a move or a voice is not known
├── CheckError      a check, a setting or a baseline cannot be used
├── DrillError      a drill cannot be run
├── WalkError       a walk cannot be read or made
├── CasebookError   a casebook cannot be opened or written
└── ReportError     a report or drawing cannot be made or written
"""

from __future__ import annotations

from collections.abc import Iterable


def did_you_mean(word: str, known: Iterable[str], otherwise: str = "") -> str:
    """Return, as a hint of an error, which known word comes nearest to one that is not known.

    Args:
        word: what was given.
        known: what could have been given.
        otherwise: the hint where nothing comes near; by default all that is known.
    """
    from difflib import get_close_matches  # nobody needs it who makes no mistake

    by_fold = {each.casefold(): each for each in known}
    close = get_close_matches(word.casefold(), by_fold, 1)
    if close:
        return f"did you mean {by_fold[close[0]]!r}?"
    return otherwise or f"there are: {', '.join(by_fold.values())}."


class MurvelError(Exception):
    """Something that a person can mend.

    Args:
        message: what went wrong, with which thing, as one sentence.
        hint: what to do about it; a clause that goes on from the message, empty if the message says it already.
    """

    def __init__(self, message: str, hint: str = "") -> None:
        super().__init__(message, hint)
        self.message = message
        self.hint = hint

    def __str__(self) -> str:
        return f"{self.message.rstrip('.')}; {self.hint}" if self.hint else self.message
