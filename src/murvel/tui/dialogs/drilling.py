"""A drill in the open: each key with what is heard, as it is done, and what was found."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import ClassVar

from rich.text import Text
from textual import work
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widget import Widget
from textual.widgets import Static
from textual.worker import get_current_worker

from murvel.checks.engine.check import Certainty
from murvel.drills.found import Drilled
from murvel.drills.found import Widget as Drillable
from murvel.drills.walker import Walked
from murvel.errors import MurvelError
from murvel.text import visible
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.palette import FAILS, NEEDS_EARS, part_styles

_MOVE_WIDTH = 12


@dataclass(frozen=True, slots=True)
class DrillAnswer:
    """What came of a drill, and whether a defect about it is wanted."""

    drilled: Drilled
    is_to_document: bool


class Drilling(Dialog[DrillAnswer | None]):
    """Drills a widget; answers with what came of it, with None if it was stopped before.

    Args:
        widget: what is drilled.
        steps: the drill.
    """

    KEYS = (("d", "document what was found"), ("Esc", "stop or close"))
    BINDINGS: ClassVar[list[BindingType]] = [("escape,q,enter", "leave", "Close"), ("d", "document", "Document")]

    def __init__(self, widget: Drillable, steps: Iterator[Walked | Drilled]) -> None:
        super().__init__()
        self._widget = widget
        self._steps = steps
        self._shown = Text()
        self._outcome: Drilled | None = None

    def body(self) -> Iterable[Widget]:
        """The walk so far."""
        with VerticalScroll() as scroll:
            scroll.border_title = f"Drill of {visible(self._widget.words)}, {self._widget.kind}"
            yield Static(id="walk")

    def on_mount(self) -> None:
        """Begin."""
        self._do_steps()

    @work(thread=True, exclusive=True, exit_on_error=False)
    def _do_steps(self) -> None:
        worker = get_current_worker()
        try:
            for step in self._steps:
                if worker.is_cancelled:
                    return
                self.app.call_from_thread(self._show, step)
        except MurvelError as error:
            self.app.call_from_thread(self._add, f"{error}\n", "error")

    def _show(self, step: Walked | Drilled) -> None:
        if not self.is_asking:
            return
        if isinstance(step, Drilled):
            self._outcome = step
            self._show_outcome(step)
            return
        self._add(f"{visible(step.move):<{_MOVE_WIDTH}}", "mark")
        self._add(f"{visible(step.heard)}\n", "plain")

    def _show_outcome(self, drilled: Drilled) -> None:
        self._add("\n", "plain")
        for fault in drilled.faults:
            is_sure = (fault.certainty or fault.check.certainty) is Certainty.FAILS
            detail = f": {visible(fault.detail)}" if fault.detail else ""
            mark, style = (FAILS, "error") if is_sure else (NEEDS_EARS, "mark")
            self._add(f"{mark} {fault.check.title}{detail}\n", style)
            self._add(f"  {fault.check.means} {fault.check.repair}\n", "role")
        if drilled.not_reached:
            self._add(f"Not reached, and nothing is concluded: {visible(drilled.not_reached)}.\n", "notice")
        elif not drilled.faults:
            self._add(f"✓ Nothing was found with {', '.join(drilled.tried)}.\n", "state")
        if drilled.left and not drilled.not_reached:
            self._add(f"Not tried: {', '.join(drilled.left)}.\n", "faint")
        if not drilled.is_restored:
            self._add("The page is not as it was before.\n", "notice")

    def _add(self, words: str, style: str) -> None:
        if self.is_asking:
            self._shown.append(words, part_styles(self.app)[style])
            self.query_one("#walk", Static).update(self._shown)
            self.query_one(VerticalScroll).scroll_end(animate=False)

    def action_leave(self) -> None:
        """Stop the drill, or close the dialog once it is done."""
        self.workers.cancel_node(self)
        self.dismiss(DrillAnswer(self._outcome, is_to_document=False) if self._outcome is not None else None)

    def action_document(self) -> None:
        """Close the dialog and ask for a defect, if anything was found."""
        if self._outcome is not None and self._outcome.faults:
            self.dismiss(DrillAnswer(self._outcome, is_to_document=True))
