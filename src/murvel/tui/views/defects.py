"""The defects: a list of what is documented, and the whole of the one that is picked."""

from __future__ import annotations

from functools import partial
from typing import ClassVar

from rich.table import Table
from rich.text import Text
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widget import Widget
from textual.widgets import Static
from textual.widgets.option_list import Option

from murvel.casebook.defect import Defect
from murvel.casebook.errors import CasebookError
from murvel.casebook.pictures import write
from murvel.casebook.status import StatusChange, standing
from murvel.checks.criteria import BY_NUMBER
from murvel.page.text import visible
from murvel.tui.actions import Action, bindings
from murvel.tui.dialogs.ask import AskLine
from murvel.tui.dialogs.defect_form import DefectForm
from murvel.tui.views.view import Happened, ToFront, ToPage, View
from murvel.tui.widgets.options import Options, PickedOptions
from murvel.tui.widgets.palette import WEIGHT, part_styles
from murvel.tui.widgets.rows import Beside
from murvel.tui.widgets.wording import facts_table
from murvel.work.opening import WantedPage
from murvel.work.work import Work

_LABEL_WIDTH = 17
_NUMBER_WIDTH = 4
_NOTHING_YET = """\
Nothing is documented yet. A defect stands here with what is heard, what should be heard, whom it stops, \
and the way to it.

d documents one:
  in Listen (1)    about the last announcement
  in Survey (2)    about an entry, with the evidence of its leads
  in Keyboard (3)  about a Tab stop"""


