"""The Survey view: the page as lists, each entry with what is heard, what was noticed, and the tester's verdict."""

from __future__ import annotations

from dataclasses import replace
from typing import ClassVar

from rich.console import Group, RenderableType
from rich.text import Text
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical, VerticalScroll
from textual.message import Message
from textual.widget import Widget
from textual.widgets import Static

from murvel.casebook.errors import CasebookError
from murvel.checks.check import Certainty
from murvel.page.text import visible
from murvel.reader.timing import clock
from murvel.survey.choice import Choice
from murvel.survey.counts import count_words
from murvel.survey.entry import Entry, Judgement, Slice, Verdict
from murvel.survey.facts import facts_of
from murvel.tui.actions import Where, bindings
from murvel.tui.dialogs.ask import AskLine
from murvel.tui.widgets.leads import LABEL_WIDTH, lead_block
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.rows import Beside, Rows
from murvel.tui.widgets.view import Document, GoTo
from murvel.tui.widgets.wording import facts_table, in_lines, pieces, styled
from murvel.work.work import Work

_SIGNS: dict[Verdict | None, tuple[str, str]] = {
    None: ("○", "faint"),
    Verdict.PASS: ("✓", "state"),
    Verdict.FAIL: ("●", "error"),
    Verdict.CONTEXT: ("◐", "mark"),
}
_TIME_WIDTH = 6
_DEEPEST = 8
_SIDE = 2
"""Cells on each side of the lists' names."""


