"""The one tree of errors. Each layer has its class; a message is one sentence that says what was wrong and what to do.

MurvelError
├── PageError       a page, a tree or an address cannot be had
│   └── SelectorError   a selector is not understood
├── StageError      cues cannot be used
├── BrowserError    a browser cannot be started or asked
├── ReaderError     a command or voice is not known
├── CheckError      a check, a configuration or a baseline cannot be used
├── CasebookError   a casebook cannot be opened or written
└── ReportError     a report or drawing cannot be made or written
"""

from __future__ import annotations


class MurvelError(Exception):
    """Something that a person can mend.

    Args:
        message: what went wrong, with which thing, as one sentence.
        hint: what to do about it; a clause that goes on from the message, empty where the message says it already.
    """

    def __init__(self, message: str, hint: str = "") -> None:
        super().__init__(message, hint)
        self.message = message
        self.hint = hint

    def __str__(self) -> str:
        return f"{self.message.rstrip('.')}; {self.hint}" if self.hint else self.message
