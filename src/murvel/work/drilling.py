"""A drill in steps, so that a person sees each key and can stop it."""

from __future__ import annotations

from collections.abc import Iterator
from queue import Queue
from threading import Thread

from murvel.drills.found import Drilled, Widget
from murvel.drills.run import drill
from murvel.drills.walker import Walked
from murvel.reader.session import ReadingSession


class _StoppedError(Exception):
    """The drill is not wanted any more."""


def drill_steps(session: ReadingSession, widget: Widget) -> Iterator[Walked | Drilled]:
    """Drill a widget in a thread; yield each step, and what came of it at last.

    Where it is given up, the key that is under way is the last one; the page stays as that left it.

    Raises:
        MurvelError: the page does not answer, or the widget is not there any more.
    """
    told: Queue[Walked | Drilled | BaseException] = Queue()
    wanted: Queue[bool] = Queue()

    def tell(step: Walked) -> None:
        told.put(step)
        if not wanted.get():
            raise _StoppedError

    def work() -> None:
        try:
            told.put(drill(session, widget, tell))
        except _StoppedError:
            return
        except BaseException as error:
            told.put(error)

    Thread(target=work, name="drill", daemon=True).start()
    try:
        while True:
            each = told.get()
            if isinstance(each, BaseException):
                raise each
            yield each
            if isinstance(each, Drilled):
                return
            wanted.put(True)
    finally:
        wanted.put(False)
