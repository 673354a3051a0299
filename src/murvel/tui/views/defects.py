"""The defects: a list of what is documented, and the whole of the one that is picked."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import ClassVar

from rich.table import Table
from rich.text import Text
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widget import Widget
from textual.widgets import Static

from murvel.casebook.attaching import write
from murvel.casebook.defect import Defect
from murvel.casebook.errors import CasebookError
from murvel.casebook.listing import Listing
from murvel.casebook.status import StatusChange, standing
from murvel.survey.entry import EntryKey
from murvel.text import visible
from murvel.tui.actions import Action, bindings
from murvel.tui.dialogs.ask import AskLine
from murvel.tui.dialogs.defect_form import DefectForm
from murvel.tui.views.view import Happened, ToFront, ToPage, ToRetest, View
from murvel.tui.widgets.defect_facts import defect_line, whole_defect
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.rows import Beside, Rows
from murvel.work.documenting import they_are
from murvel.work.opening import WantedPage
from murvel.work.work import Work

_NOTHING_YET = """\
Nothing is documented yet. A defect stands here with what is heard, what should be heard, whom it stops, \
and the way to it.

d documents one:
  in Listen (1)    about the last announcement
  in Survey (2)    about an entry, with the evidence of its leads
  in Keyboard (3)  about a Tab stop"""


def _action(name: str, run: str, keys: str, words: str, brief: str = "", *, is_at_once: bool = False) -> Action:
    return Action("defects", name, run, keys, words, brief, is_at_once)


class DefectsView(View):
    """The Defects view: the defects of the casebook as they are documented now."""

    NAME = "defects"
    TITLE = "Defects"
    ABOUT = "what is documented"
    ACTIONS: ClassVar[tuple[Action, ...]] = (
        _action("go-there", "go_there", "enter", "Go to the defect's place on its page", "go there"),
        _action("edit", "edit", "e", "Edit the defect", "edit", is_at_once=True),
        _action("status", "status", "s", "Say where it stands: repaired, confirmed …", "status", is_at_once=True),
        _action("retest", "retest", "r", "Re-test the defects of its page", "re-test", is_at_once=True),
        _action("tick", "tick", "space", "Tick it, to change several at once", "tick"),
        _action("tick-all", "tick_all", "a", "Tick all that are shown, or none"),
        _action("tags", "tags", "t", "Give it tags of your own", "tags", is_at_once=True),
        _action("filter", "filter", "slash", "Show only defects with some words", "filter", is_at_once=True),
        _action("order", "order", "b", "Order by number, impact, status, criterion, page or tag", "order by"),
        _action("attach", "attach", "f", "Attach a file: a picture, a drawing or a text", is_at_once=True),
        _action("attachments", "attachments", "p", "Write its attachments into files"),
        _action("delete", "delete", "x,delete", "Delete it", "delete"),
    )
    BINDINGS: ClassVar[list[BindingType]] = bindings(ACTIONS)

    def __init__(self, work: Work) -> None:
        super().__init__(work)
        self._listing = Listing()
        self._shown: list[Defect] = []
        self._ticked: set[int] = set()
        """The ids of the defects that are changed together."""
        self._statuses: dict[int, list[StatusChange]] = {}
        self._stood: int | None = None
        """The id of the defect to stand at when they are drawn next, None for where one stands."""

    def compose(self) -> ComposeResult:
        """The list and the whole of one."""
        with Beside():
            yield Rows[Defect | str](self._line, lambda row: isinstance(row, Defect))
            whole = VerticalScroll(Static())
            whole.border_title = "Defect"
            yield whole

    @property
    def count(self) -> int:
        """How many defects there are."""
        return len(self.work.defects())

    def watch_drawn(self) -> None:
        """Show the defects as they are documented now."""
        stood = self._stood
        if stood is None and self.picked is not None:
            stood = self.picked.id
        every = self.work.defects()
        self._statuses = self.work.statuses()
        addresses = {page.id: page.address for page in self.work.casebook.pages()}
        self._shown = shown = self._listing.shown(every, self._statuses, addresses)
        self._ticked &= {each.id for each in every if each.id is not None}
        rows: list[Defect | str] = []
        group = ""
        for each in shown:
            before, group = group, self._listing.group(each, self._statuses, addresses)
            rows += [group, each] if group != before else [each]
        listed = self._rows
        at = next((at for at, each in enumerate(rows) if isinstance(each, Defect) and each.id == stood), listed.at)
        listed.show_rows(rows, at)
        listed.border_title = f"Documented, {self._listing.about}" if self._listing.about else "Documented"
        hidden = len(every) - len(shown)
        ticked = f"{len(self._ticked)} ticked" if self._ticked else ""
        listed.border_subtitle = ", ".join(filter(None, (ticked, f"{hidden} not shown" if hidden else "")))
        self._stood = None
        self._show_picked()

    def stand_at(self, about: int | EntryKey | None) -> None:
        """Stand at the defect that was documented or brought back."""
        if isinstance(about, int):
            self._stood = about

    @property
    def picked(self) -> Defect | None:
        """The defect that is picked, None if there is none."""
        picked = self._rows.picked
        return picked if isinstance(picked, Defect) else None

    @property
    def _rows(self) -> Rows[Defect | str]:
        return self.query_one(Rows)

    @property
    def _meant(self) -> list[Defect]:
        """The defects that are ticked and shown; where none is, the one that is picked."""
        ticked = [each for each in self._shown if each.id in self._ticked]
        return ticked or ([self.picked] if self.picked is not None else [])

    @property
    def for_keys(self) -> Widget:
        """The list."""
        return self._rows

    def _line(self, row: Defect | str, width: int) -> Text:
        styles = part_styles(self.app)
        if isinstance(row, str):
            return Text(visible(row), styles["mark"])
        return defect_line(row, standing(row, self._statuses), styles, is_ticked=row.id in self._ticked)

    def _show_picked(self) -> None:
        self.query_one(Static).update(self._whole(self.picked))

    def _whole(self, defect: Defect | None) -> Text | Table:
        styles = part_styles(self.app)
        if defect is None:
            nothing = "No defect has these words in it; / asks for others." if self._listing.words else _NOTHING_YET
            return Text(nothing, styles["role"])
        page = self.work.page_of(defect)
        words = f"{page.title or page.address}, {page.width} pixels wide" if page is not None else ""
        changes = self._statuses.get(defect.id or 0, [])
        return whole_defect(
            defect, standing(defect, self._statuses), changes, words, self.work.attachments(defect), styles
        )

    def on_rows_picked(self) -> None:
        """Show the whole of the defect one stands at."""
        self._show_picked()

    def on_rows_chosen(self) -> None:
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

        self.app.push_screen(DefectForm(defect, self.work), edited)

    def action_status(self) -> None:
        """Ask where the defects that are meant stand."""
        meant = self._meant

        def said(words: str) -> str:
            status = self.work.give_status(meant, words)
            return f"{they_are(meant)} {status}: {status.meaning}."

        hint = "repaired, confirmed, reopened, open, or accepted REASON until 2027-01-31"
        self._ask(meant, AskLine("Status:", hint), said)

    def action_tags(self) -> None:
        """Ask for tags."""
        meant = self._meant

        def given(words: str) -> str:
            self.work.tag(meant, words)
            return f"{they_are(meant)} tagged {words.strip()}." if words.strip() else f"{they_are(meant)} without tags."

        text = " ".join(meant[0].tags) if len(meant) == 1 else ""
        self._ask(meant, AskLine("Tags:", "words of your own, with spaces between", text), given, is_empty_said=True)

    def _ask(
        self, meant: list[Defect], line: AskLine, say: Callable[[str], str], *, is_empty_said: bool = False
    ) -> None:
        """Ask for a line about the defects that are meant, and tell what came of it."""
        if not meant:
            return

        def said(words: str | None) -> None:
            if words or (is_empty_said and words is not None):
                self._change(lambda: say(words or ""))

        self.app.push_screen(line, said)

    def _change(self, change: Callable[[], str]) -> None:
        try:
            words = change()
        except CasebookError as error:
            self.post_message(Happened(str(error), error=True))
        else:
            self.post_message(Happened(f"{words} u takes it back."))

    def on_rows_marked(self) -> None:
        """Tick the defect whose mark was clicked, or no more."""
        self._tick(0)

    def action_tick(self) -> None:
        """Tick the defect one stands at, or no more; then go on."""
        self._tick(1)

    def _tick(self, then: int) -> None:
        """Tick the defect at the cursor, or untick it, and move the cursor by a number of defects."""
        if self.picked is not None and self.picked.id is not None:
            self._ticked ^= {self.picked.id}
            at = self._shown.index(self.picked)
            self._stood = self._shown[min(at + then, len(self._shown) - 1)].id
            self.post_message(Happened())

    def action_tick_all(self) -> None:
        """Tick all that are shown; where all are, none."""
        shown = {each.id for each in self._shown if each.id is not None}
        self._ticked = set() if shown <= self._ticked else self._ticked | shown
        self.post_message(Happened())

    def action_filter(self) -> None:
        """Ask for words, and show only defects in which they are written."""

        def given(words: str | None) -> None:
            if words is not None:
                self._listing = replace(self._listing, words=words.strip())
                self.post_message(Happened())

        hint = "words of title, heard, repair, criterion, impact, status, tag or page; empty for all"
        self.app.push_screen(AskLine("Show:", hint, self._listing.words), given)

    def action_order(self) -> None:
        """Order by the next of what they can be ordered by."""
        self._listing = replace(self._listing, order=self._listing.order.following)
        self.post_message(Happened())

    def action_retest(self) -> None:
        """Ask where the page of the defect is found now, and re-test it."""
        page = self.work.page_of(self.picked) if self.picked is not None else None
        if page is None:
            return

        def given(address: str | None) -> None:
            if address and page is not None:
                self.post_message(ToRetest(page, address.strip()))

        self.app.push_screen(AskLine("Re-test at:", "where the page is found now", page.address), given)

    def action_attach(self) -> None:
        """Ask for a file, and keep it with the defect."""
        defect = self.picked
        if defect is None:
            return

        def given(file: str) -> str:
            self.work.attach(defect, file)
            return f"It is attached to defect {defect.id}."

        self._ask([defect], AskLine("Attach:", "path of a PNG, JPEG, SVG or text of 1 MB at most"), given)

    def action_attachments(self) -> None:
        """Write the attachments of the defect into files beside the casebook."""
        defect = self.picked
        if defect is None:
            return
        try:
            paths = list(write(self.work.attachments(defect), self.work.casebook.path.parent))
        except CasebookError as error:
            self.post_message(Happened(str(error), error=True))
            return
        none = "Nothing is attached. f attaches a file; in a browser, a picture is taken of each new defect."
        words = f"Written: {', '.join(map(str, paths))}" if paths else none
        self.post_message(Happened(words))

    def action_delete(self) -> None:
        """Delete the defects that are meant; it can be taken back."""
        meant = self._meant

        def delete() -> str:
            self.work.delete(meant)
            return f"{they_are(meant)} deleted."

        if meant:
            self._change(delete)
