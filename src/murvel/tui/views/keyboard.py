"""The Keyboard view: the Tab stops in order beside the reading order, and what Tab does not reach."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import ClassVar

from rich.console import Group, RenderableType
from rich.text import Text
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widget import Widget
from textual.widgets import Static

from murvel.checks.engine.check import Certainty
from murvel.checks.engine.lead import NOTHING, Lead
from murvel.dom.document import Element
from murvel.drills.found import Drilled
from murvel.reader.moves.ring import Ring, press_through
from murvel.reader.speech.timing import clock
from murvel.report.formats import ChartKind
from murvel.report.path_text import STRAIGHT, Crossings, summary_lines
from murvel.survey.entry import Slice
from murvel.survey.eyes import seen_facts
from murvel.survey.path import KeyboardPath, Stop
from murvel.text import counted, visible
from murvel.tree.model import Tree
from murvel.tui.actions import Action, bindings
from murvel.tui.dialogs.drilling import DrillAnswer, Drilling
from murvel.tui.views.view import Happened, NeedsSurvey, ToDocument, ToFront, View
from murvel.tui.widgets.leads import LABEL_WIDTH, lead_block, lead_marks
from murvel.tui.widgets.palette import FAILS, NEEDS_EARS, part_styles
from murvel.tui.widgets.rows import Beside, Rows
from murvel.tui.widgets.wording import facts_table, pieces, styled, with_swatches
from murvel.work.work import Work

_GAP = 11
_NUMBER = 4

_MISSED = "Not reached by Tab"
_ABOUT_MISSED = "What can be clicked, or is meant to be operated, and Tab passes by."

_BETWEEN = 0.01
"""The seconds between two presses of Tab, in which the screen is drawn and Escape is heard."""

_NOTHING = (
    "Tab stops nowhere on this page. Here would stand each link, button and field that Tab reaches, in its order."
)

Row = Stop | Lead | str
"""A stop, something that Tab does not reach, or a heading between them."""


def _action(name: str, run: str, keys: str, words: str, brief: str = "") -> Action:
    return Action("keyboard", name, run, keys, words, brief, is_at_once=run == "document")


class KeyboardView(View):
    """The Keyboard view over the Tab order of the page as it is now."""

    NAME = "keyboard"
    TITLE = "Keyboard"
    ABOUT = "where Tab goes, and where it does not"
    NEEDS_SURVEY = True
    NEEDS_PATH = True
    ACTIONS: ClassVar[tuple[Action, ...]] = (
        _action("go-there", "go_there", "enter", "Go to the stop's place on the page", "go there"),
        _action("document", "document", "d", "Document a defect about the stop", "document"),
        _action("next-lead", "next_lead", "n", "Go to the next stop with a lead or out of order", "next lead"),
        _action(
            "draw", f"screen.draw('{ChartKind.PATH}', 'svg')", "x", "Draw the Tab order into an SVG file", "draw it"
        ),
        _action("press", "press_through", "p", "Press Tab through the whole page, in a browser", "press through"),
        _action("stop", "stop_pressing", "escape", "Stop pressing Tab"),
        _action("drill", "drill", "r", "Drill the widget at the stop: work it by keyboard, key by key", "drill"),
        _action("draw-pdf", f"screen.draw('{ChartKind.PATH}', 'pdf')", "X", "Draw the Tab order into a PDF file"),
    )
    BINDINGS: ClassVar[list[BindingType]] = bindings(ACTIONS)

    def __init__(self, work: Work) -> None:
        super().__init__(work)
        self._crossings = Crossings(())
        self._ring = Ring()
        self._pressed_on: Tree | None = None
        """The tree in whose state of the page Tab was pressed through it."""
        self._pressing: Iterator[int] | None = None
        """The presses of Tab that are under way."""

    def compose(self) -> ComposeResult:
        """What is to be said of the whole way, the stops, and the whole of one."""
        yield Static(id="summary")
        with Beside():
            rows = Rows[Row](self._row)
            rows.border_title = "Tab order, and reading order beside it"
            yield rows
            whole = VerticalScroll(Static(id="whole-stop"))
            whole.border_title = "Stop"
            yield whole

    @property
    def _path(self) -> KeyboardPath:
        return self.work.path

    @property
    def _rows(self) -> Rows[Row]:
        return self.query_one(Rows)

    @property
    def for_keys(self) -> Widget:
        """The list."""
        return self._rows

    def watch_drawn(self) -> None:
        """Show the Tab order as the page is now; while Tab is pressed it stays as it was."""
        if self._pressing is not None:
            return
        path = self._path
        self._crossings = Crossings(path.stops)
        styles = part_styles(self.app)
        by_keys = self._ring.lines() if self._pressed_on is path.page.tree else []
        summary = Text("\n".join([*summary_lines(path), *map(visible, by_keys)]), styles["state"])
        self.query_one("#summary", Static).update(summary)
        rows: list[Row] = list(path.stops)
        if path.missed:
            rows += [_MISSED, *path.missed]
        self._rows.show_rows(rows, self._rows.at)
        self._show_picked()

    # How it is drawn

    def _row(self, row: Row, width: int) -> Text:
        styles = part_styles(self.app)
        if isinstance(row, str):
            return Text.assemble((row, styles["strong"]))
        if isinstance(row, Lead):
            text = Text()
            fails = row.certainty is Certainty.FAILS
            text.append(f"{FAILS if fails else NEEDS_EARS:>{_NUMBER}} ", styles["error" if fails else "mark"])
            text.append(visible(row.says), styles["plain"])
            return text
        half = (width - _GAP) // 2
        beside = self._path.reading[row.number - 1]
        text = self._half(row, half, styles, is_quiet=False)
        at = row.number - 1
        is_line = self._crossings.at(at) != STRAIGHT
        text.append(f" {self._crossings.past(at, _GAP - 2)} ", styles["error" if is_line else "rail-group"])
        text.append_text(self._half(beside, width - half - _GAP, styles, is_quiet=beside is row and not row.is_moved))
        return text

    def _half(self, stop: Stop, width: int, styles: dict[str, str], *, is_quiet: bool) -> Text:
        fails = any(lead.certainty is Certainty.FAILS for lead in stop.leads)
        marks = "" if is_quiet else lead_marks(stop.leads)
        text = Text(no_wrap=True)
        text.append(f"{stop.number:>{_NUMBER}} ", styles["faint" if is_quiet else "mark"])
        said = self._said(stop, styles)
        if is_quiet:
            said = Text(said.plain, styles["faint"])
        said.truncate(max(4, width - text.cell_len - len(marks)), overflow="ellipsis")
        text.append_text(said)
        text.pad_right(max(0, width - text.cell_len - len(marks)))
        text.append(marks, styles["error" if fails else "mark"])
        return text

    def _said(self, stop: Stop, styles: dict[str, str]) -> Text:
        if stop.node is None:
            return Text(visible(stop.words), styles["notice"])
        return styled(pieces(stop.utterance), styles)

    def _show_picked(self) -> None:
        self.query_one("#whole-stop", Static).update(self._whole(self._rows.picked))
        self.query_one(VerticalScroll).scroll_home(animate=False)

    def _whole(self, row: Row | None) -> RenderableType:
        styles = part_styles(self.app)
        if row is None:
            return Text(_NOTHING, styles["role"])
        if isinstance(row, str):
            return Text(_ABOUT_MISSED, styles["role"])
        if isinstance(row, Lead):
            return Group(self._facts(row.element, [("is heard", row.heard)], styles), Text(), lead_block(row, styles))
        rank = "the same place" if row.number == row.rank else f"place {row.rank}"
        facts = [
            ("Tab order", f"stop {row.number} of {len(self._path.stops)}"),
            ("in reading", rank),
            ("in", row.region),
            ("listening", f"at {clock(row.time)}" if row.time is not None else "not read"),
            *seen_facts(self.work.session, Slice.FOCUS, row.element),
            ("remark", "leads to the same place as the stop before" if row.repeats else ""),
        ]
        blocks: list[RenderableType] = [self._said(row, styles), self._facts(row.element, facts, styles)]
        for lead in row.leads:
            blocks += [Text(), lead_block(lead, styles)]
        return Group(*blocks)

    def _facts(self, element: Element, facts: list[tuple[str, str]], styles: dict[str, str]) -> RenderableType:
        page = self._path.page
        every = [*facts, ("source", page.tree.place_words(element)), ("XPath", page.xpath(element))]
        rows = [(label, with_swatches(visible(value), styles["plain"])) for label, value in every if value]
        return facts_table(rows, styles["faint"], LABEL_WIDTH)

    def on_rows_picked(self) -> None:
        """Show the whole of what one stands at."""
        self._show_picked()

    def on_rows_chosen(self) -> None:
        """Go to the place of the stop that was clicked twice."""
        self.action_go_there()

    # Actions

    def action_go_there(self) -> None:
        """Go to the place of what one stands at."""
        row = self._rows.picked
        if isinstance(row, (Stop, Lead)):
            self.work.go_to_element(row.element, "go to the stop")
            self.post_message(ToFront("listen"))

    def action_document(self) -> None:
        """Ask for a defect about what one stands at."""
        row = self._rows.picked
        if isinstance(row, Stop):
            node = row.node or self._path.page.node_around(row.element)
            self.post_message(ToDocument(self.work.evidence_of_leads(node, row.utterance.text or NOTHING, row.leads)))
        elif isinstance(row, Lead):
            self.post_message(ToDocument(self.work.evidence_of_leads(row.node, row.heard, [row])))

    def action_press_through(self) -> None:
        """Press Tab through the whole page, one press at a time, so that it is seen and can be stopped."""
        stage = self.work.session.stage
        if stage is None or not stage.is_live:
            self.post_message(Happened("Keys are pressed in a browser only; open the page with --browser."))
        elif self._pressing is None:
            self._ring = Ring()
            self._pressing = press_through(self.work.session, self._ring)
            self.set_timer(_BETWEEN, self._press_next)

    def action_stop_pressing(self) -> None:
        """Leave it at what was pressed."""
        if self._pressing is not None:
            self._pressing = None
            self.post_message(Happened("Stopped; the order shown is the expected one."))

    def _press_next(self) -> None:
        if self._pressing is None:
            return
        presses = next(self._pressing, None)
        if presses is not None:
            self.post_message(Happened(f"Tab is pressed: {counted(presses, 'stop', 'stops')} so far. Esc stops."))
            self.set_timer(_BETWEEN, self._press_next)
            return
        self._pressing = None
        self.work.forget_survey()
        self.post_message(NeedsSurvey(self._tell_of_ring))

    def _tell_of_ring(self) -> None:
        self._pressed_on = self.work.session.tree
        self.post_message(Happened("Tab was pressed through the page, on and back."))

    def action_drill(self) -> None:
        """Work the widget at the stop by keyboard, in the open."""
        row = self._rows.picked
        if not isinstance(row, (Stop, Lead)) or self.work.session.stage is None:
            self.post_message(Happened("Stand at a stop of a page that keys work on.", error=True))
            return
        widget = self.work.widget_at(row.element)
        if widget is None:
            self.post_message(Happened("Nothing is promised there that a drill could try: no state, pop-up or role."))
            return

        def drilled(answer: DrillAnswer | None) -> None:
            if answer is not None and answer.is_to_document:
                self.post_message(NeedsSurvey(partial(self._document_drill, answer.drilled)))
                return
            words = "The drill was stopped; the page is as it left it."
            if answer is not None:
                faults = answer.drilled.faults
                found = counted(len(faults), "fault", "faults") if faults else "nothing"
                words = f"Drill of {widget.words}: {found} found."
            self.post_message(NeedsSurvey(partial(self._tell, words)))

        self.app.push_screen(Drilling(widget, self.work.drill(widget)), drilled)

    def _document_drill(self, drilled: Drilled) -> None:
        draft = self.work.evidence_of_drill(drilled)
        if draft is None:
            self._tell("The widget is not on the page any more.")
        else:
            self.post_message(ToDocument(draft))

    def _tell(self, words: str) -> None:
        self.post_message(Happened(words))

    def action_next_lead(self) -> None:
        """Stand at the next stop with a lead, or out of order, or the next place that is not reached."""
        rows = self._rows
        for at in range(rows.at + 1, len(rows.rows)):
            row = rows.rows[at]
            if isinstance(row, Lead) or (isinstance(row, Stop) and (row.leads or row.is_moved)):
                rows.action_step(at - rows.at)
                return
        self.post_message(Happened("No stop further down has a lead or is out of order."))
