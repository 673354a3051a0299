"""A walk in the open: each step is made on the page at a key, with what was heard and what was expected of it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import ClassVar

from rich.text import Text
from textual.binding import Binding, BindingType
from textual.widget import Widget
from textual.widgets import Static

from murvel.errors import MurvelError
from murvel.text import visible
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.palette import FAILS, part_styles
from murvel.walks.replay import Made, walked
from murvel.walks.walk import Walk
from murvel.work.work import Work

_SHOWN = 4
"""How many steps are shown, the last ones."""
_MOVE_WIDTH = 24


class Walking(Dialog[None]):
    """Makes a walk on the open page, a step at each key; the view behind it follows.

    Args:
        walk: the walk.
        session: the reading of the page.
        show: lets the views behind it be drawn.
    """

    KEYS = (("Space", "next step"), ("a", "all that are left"), ("Esc", "leave"))
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape,q", "dismiss(None)", "Leave", show=False),
        Binding("space,enter", "step", "Next step", show=False),
        Binding("a", "rest", "All that are left", show=False),
    ]

    def __init__(self, walk: Walk, work: Work, show: Callable[[], None]) -> None:
        super().__init__()
        self._walk = walk
        self._show_views = show
        self._session, self._mode = work.session, work.session.mode
        self._steps = walked(walk, work.session, work.catalogue)
        self._made: list[Made] = []
        self._problem = ""

    def body(self) -> Iterable[Widget]:
        """The last steps, and the next."""
        yield Static()

    def on_mount(self) -> None:
        """Begin at the top of the page."""
        self._show_views()
        self._draw()

    def on_unmount(self) -> None:
        """Leave the keys to whom they went before the walk."""
        self._session.mode = self._mode
        self._show_views()

    def action_step(self) -> None:
        """Make the next step."""
        if self._make():
            self._show_views()
            self._draw()

    def action_rest(self) -> None:
        """Make all steps that are left."""
        while self._make():
            pass
        self._show_views()
        self._draw()

    def _make(self) -> bool:
        """Make a step; return whether there was one."""
        if not self.is_asking or self._problem:
            return False
        try:
            self._made.append(next(self._steps))
        except StopIteration:
            return False
        except MurvelError as error:
            self._problem = str(error)
        return True

    def _draw(self) -> None:
        styles = part_styles(self.app)
        text = Text(no_wrap=True, overflow="ellipsis")
        title = f"{visible(self._walk.title)}: " if self._walk.title else ""
        text.append(f"{title}step {len(self._made)} of {len(self._walk.steps)}", styles["mark"])
        unmet = sum(len(each.unmet) for each in self._made)
        if unmet:
            text.append(f", {unmet} not as expected", styles["error"])
        elif len(self._made) == len(self._walk.steps):
            text.append(", all as expected", styles["state"])
        for each in self._made[-_SHOWN:]:
            text.append(f"\n{visible(each.step.move or 'expect'):<{_MOVE_WIDTH}} ", styles["plain"])
            text.append(visible(" / ".join(filter(None, each.heard))), styles["role"])
            for one in each.unmet:
                text.append(f"\n{'':<{_MOVE_WIDTH}} {FAILS} {visible(one.words)}", styles["error"])
        if self._problem:
            text.append(f"\n{visible(self._problem)}", styles["error"])
        elif len(self._made) < len(self._walk.steps):
            text.append(f"\nnext: {visible(self._walk.steps[len(self._made)].move or 'expect')}", styles["faint"])
        self.query_one(Static).update(text)