class DefectsView(View):
    """The Defects view: the defects of the casebook as they are documented now."""

    NAME = "defects"
    TITLE = "Defects"
    ABOUT = "what is documented"
    ACTIONS: ClassVar[tuple[Action, ...]] = (
        Action("defects", "go-there", "go_there", "enter", "Go to the defect's place on its page", "go there"),
        Action("defects", "edit", "edit", "e", "Edit the defect", "edit", is_at_once=True),
        Action(
            "defects",
            "status",
            "status",
            "s",
            "Say where the defect stands: repaired, confirmed …",
            "status",
            is_at_once=True,
        ),
        Action("defects", "pictures", "pictures", "p", "Write the defect's pictures into files", "pictures"),
        Action("defects", "delete", "delete", "x,delete", "Delete the defect", "delete"),
    )
    BINDINGS: ClassVar[list[BindingType]] = bindings(ACTIONS)

    def __init__(self, work: Work) -> None:
        super().__init__(work)
        self._defects: list[Defect] = []
        self._statuses: dict[int, list[StatusChange]] = {}
        self._stood: int | None = None
        """The id of the defect to stand at when they are drawn next, None for where one stands."""

    def compose(self) -> ComposeResult:
        """The list and the whole of one."""
        with Beside():
            listed = PickedOptions()
            listed.border_title = "Documented"
            yield listed
            whole = VerticalScroll(Static())
            whole.border_title = "Defect"
            yield whole

    @property
    def count(self) -> int:
        """How many defects there are."""
        return len(self.work.defects())

    def watch_drawn(self) -> None:
        """Show the defects as they are documented now."""
        listed = self.query_one(Options)
        at = listed.highlighted or 0
        self._defects = defects = self.work.defects()
        self._statuses = self.work.statuses()
        styles = part_styles(self.app)
        listed.clear_options()
        listed.add_options([Option(self._entry(defect, styles)) for defect in defects])
        at = next((index for index, each in enumerate(defects) if each.id == self._stood), min(at, len(defects) - 1))
        self._stood = None
        listed.highlighted = at if defects else None
        self._show_picked()

    def stand_at(self, about: int | str | None) -> None:
        """Stand at the defect that was documented or brought back."""
        if isinstance(about, int):
            self._stood = about

    @property
    def picked(self) -> Defect | None:
        """The defect that is picked, None if there is none."""
        at = self.query_one(Options).highlighted
        return self._defects[at] if at is not None and at < len(self._defects) else None

    @property
    def for_keys(self) -> Widget:
        """The list."""
        return self.query_one(Options)

    def _entry(self, defect: Defect, styles: dict[str, str]) -> Table:
        title = Text(visible(defect.headline), styles["strong"])
        line = Text(f"{WEIGHT[defect.impact]} ", styles["mark"])
        line.append(f"{defect.impact.value:<11}", styles["plain"])
        line.append(f"{standing(defect, self._statuses):<11}", styles["state"])
        line.append(f"{defect.criterion or 'no criterion':<13}", styles["role"])
        place = f"line {defect.place.line}" if defect.place.line else ""
        line.append(place if self.work.is_here(defect) else "on another page", styles["faint"])
        return facts_table([(str(defect.id), title), ("", line)], styles["faint"], _NUMBER_WIDTH)

    def _show_picked(self) -> None:
        self.query_one(Static).update(self._whole(self.picked))

    def _whole(self, defect: Defect | None) -> Text | Table:
        styles = part_styles(self.app)
        if defect is None:
            return Text(_NOTHING_YET, styles["role"])
        criterion = BY_NUMBER.get(defect.criterion)
        place = defect.place
        changes = self._statuses.get(defect.id or 0, [])
        status = standing(defect, self._statuses)
        facts = (
            ("title", defect.headline, "strong"),
            ("page", self._page_words(defect), "plain"),
            ("is heard", defect.heard or "nothing", "plain"),
            ("should be heard", defect.expected or "not stated yet", "state" if defect.expected else "faint"),
            ("status", f"{status}: {status.meaning}", "plain"),
            ("impact", f"{defect.impact.value}: {defect.impact.meaning}", "plain"),
            (
                "criterion",
                criterion.label if criterion else "none picked yet",
                "plain" if criterion else "faint",
            ),
            ("", criterion.gist if criterion else "", "role"),
            ("repair", defect.repair or "not stated yet", "plain" if defect.repair else "faint"),
            ("element", f"{place.role}, {place.name or 'without a name'}", "plain"),
            ("source", place.in_source, "plain"),
            ("XPath", place.xpath, "faint"),
            ("pictures", ", ".join(each.name for each in self.work.pictures(defect)), "plain"),
        )
        rows = [(label, Text(visible(value, keep_lines=True), styles[style])) for label, value, style in facts if value]
        if place.snippet:
            rows.append(("", Text(visible(place.snippet, keep_lines=True), styles["role"])))
        for number, change in enumerate(changes):
            line = Text(f"{change.at[:16].replace('T', ' ')}  {visible(change.words)}", styles["plain"])
            rows.append(("" if number else "history", line))
        for number, step in enumerate(defect.steps):
            line = Text(visible(step.words), styles["plain"])
            line.append(f": {visible(step.heard)}" if step.heard else "", styles["role"])
            rows.append(("" if number else "how to get there", line))
        return facts_table(rows, styles["faint"], _LABEL_WIDTH)

    def _page_words(self, defect: Defect) -> str:
        page = self.work.page_of(defect)
        return f"{page.title or page.address}, {page.width} pixels wide" if page is not None else ""

    def on_option_list_option_highlighted(self) -> None:
        """Show the whole of the defect one stands at."""
        self._show_picked()

    def on_option_list_option_selected(self) -> None:
        """Go to the place of the defect that was chosen."""
        self.action_go_there()

    def action_go_there(self) -> None:
        """Go to the defect's place, on whichever page it is."""
        defect = self.picked
        if defect is None:
            return
        page = self.work.page_of(defect)
        if page is not None and page.id != self.work.page.id:
            self.post_message(ToPage(WantedPage(page.address, page.width, defect)))
            return
        problem = self.work.go_to(defect)
        if problem is not None:
            self.post_message(Happened(problem, error=True))
        else:
            self.post_message(ToFront("listen"))

    def action_edit(self) -> None:
        """Open the form on the defect."""
        defect = self.picked
        if defect is None:
            return

        def edited(kept: Defect | None) -> None:
            if kept is not None:
                self.post_message(Happened(f"Defect {kept.id} is changed. u takes it back."))

        self.app.push_screen(DefectForm(defect, partial(self.work.edit, defect), self.work.note_draft), edited)

    def action_status(self) -> None:
        """Ask where the defect stands."""
        defect = self.picked
        if defect is None:
            return

        def said(words: str | None) -> None:
            if not words:
                return
            try:
                status = self.work.give_status([defect], words)
            except CasebookError as error:
                self.post_message(Happened(str(error), error=True))
            else:
                self.post_message(Happened(f"Defect {defect.id} is {status}: {status.meaning}. u takes it back."))

        hint = "repaired, confirmed, reopened, open, or accepted REASON until 2027-01-31"
        self.app.push_screen(AskLine("Status:", hint), said)

    def action_pictures(self) -> None:
        """Write the pictures of the defect into files beside the casebook."""
        defect = self.picked
        if defect is None:
            return
        try:
            paths = list(write(self.work.pictures(defect), self.work.casebook.path.parent))
        except CasebookError as error:
            self.post_message(Happened(str(error), error=True))
            return
        words = f"Written: {', '.join(map(str, paths))}" if paths else "There are no pictures: a browser takes them."
        self.post_message(Happened(words))

    def action_delete(self) -> None:
        """Delete the defect; it can be taken back."""
        defect = self.picked
        if defect is None:
            return
        try:
            self.work.delete([defect])
        except CasebookError as error:
            self.post_message(Happened(str(error), error=True))
        else:
            self.post_message(Happened(f"Defect {defect.id} is deleted. u takes it back."))
