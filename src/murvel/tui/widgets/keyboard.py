"""The Keyboard view: the Tab stops in order beside the reading order, and what Tab does not reach."""

from __future__ import annotations

from typing import ClassVar

from rich.console import Group, RenderableType
from rich.text import Text
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical, VerticalScroll
from textual.widget import Widget
from textual.widgets import Static

from murvel.checks.check import Certainty
from murvel.checks.lead import Lead
from murvel.page.text import visible
from murvel.reader.timing import clock
from murvel.report.path_text import STRAIGHT, Crossings, summary_lines
from murvel.survey.path import KeyboardPath, Stop
from murvel.tree.node import Node
from murvel.tui.actions import Where, bindings
from murvel.tui.widgets.leads import LABEL_WIDTH, lead_block
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.rows import Beside, Rows
from murvel.tui.widgets.view import Document, GoTo
from murvel.tui.widgets.wording import facts_table, pieces, styled
from murvel.work.work import Work

_GAP = 11
_NUMBER = 4

_MISSED, _SILENT = "Not reached by Tab", "Reached by Tab, and silent"
_ABOUT = {
    _MISSED: "What can be clicked, or is meant to be operated, and Tab passes by.",
    _SILENT: "What Tab stops at although it is hidden from those who listen.",
}

Row = Stop | Lead | str
"""A stop, something that Tab does not reach, or a heading between them."""


class KeyboardView(Vertical):
    """The Keyboard view over the way of Tab through the page as it is now."""

    DEFAULT_CSS = "KeyboardView > #summary { height: auto; padding: 0 2; }"

    BINDINGS: ClassVar[list[BindingType]] = bindings(Where.KEYBOARD)

    def __init__(self, work: Work, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self.work = work
        self._crossings = Crossings(())

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

    def on_mount(self) -> None:
        """Follow the theme."""
        self.app.theme_changed_signal.subscribe(self, lambda _: self.show_now())

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

    def show_now(self) -> None:
        """Show the way as the page is now."""
        path = self._path
        self._crossings = Crossings(path.stops)
        styles = part_styles(self.app)
        summary = Text("\n".join(summary_lines(path)), styles["state"])
        self.query_one("#summary", Static).update(summary)
        rows: list[Row] = list(path.stops)
        if path.missed:
            rows += [_MISSED, *path.missed]
        if path.silent:
            rows += [_SILENT, *path.silent]
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
            text.append(f"{'▲' if fails else '△':>{_NUMBER}} ", styles["error" if fails else "mark"])
            text.append(visible(row.says), styles["plain"])
            return text
        half = (width - _GAP) // 2
        beside = self._path.reading[row.number - 1]
        parts = row.number != row.rank
        text = self._half(row, half, styles, is_quiet=False)
        at = row.number - 1
        is_line = self._crossings.at(at) != STRAIGHT
        text.append(f" {self._crossings.past(at, _GAP - 2)} ", styles["error" if is_line else "rail-group"])
        text.append_text(self._half(beside, width - half - _GAP, styles, is_quiet=not parts and beside is row))
        return text

    def _half(self, stop: Stop, width: int, styles: dict[str, str], *, is_quiet: bool) -> Text:
        fails, ears = _count(stop, Certainty.FAILS), _count(stop, Certainty.NEEDS_EARS)
        marks = "" if is_quiet else f"{f' ▲{fails}' if fails else ''}{f' △{ears}' if ears else ''}"
        text = Text(no_wrap=True)
        text.append(f"{stop.number:>{_NUMBER}} ", styles["faint" if is_quiet else "mark"])
        said = styled(pieces(stop.utterance), styles)
        if is_quiet:
            said = Text(said.plain, styles["faint"])
        said.truncate(max(4, width - text.cell_len - len(marks)), overflow="ellipsis")
        text.append_text(said)
        text.pad_right(max(0, width - text.cell_len - len(marks)))
        text.append(marks, styles["error" if fails else "mark"])
        return text

    def _show_picked(self) -> None:
        self.query_one("#whole-stop", Static).update(self._whole(self._rows.picked))
        self.query_one(VerticalScroll).scroll_home(animate=False)

    def _whole(self, row: Row | None) -> RenderableType:
        styles = part_styles(self.app)
        if row is None:
            return Text("Tab stops nowhere on this page.", styles["role"])
        if isinstance(row, str):
            return Text(_ABOUT[row], styles["role"])
        if isinstance(row, Lead):
            return Group(self._facts(row.node, [("is heard", row.heard)], styles), Text(), lead_block(row, styles))
        rank = "the same place" if row.number == row.rank else f"place {row.rank}"
        facts = [
            ("Tab order", f"stop {row.number} of {len(self._path.stops)}"),
            ("in reading", rank),
            ("in", row.region),
            ("listening", f"at {clock(row.time)}" if row.time is not None else "not read"),
            ("remark", "leads to the same place as the stop before" if row.repeats else ""),
        ]
        blocks: list[RenderableType] = [styled(pieces(row.utterance), styles), self._facts(row.node, facts, styles)]
        for lead in row.leads:
            blocks += [Text(), lead_block(lead, styles)]
        return Group(*blocks)

    def _facts(self, node: Node, facts: list[tuple[str, str]], styles: dict[str, str]) -> RenderableType:
        tree = self.work.session.tree
        every = [*facts, ("source", tree.place_words(node)), ("XPath", tree.xpath_of(node))]
        rows = [(label, Text(visible(value), styles["plain"])) for label, value in every if value]
        return facts_table(rows, styles["faint"], LABEL_WIDTH)

    def on_rows_picked(self) -> None:
        """Show the whole of what one stands at."""
        self._show_picked()

    def on_rows_chosen(self) -> None:
        """A click on the picked one: go to its place."""
        self.action_go_to_stop()

    # Actions

    def action_go_to_stop(self) -> None:
        """Ask for the place of what one stands at."""
        row = self._rows.picked
        if isinstance(row, (Stop, Lead)):
            self.post_message(GoTo(row.node.element if isinstance(row, Stop) else row.element, "go to the stop"))

    def action_document_stop(self) -> None:
        """Ask for a defect about what one stands at."""
        row = self._rows.picked
        if isinstance(row, Stop):
            self.post_message(Document(self.work.evidence_of_leads(row.node, row.utterance.text, row.leads)))
        elif isinstance(row, Lead):
            self.post_message(Document(self.work.evidence_of_leads(row.node, row.heard, [row])))

    def action_next_lead(self) -> None:
        """Stand at the next stop with a lead, or out of order, or the next place that is not reached."""
        rows = self._rows
        for at in range(rows.at + 1, len(rows.rows)):
            row = rows.rows[at]
            if isinstance(row, Lead) or (isinstance(row, Stop) and (row.leads or row.number != row.rank)):
                rows.action_step(at - rows.at)
                return


def _count(stop: Stop, certainty: Certainty) -> int:
    return sum(lead.certainty is certainty for lead in stop.leads)