class SurveyView(Vertical):
    """The Survey view. Verdicts are in the casebook; it shows them and hands on what is decided."""

    DEFAULT_CSS = f"SurveyView > #slices {{ height: auto; padding: 0 {_SIDE}; }}"

    BINDINGS: ClassVar[list[BindingType]] = bindings(Where.SURVEY)

    class Said(Message):
        """Something to tell the person."""

        def __init__(self, words: str, *, error: bool = False) -> None:
            self.words = words
            self.error = error
            super().__init__()

    def __init__(self, work: Work, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self.work = work
        self._slice = Slice.HEADINGS
        self._choice = Choice()
        self._stood: dict[Slice, str] = {}
        """The key of the entry that was stood at in each list."""

    def compose(self) -> ComposeResult:
        """The lists by name, one of them, and the whole of one entry."""
        yield Static(id="slices")
        with Beside():
            yield Rows[Entry](self._row)
            whole = VerticalScroll(Static(id="whole"))
            whole.border_title = "Entry"
            yield whole

    def on_mount(self) -> None:
        """Follow the theme."""
        self.app.theme_changed_signal.subscribe(self, lambda _: self.show_now())

    def on_resize(self) -> None:
        """Fit the lists' names to the new width."""
        if self.display:
            self._show_slices()

    # What is shown

    @property
    def _rows(self) -> Rows[Entry]:
        return self.query_one(Rows)

    @property
    def picked(self) -> Entry | None:
        """The entry one stands at, None where there is none."""
        return self._rows.picked

    @property
    def for_keys(self) -> Widget:
        """The list."""
        return self._rows

    def show_now(self) -> None:
        """Show the list one stands in, as the page and the verdicts are now."""
        entries = self._choice.shown(self.work.survey, self._slice, self.work.judgement)
        key = self._stood.get(self._slice)
        at = next((index for index, entry in enumerate(entries) if entry.key == key), 0)
        rows = self._rows
        rows.show_rows(entries, at)
        rows.border_title = f"{self._slice.value.capitalize()}, {self._slice.about}"
        rows.border_subtitle = f"shown: {self._choice.about}" if self._choice.about else ""
        self._show_slices()
        self._show_picked()

    def show_entry(self, entry: Entry) -> None:
        """Show the list an entry is in, and stand at it."""
        self._slice = entry.slice
        self._stood[entry.slice] = entry.key
        self.show_now()

    def _show_slices(self) -> None:
        styles = part_styles(self.app)
        text = Text()
        for slice_ in Slice:
            entries = [each for each in self.work.survey.entries[slice_] if each.counts]
            is_here = slice_ is self._slice
            if text:
                text.append("  ·  ", styles["faint"])
            name = f"{slice_.value}\u00a0{len(entries)}"
            text.append(name, f"{styles['strong']} underline" if is_here else styles["plain" if entries else "faint"])
            leads = sum(len(each.leads) for each in entries)
            if leads:
                text.append(f"\u00a0▲{leads}", styles["mark"])
        text = in_lines(text, self.app.size.width - 2 * _SIDE)
        text.append("\n")
        text.append(
            count_words(self._slice, self.work.survey.entries[self._slice], self.work.judgement), styles["state"]
        )
        self.query_one("#slices", Static).update(text)

    def _row(self, entry: Entry, width: int) -> Text:
        styles = part_styles(self.app)
        sign, style = _SIGNS[self.work.judgement(entry).verdict]
        text = Text(no_wrap=True)
        text.append(f"{sign} ", styles[style])
        text.append(f"{clock(entry.time) if entry.time is not None else '':>{_TIME_WIDTH}} ", styles["faint"])
        rails = "│ " * min(entry.depth, _DEEPEST)
        if entry.slice is Slice.HEADINGS and entry.remark and entry.is_heard:
            rails = rails[:-2] + "┆ " if rails else "┆ "
        text.append(rails, styles["rail-group"])
        fails, ears = entry.count(Certainty.FAILS), entry.count(Certainty.NEEDS_EARS)
        marks = f"{f' ▲{fails}' if fails else ''}{f' △{ears}' if ears else ''}"
        room = max(8, width - text.cell_len - len(marks) - (len(entry.remark) + 3 if entry.remark else 0))
        said = (
            styled(pieces(entry.utterance), styles) if entry.is_heard else Text(visible(entry.heard), styles["faint"])
        )
        said.truncate(room, overflow="ellipsis")
        text.append_text(said)
        if entry.remark:
            text.append(f"  {visible(entry.remark)}", styles["notice"])
        text.pad_right(max(0, width - text.cell_len - len(marks)))
        text.append(marks, styles["error" if fails else "mark"])
        return text

    def _show_picked(self) -> None:
        entry = self.picked
        if entry is not None:
            self._stood[self._slice] = entry.key
        self.query_one("#whole", Static).update(self._whole(entry))
        self.query_one(VerticalScroll).scroll_home(animate=False)

    def _whole(self, entry: Entry | None) -> RenderableType:
        styles = part_styles(self.app)
        if entry is None:
            return Text("Nothing here that is to be shown.", styles["role"])
        judgement = self.work.judgement(entry)
        sign, style = _SIGNS[judgement.verdict]
        said = judgement.verdict.value if judgement.verdict is not None else "not judged yet"
        rows = [
            ("verdict", Text(f"{sign} {said}", styles[style])),
            ("note", Text(visible(judgement.note), styles["plain"])),
            ("is heard", styled(pieces(entry.utterance), styles) if entry.is_heard else Text(entry.heard)),
            ("", Text(visible(entry.remark), styles["notice"])),
        ]
        facts = facts_of(self.work.survey.page, entry)
        rows += [(label, Text(visible(value), styles["plain"])) for label, value in facts]
        shown: list[RenderableType] = [facts_table([row for row in rows if row[1].plain], styles["faint"], LABEL_WIDTH)]
        for lead in entry.leads:
            shown += [Text(), lead_block(lead, styles)]
        return Group(*shown)

    def on_rows_picked(self) -> None:
        """Show the whole of the entry one stands at."""
        self._show_picked()

    def on_rows_chosen(self) -> None:
        """A click on the picked one: go to its place."""
        self.action_go_to_entry()

    # Actions

    def action_slice(self, by: int) -> None:
        """Show another list."""
        every = list(Slice)
        self._slice = every[(every.index(self._slice) + by) % len(every)]
        self.show_now()

    def action_judge(self, verdict: str) -> None:
        """Say what one thinks of the entry; the same once more takes it back."""
        entry = self.picked
        if entry is None:
            return
        before = self.work.judgement(entry)
        said = Verdict(verdict)
        after = Judgement(None if before.verdict is said else said, before.note)
        if self._keep(entry, after) and after.verdict is Verdict.FAIL:
            self.post_message(self.Said("Fails. d documents it as a defect, with its evidence filled in."))
        self._rows.action_step(1 if after.verdict is Verdict.PASS else 0)

    def _keep(self, entry: Entry, judgement: Judgement) -> bool:
        try:
            self.work.judge(entry, judgement)
        except CasebookError as error:
            self.post_message(self.Said(str(error), error=True))
            return False
        self.post_message(self.Said(""))
        self._show_slices()
        self._rows.refresh()
        self._show_picked()
        return True

    def action_note(self) -> None:
        """Write a note to the entry."""
        entry = self.picked
        if entry is None:
            return
        before = self.work.judgement(entry)

        def noted(text: str | None) -> None:
            if text is not None:
                self._keep(entry, Judgement(before.verdict, text.strip()))

        self.app.push_screen(AskLine("Note:", "what speaks for or against it", before.note), noted)

    def action_next_open(self) -> None:
        """Go to the next entry that is not judged, in this list or those after it."""
        after = self.picked.number if self.picked is not None else 0
        entry = self._choice.next_open(self.work.survey, self.work.judgement, self._slice, after)
        if entry is None:
            self.post_message(self.Said("Everything that is shown is judged."))
            return
        self.show_entry(entry)

    def action_filter(self) -> None:
        """Ask for words, and show only entries in which they are heard or noticed."""

        def given(text: str | None) -> None:
            if text is not None:
                self._choice = replace(self._choice, words=text)
                self.show_now()

        self.app.push_screen(
            AskLine("Show only:", "words heard or noticed; nothing shows all", self._choice.words), given
        )

    def action_which(self) -> None:
        """Show all entries, or only those of one verdict, or with leads."""
        self._choice = replace(self._choice, which=self._choice.which.following)
        self.show_now()

    def action_hidden(self) -> None:
        """Show what is hidden from those who listen too, or not."""
        self._choice = replace(self._choice, hidden_too=not self._choice.hidden_too)
        self.show_now()

    def action_go_to_entry(self) -> None:
        """Ask for the entry's place."""
        if self.picked is not None:
            move = f"go to entry {self.picked.number} of {self.picked.slice}"
            self.post_message(GoTo(self.picked.element, move, "b goes back to the entry."))

    def action_document_entry(self) -> None:
        """Ask for the entry to be documented."""
        if self.picked is not None:
            self.post_message(Document(self.work.evidence_of_entry(self.picked)))
