"""Reading on: item after item, each for as long as it takes to speak it."""

from __future__ import annotations

from collections.abc import Callable

from textual.app import App
from textual.timer import Timer

from murvel.reader.session import ReadingSession


class ReadingOn:
    """Moves a session on in time.

    Args:
        app: whose clock is used.
        session: what is moved.
        read_next: reads the next item.
    """

    def __init__(self, app: App[None], session: ReadingSession, read_next: Callable[[], None]) -> None:
        self._app = app
        self._session = session
        self._go_to_next = read_next
        self._timer: Timer | None = None

    @property
    def is_on(self) -> bool:
        """Whether reading goes on."""
        return self._timer is not None

    def go_on(self) -> None:
        """Wait while what was heard last is spoken, and then read the next item, and so on to the end."""
        log = self._session.log
        self.stop()
        if log:
            wait = self._session.speaker.lasts(log[-1].utterance.text)
            self._timer = self._app.set_timer(wait, self._read_next)

    def stop(self) -> None:
        """Stop where it is."""
        if self._timer is not None:
            self._timer.stop()
            self._timer = None

    def _read_next(self) -> None:
        before = self._session.item
        self._go_to_next()
        if self._session.item is before:
            self.stop()
        else:
            self.go_on()
