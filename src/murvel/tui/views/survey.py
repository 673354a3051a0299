"""The Survey view: the page as lists, each entry with what is heard, what was noticed, and the tester's verdict."""

from __future__ import annotations

from dataclasses import replace
from typing import ClassVar

from rich.console import Group, RenderableType
from rich.text import Text
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widget import Widget
from textual.widgets import Static

from murvel.casebook.errors import CasebookError
from murvel.checks.engine.check import Certainty
from murvel.reader.speech.timing import clock
from murvel.stage.seen import Pair
from murvel.survey.choice import Choice
from murvel.survey.counts import count_words
from murvel.survey.entry import Entry, EntryKey, Judgement, Slice, Verdict
from murvel.survey.eyes import EYES, colours_of
from murvel.survey.facts import facts_of
from murvel.text import visible
from murvel.tui.actions import Action, bindings
from murvel.tui.dialogs.ask import AskLine
from murvel.tui.dialogs.looking import Looking
from murvel.tui.views.view import Happened, NeedsSurvey, ToDocument, ToFront, View
from murvel.tui.widgets.leads import LABEL_WIDTH, lead_block, lead_marks
from murvel.tui.widgets.list_names import ListName, ListNames
from murvel.tui.widgets.palette import LEGEND, part_styles
from murvel.tui.widgets.rows import Beside, Rows
from murvel.tui.widgets.wording import facts_table, pieces, styled, with_swatches
from murvel.work.work import Work

_SIGNS: dict[Verdict | None, tuple[str, str]] = {
    None: ("○", "faint"),
    Verdict.PASS: ("✓", "state"),
    Verdict.FAIL: ("●", "error"),
    Verdict.CONTEXT: ("◐", "mark"),
}
_TIME_WIDTH = 6
_DEEPEST = 8
_SHORT = 40


def _action(name: str, run: str, keys: str, words: str, brief: str = "") -> Action:
    return Action("survey", name, run, keys, words, brief, is_at_once=run in ("document", "note", "filter"))


