"""What a page is still at while nobody waits for it any more."""

from __future__ import annotations

from collections.abc import Callable, Coroutine
from concurrent.futures import Future
from concurrent.futures import TimeoutError as NoAnswer
from dataclasses import dataclass
from typing import Any

from murvel.browser.thread import BrowserThread
from murvel.stage.reaction import Reaction

Then = Callable[[Any, Reaction], None]
"""Makes use of a result."""


@dataclass(frozen=True, slots=True)
class _GoingOn:
    work: Future[Any]
    then: Then


class Beside:
    """Work of a browser that is waited for as long as somebody has patience, and goes on beside after that.

    Args:
        thread: where the browser lives.
        patience: the seconds that are waited; None for what each work says.
    """

    def __init__(self, thread: BrowserThread, patience: float | None) -> None:
        self._thread = thread
        self._patience = patience
        self._going_on: _GoingOn | None = None

    @property
    def is_busy(self) -> bool:
        """Whether work goes on whose result was not used yet."""
        return self._going_on is not None

    @property
    def is_done(self) -> bool:
        """Whether there is something to be made use of."""
        return self._going_on is not None and self._going_on.work.done()

    def do(
        self,
        work: Coroutine[Any, Any, Any],
        reaction: Reaction,
        then: Then = lambda _, __: None,
        *,
        patience: float,
        words: str = "",
    ) -> None:
        """Let the browser do something and make use of the result, now or when it has come.

        Args:
            work: what the browser does.
            reaction: what comes of it now.
            then: makes use of the result.
            patience: the seconds that are waited for it, where nothing else was chosen.
            words: what is told if it takes longer.

        Raises:
            BrowserError: the page does not answer.
        """
        going = _GoingOn(self._thread.begin(work), then)
        try:
            result = going.work.result(patience if self._patience is None else self._patience)
        except NoAnswer:
            self._going_on = going
            reaction.notes += [words] if words else []
        else:
            then(result, reaction)

    def finish(self, reaction: Reaction) -> None:
        """Make use of what is done.

        Raises:
            BrowserError: the page did not answer.
        """
        going, self._going_on = self._going_on, None
        if going is not None:
            going.then(going.work.result(), reaction)
