"""The form in which a defect is documented or edited."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from typing import ClassVar

from rich.console import Group
from rich.padding import Padding
from rich.text import Text
from textual import on, work
from textual.binding import Binding, BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.timer import Timer
from textual.widget import Widget
from textual.widgets import Input, Label, Static, TextArea
from textual.widgets.option_list import Option

from murvel.casebook.defect import RATED, Defect, Impact
from murvel.casebook.errors import CasebookError
from murvel.checks.tables.criteria import BY_NUMBER, CRITERIA, Criterion
from murvel.errors import MurvelError
from murvel.text import counted, visible
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.dialogs.texts import Texts
from murvel.tui.widgets.options import Options
from murvel.tui.widgets.palette import WEIGHT, part_styles
from murvel.walks.parsing import steps_of
from murvel.work.evidence import MOST_PLACES
from murvel.work.trying import Tried
from murvel.work.work import Work

_QUIET = 0.4
"""Seconds after the last key at which the entries are noted."""


_FURTHER = 3
"""The most further places that are shown."""

_AT_ONCE = 5_000
"""On a page with fewer nodes, steps are tried without a pause."""


class DefectForm(Dialog[Defect | None]):
    """Asks for what only the tester knows; answers with the defect as kept, or with None.

    The defect is kept while the form is still open, so that a casebook that cannot be written loses nothing: the form
    stays, with what was entered, and says why.
    """

    KEYS = (
        ("Tab", "next field"),
        ("Ctrl+O", "put in a text"),
        ("Ctrl+T", "try the steps"),
        ("Ctrl+L", "same as another"),
        ("Ctrl+G", "all places"),
        ("Ctrl+S", "keep"),
        ("Esc", "drop"),
    )
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("ctrl+s", "keep", "Keep", show=False, priority=True),
        Binding("ctrl+o", "put_in", "Put in a text", show=False, priority=True),
        Binding("ctrl+t", "try_steps", "Try the steps", show=False, priority=True),
        Binding("ctrl+l", "join", "Same as another", show=False, priority=True),
        Binding("ctrl+g", "gather", "All places", show=False, priority=True),
        Binding("escape", "drop", "Drop", show=False, priority=True),
    ]

    def __init__(self, defect: Defect, work: Work, *, is_draft: bool = False) -> None:
        super().__init__()
        self._defect = defect
        self._work = work
        self._is_draft = is_draft
        self._alike = work.alike(defect) if defect.id is None else []
        self._elsewhere = work.same_fault(defect)
        self._waiting: Timer | None = None
        self._criterion = defect.criterion
        self._listed: list[Criterion] = []
        self._warned = False
        self._is_asked = False
        self._tried = defect.acceptance if defect.id is not None else ""
        """Acceptance steps that need not be tried before they are kept: they were, or they are kept already."""
        self._joins_at: int | None = None
        """Which of those that are alike Ctrl+L was asked for, None before it was."""

    def body(self) -> Iterable[Widget]:
        """What is heard and should be, and how badly it hurts; beside it the criterion, the steps and the evidence."""
        defect = self._defect
        with Vertical() as frame:
            frame.border_title = f"Edit defect {defect.id}" if defect.id else "Document a defect"
            if self._is_draft:
                frame.border_title += ", half written when Murvel ended"
            with Horizontal():
                with VerticalScroll(can_focus=False):
                    yield Label("Title")
                    yield Input(defect.title or defect.place.words, id="title", select_on_focus=False)
                    yield Label("What is heard")
                    yield TextArea(defect.heard, id="heard")
                    yield Label("What should be heard")
                    yield TextArea(defect.expected, id="expected")
                    yield Label("Impact")
                    yield Options(*(self._impact(impact) for impact in RATED), id="impact")
                    yield Label("Who is stopped, and how")
                    yield TextArea(defect.stopped, id="stopped")
                    yield Label("How to repair it")
                    yield TextArea(defect.repair, id="repair")
                with VerticalScroll(id="right", can_focus=False):
                    yield Label("WCAG 2.2 success criterion")
                    yield Static(id="picked")
                    yield Input(placeholder="search: number, name or words", id="search")
                    yield Options(id="criteria")
                    yield Label("Repaired when (Ctrl+T tries it)")
                    yield TextArea(defect.acceptance, id="acceptance")
                    yield Label("Tags")
                    yield Input(" ".join(defect.tags), id="tags", select_on_focus=False)
                    yield Label("Notes")
                    yield TextArea(defect.notes, id="notes")
                    yield Label("Evidence, kept by itself")
                    yield Static(self._evidence(), classes="facts", id="evidence")
            yield Static(id="message")

    def on_mount(self) -> None:
        """Begin at what only the tester knows."""
        impact = self._defect.impact
        self.query_one("#impact", Options).highlighted = RATED.index(impact) if impact in RATED else None
        self._list("")
        self._show_picked()
        self.query_one("#expected").focus()
        if self._is_draft:
            self._say("Ctrl+S keeps it, Esc twice drops it.")
        elif self._alike:
            first = self._alike[0]
            self._say(f"Perhaps the same as {first.id}. {first.headline}: Ctrl+L makes this a further place of it.")
        elif self._elsewhere:
            count = counted(len(self._elsewhere), "more place", "more places")
            least = "at least " if len(self._elsewhere) == MOST_PLACES else ""
            self._say(f"The same is noticed at {least}{count} of this page: Ctrl+G documents them as one defect.")

    @on(Input.Changed, "#title")
    @on(Input.Changed, "#tags")
    @on(TextArea.Changed)
    @on(Options.OptionHighlighted, "#impact")
    def _entered_something(self) -> None:
        """Note what is entered once the person pauses."""
        if self._waiting is not None:
            self._waiting.stop()
        self._waiting = self.set_timer(_QUIET, self._note_entered)

    def _note_entered(self) -> None:
        if self.is_asking and (self._is_draft or self._is_changed):
            self._noted(self._entered())

    def _noted(self, defect: Defect | None) -> None:
        try:
            self._work.note_draft(defect)
        except CasebookError as error:
            self._say(f"! {error}")

    @property
    def _is_changed(self) -> bool:
        """Whether something was entered."""
        before = self._defect
        return self._entered() != replace(before, title=before.headline, acceptance=before.acceptance.strip())

    def _impact(self, impact: Impact) -> Option:
        styles = part_styles(self.app)
        text = Text(f"{WEIGHT[impact]} ", styles["mark"])
        text.append(f"{impact.value} ", styles["strong"])
        text.append(impact.meaning, styles["role"])
        return Option(text)

    def _evidence(self) -> Text:
        styles = part_styles(self.app)
        place = self._defect.place
        text = Text(overflow="ellipsis", no_wrap=True)
        text.append(f"{place.role}, {visible(place.name) or 'without a name'}, {place.in_source}\n", styles["plain"])
        text.append(f"{visible(place.within)}\n" if place.within else "", styles["plain"])
        text.append(f"{visible(place.xpath)}\n", styles["faint"])
        if place.snippet:
            text.append(f"{visible(' '.join(place.snippet.split()))}\n", styles["role"])
        if self._defect.stage:
            text.append(f"{visible(self._defect.stage)}\n", styles["faint"])
        for each in self._defect.further[:_FURTHER]:
            text.append(f"also at: {visible(each.place.words)}, {each.place.in_source}\n", styles["plain"])
        if len(self._defect.further) > _FURTHER:
            text.append(f"and {len(self._defect.further) - _FURTHER} more\n", styles["plain"])
        for step in self._defect.steps[-3:]:
            text.append(visible(step.words), styles["plain"])
            text.append(f": {visible(step.heard)}\n" if step.heard else "\n", styles["role"])
        text.rstrip()
        return text

    # The criterion

    def _list(self, words: str) -> None:
        styles = part_styles(self.app)
        listed = self.query_one("#criteria", Options)
        is_asked = bool(words.strip())
        self._listed = [criterion for criterion in CRITERIA if is_asked and criterion.matches(words)]
        listed.display = is_asked
        listed.clear_options()
        if not self._listed:
            listed.add_option(
                Option(Text(f"No criterion has “{visible(words)}” in it.", styles["faint"]), disabled=True)
            )
        for criterion in self._listed:
            text = Text(f"{criterion.number:<7}", styles["mark"])
            text.append(f"{criterion.name} ", styles["plain"])
            text.append(criterion.level, styles["state"])
            gist = Padding(Text(criterion.gist, styles["role"]), (0, 0, 0, 7))
            listed.add_option(Option(Group(text, gist)))
        numbers = [criterion.number for criterion in self._listed]
        if self._criterion in numbers:
            listed.highlighted = numbers.index(self._criterion)
        elif numbers and words:
            listed.highlighted = 0

    def _show_picked(self) -> None:
        styles = part_styles(self.app)
        criterion = BY_NUMBER.get(self._criterion)
        text = Text()
        if criterion is None:
            text.append("none picked yet", styles["faint"])
        else:
            text.append(f"● {criterion.label}\n", styles["strong"])
            text.append(criterion.gist, styles["role"])
        self.query_one("#picked", Static).update(text)

    @on(Input.Changed, "#search")
    def _search_changed(self, event: Input.Changed) -> None:
        if self.is_asking:
            self._list(event.value)

    @on(Input.Submitted, "#search")
    def _search_submitted(self) -> None:
        """Enter in the search picks the first that is left, if the words leave any out."""
        if self.is_asking and self._listed and self.query_one("#search", Input).value.strip():
            self._pick(self._listed[0])

    @on(Options.OptionSelected, "#criteria")
    def _criterion_selected(self, event: Options.OptionSelected) -> None:
        self._pick(self._listed[event.option_index])

    def _pick(self, criterion: Criterion) -> None:
        self._criterion = "" if self._criterion == criterion.number else criterion.number
        self._show_picked()

    # Keeping and dropping

    def _entered(self) -> Defect:
        impact = self.query_one("#impact", Options).highlighted
        return replace(
            self._defect,
            heard=self.query_one("#heard", TextArea).text.strip(),
            expected=self.query_one("#expected", TextArea).text.strip(),
            impact=RATED[impact] if impact is not None else Impact.NOT_RATED,
            stopped=self.query_one("#stopped", TextArea).text.strip(),
            criterion=self._criterion,
            repair=self.query_one("#repair", TextArea).text.strip(),
            title=" ".join(self.query_one("#title", Input).value.split()),
            acceptance=self.query_one("#acceptance", TextArea).text.strip(),
            tags=tuple(dict.fromkeys(self.query_one("#tags", Input).value.split())),
            notes=self.query_one("#notes", TextArea).text.strip(),
        )

    def _say(self, message: str) -> None:
        style = part_styles(self.app)["error" if message.startswith("!") else "state"]
        self.query_one("#message", Static).update(Text(visible(message), style))

    def action_keep(self) -> None:
        """Keep the defect and close; where it cannot be written, say why and stay.

        Steps are tried first: those that pass while the defect is there prove nothing.
        """
        entered = self._entered()
        if entered.is_unwritten and not self._is_asked and self._joins_at is None:
            self._is_asked = True
            self._say("! Nothing is written but what was heard. Ctrl+S again keeps it so.")
            return
        try:
            if steps_of(entered.acceptance, self._work.catalogue) and entered.acceptance != self._tried:
                self._try_to_keep(entered)
                return
            kept = self._kept(entered)
        except MurvelError as error:
            self._say(f"! {error}")
            return
        self.dismiss(kept)

    def _kept(self, entered: Defect) -> Defect:
        if self._joins_at is not None:
            return self._work.join(entered, self._alike[self._joins_at])
        before = next((each for each in self._work.defects() if each.id is not None and each.id == entered.id), None)
        return self._work.edit(before, entered) if before is not None else self._work.document(entered)

    def action_put_in(self) -> None:
        """Ask for a text that comes again, and put it into the field one is in."""
        area = self.focused
        if not self.is_asking or not isinstance(area, TextArea) or area.id is None:
            return

        def put(text: str | None) -> None:
            if text is not None:
                area.insert(text)

        self.app.push_screen(Texts(self._work.texts, self._work.used(area.id)), put)

    def action_join(self) -> None:
        """Make this a further place of a defect that is alike: the next of them each time, once Ctrl+S says so."""
        if not self.is_asking or not self._alike:
            self._say("No documented defect is like this one.")
            return
        self._joins_at = 0 if self._joins_at is None else (self._joins_at + 1) % len(self._alike)
        other = self._alike[self._joins_at]
        more = " Ctrl+L: of another one." if len(self._alike) > 1 else ""
        named = f"{other.id}. {other.headline}"
        self._say(f"Ctrl+S keeps it as a further place of {named}.{more} Esc: a defect of its own.")

    def action_gather(self) -> None:
        """Make all other places at which the same is noticed further ones of this defect, or no more."""
        if not self.is_asking:
            return
        if not self._elsewhere:
            self._say("The same is noticed nowhere else on this page.")
            return
        is_alone = self._defect.further != self._elsewhere
        self._defect = replace(self._defect, further=self._elsewhere if is_alone else ())
        self.query_one("#evidence", Static).update(self._evidence())
        count = counted(len(self._elsewhere), "further place", "further places")
        self._say(f"It has {count} now. Ctrl+G again: this place alone." if is_alone else "It has this place alone.")

    def action_try_steps(self) -> None:
        """Run the acceptance steps on the page as it is."""
        if self.is_asking:
            self._say("Trying …")
            self._try(self._entered(), self._tell)

    @work(thread=True, exclusive=True, exit_on_error=False)
    def _try(self, entered: Defect, then: Callable[[Tried], None]) -> None:
        self.app.call_from_thread(then, self._outcome(entered))

    def _outcome(self, entered: Defect) -> Tried:
        try:
            return self._work.try_steps(entered)
        except MurvelError as error:
            return Tried(entered.acceptance, str(error), is_doubtful=True)

    def _try_to_keep(self, entered: Defect) -> None:
        if len(self._work.session.tree.nodes) <= _AT_ONCE:
            self._keep_tried(self._outcome(entered))
        else:
            self._say("Trying the steps …")
            self._try(entered, self._keep_tried)

    def _keep_tried(self, tried: Tried) -> None:
        """Keep the defect with steps that were tried; those that prove nothing are asked about."""
        if not self.is_asking:
            return
        self._tried = tried.acceptance
        if tried.is_doubtful:
            self._say(f"! {tried.words} Ctrl+S again keeps them so.")
        else:
            self.action_keep()

    def _tell(self, tried: Tried) -> None:
        if not self.is_asking:
            return
        area = self.query_one("#acceptance", TextArea)
        if not area.text.strip():
            area.text = tried.acceptance
        self._say(tried.words if tried.is_well else f"! {tried.words}")

    def action_drop(self) -> None:
        """Close without keeping; where something was entered, only when asked twice."""
        if self._joins_at is not None:
            self._joins_at = None
            self._say("")
            return
        if (self._is_draft or self._is_changed) and not self._warned:
            self._warned = True
            self._say("! What you entered is not kept yet: Ctrl+S keeps it, Esc again drops it.")
            return
        self._noted(None)
        self.dismiss(None)
