"""The border to code of checks, which may be anybody's: whatever it does is reported as the check's, and is an error.

A check may raise what ends a program, interrupt it, or yield nonsense. An interrupt by a person is another thing.
"""

from __future__ import annotations

import signal
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from itertools import islice
from types import FrameType

from murvel.checks.engine.check import Certainty, Check, Finding
from murvel.checks.engine.facts import Facts
from murvel.checks.errors import CheckError, error_words
from murvel.dom.document import Element

MOST_FINDINGS = 200_000
"""How much one check may find on a page; one that goes on and on finds more."""

_OURS = "murvel."


def findings(check: Check, page: Facts) -> list[Finding]:
    """Return what a check finds on a page.

    Raises:
        CheckError: it failed; the message names the check.
        KeyboardInterrupt: a person stopped the program.
    """
    with interrupts() as by_person:
        try:
            found = list(islice(check.find(page), MOST_FINDINGS + 1))
            if len(found) > MOST_FINDINGS:
                raise ValueError(f"it finds more than {MOST_FINDINGS:,} things")
            for each in found:
                _must_be_usable(each)
        except BaseException as error:
            is_ours = getattr(check.find, "__module__", "").startswith(_OURS)
            if by_person or (isinstance(error, KeyboardInterrupt) and is_ours):
                raise KeyboardInterrupt from error
            message = f"The check {check.id} failed on this page ({error_words(error)}); what it looks for is not known"
            raise CheckError(message, f"--skip {check.id} leaves it out.") from error
    return found


def _must_be_usable(found: object) -> None:
    if not isinstance(found, Finding) or not isinstance(found.element, Element):
        raise TypeError(f"it yields {type(found).__name__}, and not a Finding with an element of the page")
    texts = (found.detail, found.heard or "")
    if not all(isinstance(each, str) for each in texts) or not isinstance(found.certainty, Certainty | None):
        raise TypeError("it yields a Finding whose detail or heard is no text, or whose certainty is none")


@contextmanager
def interrupts() -> Iterator[list[int]]:
    """Note interrupts by a person while code of somebody else runs: the list is not empty then."""
    noted: list[int] = []
    if threading.current_thread() is not threading.main_thread():
        yield noted
        return
    before = signal.getsignal(signal.SIGINT)

    def on_interrupt(number: int, frame: FrameType | None) -> None:
        noted.append(number)
        if callable(before):
            before(number, frame)

    signal.signal(signal.SIGINT, on_interrupt)
    try:
        yield noted
    finally:
        signal.signal(signal.SIGINT, before)