class SurveyView(View):
    """The Survey view. Verdicts are in the casebook; it shows them and hands on what is decided."""

    NAME = "survey"
    TITLE = "Survey"
    ABOUT = "the page as lists, to be judged"
    NEEDS_SURVEY = True
    ACTIONS: ClassVar[tuple[Action, ...]] = (
        _action("pass", "judge('pass')", "p", "The entry passes; go on to the next", "pass"),
        _action("fail", "judge('fail')", "f", "The entry fails; go on to the next", "fail"),
        _action(
            "context", "judge('needs-context')", "c", "The entry needs more context; go on to the next", "needs-context"
        ),
        _action("next-open", "next_open", "n", "Go to the next entry that is not judged", "next open"),
        _action("document", "document", "d", "Document a defect about the entry", "document"),
        _action("go-there", "go_there", "enter", "Go to the entry's place on the page", "go there"),
        _action("next-list", "slice(1)", "right,l,tab", "Show the next list", "next list"),
        _action("previous-list", "slice(-1)", "left,h,shift+tab", "Show the list before"),
        _action("note", "note", "m", "Write a note to the entry", "note"),
        _action("filter", "filter", "slash", "Show only entries with some words", "filter"),
        _action("which", "which", "w", "Show all, those not judged, with leads, or of one verdict", "which"),
        _action("look", "look", "v", "Look at the page in the browser: contrast, targets, focus", "look"),
        _action("hidden", "hidden", "H", "Show and judge hidden entries too, or not"),
    )
    BINDINGS: ClassVar[list[BindingType]] = bindings(ACTIONS)

    def __init__(self, work: Work) -> None:
        super().__init__(work)
        self._slice = Slice.HEADINGS
        self._choice = Choice()
        self._stood: dict[Slice, EntryKey] = {}
        """The key of the entry that was stood at in each list."""
        self._judged: tuple[Entry, Entry | None] | None = None
        """The entry that was judged last, and the one that this led to."""

    def compose(self) -> ComposeResult:
        """The lists by name, one of them, and the whole of one entry."""
        yield ListNames()
        yield Static(id="counts")
        with Beside():
            yield Rows[Entry](self._row)
            whole = VerticalScroll(Static(id="whole"))
            whole.border_title = "Entry"
            yield whole

    # What is shown

    @property
    def _rows(self) -> Rows[Entry]:
        return self.query_one(Rows)

    @property
    def picked(self) -> Entry | None:
        """The entry one stands at, None if there is none."""
        return self._rows.picked

    @property
    def for_keys(self) -> Widget:
        """The list."""
        return self._rows

    def watch_drawn(self) -> None:
        """Show the list one stands in, as the page and the verdicts are now."""
        entries = self._choice.shown(self.work.survey, self._slice, self.work.judgement)
        key = self._stood.get(self._slice)
        at = next((index for index, entry in enumerate(entries) if entry.key == key), 0)
        rows = self._rows
        rows.show_rows(entries, at)
        rows.border_title = f"{self._slice.words.capitalize()}, {self._slice.about}"
        rows.border_subtitle = f"shown: {self._choice.about}" if self._choice.about else ""
        self._show_slices()
        self._show_picked()

    def stand_at(self, about: int | EntryKey | None) -> None:
        """Stand at an entry, in the list it is in."""
        if isinstance(about, EntryKey):
            self._slice = about.slice
            self._stood[self._slice] = about

    def _show_slices(self) -> None:
        styles = part_styles(self.app)
        names = self.query_one(ListNames)
        names.names = tuple(self._name_of(slice_) for slice_ in Slice)
        names.at = list(Slice).index(self._slice)
        text = Text(count_words(self.work.survey, self._slice, self.work.judgement), styles["state"], no_wrap=True)
        text.append(f"      {LEGEND}", styles["faint"])
        self.query_one("#counts", Static).update(text)

    def _name_of(self, slice_: Slice) -> ListName:
        entries = [each for each in self.work.survey.entries[slice_] if each.counts]
        fails = sum(each.count(Certainty.FAILS) for each in entries)
        count = len(entries) if self.work.survey.is_known(slice_) else None
        return ListName(slice_.words, count, fails, sum(len(each.leads) for each in entries) - fails)

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
        fails, marks = entry.count(Certainty.FAILS), lead_marks(entry.leads)
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
            return Text(self._nothing(), styles["role"])
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
        rows += [(label, with_swatches(visible(value), styles["plain"])) for label, value in facts]
        shown: list[RenderableType] = [facts_table([row for row in rows if row[1].plain], styles["faint"], LABEL_WIDTH)]
        for lead in entry.leads:
            shown += [Text(), lead_block(lead, styles)]
        return Group(*shown)

    @property
    def colours(self) -> Pair | None:
        """The colours of the entry one stands at."""
        return colours_of(self.work.session, self.picked.element) if self.picked is not None else None

    def _nothing(self) -> str:
        """Return why the list is empty, and what would stand there."""
        if self._choice.about:
            return f"No entry is {self._choice.about}. w shows others, / with no words takes the words away."
        if not self.work.survey.is_known(self._slice):
            return "Nobody has looked at this page yet: v does, where it is open in a browser (murvel open --browser)."
        return f"This page has no {self._slice.words}. Here would stand {self._slice.about}."

    def on_list_names_chosen(self, message: ListNames.Chosen) -> None:
        """Show the list that was clicked."""
        self._slice = list(Slice)[message.at]
        self.watch_drawn()

    def on_rows_picked(self) -> None:
        """Show the whole of the entry one stands at."""
        self._show_picked()
        if self._meant is self.picked:
            self._judged = None

    def on_rows_chosen(self) -> None:
        """Go to the place of the entry that was clicked twice."""
        self.action_go_there()

    # Actions

    def action_slice(self, by: int) -> None:
        """Show another list."""
        every = list(Slice)
        self._slice = every[(every.index(self._slice) + by) % len(every)]
        self.watch_drawn()

    def action_judge(self, verdict: str) -> None:
        """Say what one thinks of the entry and go on to the next; the verdict that it has already takes it back."""
        entry = self.picked
        if entry is None:
            return
        before = self.work.judgement(entry)
        said = Verdict(verdict)
        after = Judgement(None if before.verdict is said else said, before.note)
        self._keep(entry, after, _judged_words(entry, before.verdict, after.verdict))
        self._judged = None
        if after.verdict is not None:
            self._rows.action_step(1)
            self._show_picked()
            self._judged = entry, self.picked

    @property
    def _meant(self) -> Entry | None:
        """The entry that was judged last, as long as one did not move since; else the one that one stands at."""
        if self._judged is not None and self._judged[1] is self.picked:
            return self._judged[0]
        return self.picked

    def _keep(self, entry: Entry, judgement: Judgement, words: str = "") -> None:
        try:
            self.work.judge(entry, judgement)
        except CasebookError as error:
            self.post_message(Happened(str(error), error=True))
            return
        self.post_message(Happened(words))

    def action_note(self) -> None:
        """Write a note to the entry, or to the one that was just judged."""
        entry = self._meant
        if entry is None:
            return
        before = self.work.judgement(entry)

        def noted(text: str | None) -> None:
            if text is not None:
                self._keep(entry, Judgement(before.verdict, text.strip()))

        self.app.push_screen(AskLine(f"Note to {_short(entry)}:", "what speaks for or against it", before.note), noted)

    def action_next_open(self) -> None:
        """Go to the next entry that is not judged, in this list or those after it."""
        after = self.picked.number if self.picked is not None else 0
        entry = self._choice.next_open(self.work.survey, self.work.judgement, self._slice, after)
        if entry is None:
            self.post_message(Happened("Everything that is shown is judged."))
            return
        self.stand_at(entry.key)
        self.post_message(Happened())

    def action_filter(self) -> None:
        """Ask for words, and show only entries in which they are heard or noticed."""

        def given(text: str | None) -> None:
            if text is not None:
                self._choice = replace(self._choice, words=text)
                self.watch_drawn()

        self.app.push_screen(
            AskLine("Show only:", "words heard or noticed; nothing shows all", self._choice.words), given
        )

    def action_which(self) -> None:
        """Show all entries, or only those of one verdict, or with leads."""
        self._choice = replace(self._choice, which=self._choice.which.following)
        self.watch_drawn()

    def action_hidden(self) -> None:
        """Show what is hidden from those who listen too, judged as it is when it is shown, or not."""
        self._choice = replace(self._choice, hidden_too=not self._choice.hidden_too)
        self.work.judges_hidden = self._choice.hidden_too
        self.post_message(NeedsSurvey(self.watch_drawn))

    def action_look(self) -> None:
        """Look at the page in the browser, and show the list of contrast."""
        stage = self.work.session.stage
        if stage is None or not stage.is_live:
            words = "Contrast, targets and focus are seen in a browser only: murvel open PAGE --browser."
            self.post_message(Happened(words, error=True))
            return

        def looked(is_done: bool | None) -> None:
            if is_done:
                self._slice = self._slice if self._slice in EYES else Slice.CONTRAST
                self.post_message(NeedsSurvey(self.watch_drawn))

        self.app.push_screen(Looking("Looking at the page, window by window", self.work.look()), looked)

    def action_go_there(self) -> None:
        """Go to the entry's place on the page."""
        if self.picked is not None:
            move = f"go to entry {self.picked.number} of {self.picked.slice}"
            self.work.go_to_element(self.picked.element, move)
            self.post_message(ToFront("listen", "b goes back to the entry."))

    def action_document(self) -> None:
        """Ask for a defect about the entry, or about the one that was just judged."""
        entry = self._meant
        if entry is not None:
            self.post_message(ToDocument(self.work.evidence_of_entry(entry)))


def _short(entry: Entry) -> str:
    words = visible(entry.heard)
    return f"“{words if len(words) <= _SHORT else words[: _SHORT - 1] + '…'}”"


def _judged_words(entry: Entry, before: Verdict | None, after: Verdict | None) -> str:
    """Return the message after a verdict; where it changes or takes back an earlier one, the message names that."""
    if after is None:
        return f"{_short(entry)} is not judged any more; it was {before}."
    if before is not None:
        return f"{_short(entry)} was {before} and is {after} now. u takes it back."
    return f"{_short(entry)}: {after}. d documents it, m writes a note to it."
