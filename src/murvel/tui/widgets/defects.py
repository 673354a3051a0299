"""The defects: a list of what is documented, and the whole of the one that is picked."""

from __future__ import annotations

from typing import ClassVar

from rich.table import Table
from rich.text import Text
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, VerticalScroll
from textual.message import Message
from textual.widget import Widget
from textual.widgets import Static
from textual.widgets.option_list import Option

from murvel.casebook.defect import Defect
from murvel.checks.criteria import BY_NUMBER
from murvel.page.text import visible
from murvel.tui.actions import Where, bindings
from murvel.tui.widgets.options import Options
from murvel.tui.widgets.palette import WEIGHT, part_styles
from murvel.tui.widgets.wording import facts_table
from murvel.work.work import Work

_LABEL_WIDTH = 17
_NUMBER_WIDTH = 4
_NOTHING_YET = "No defects yet.\n\nIn Listen (key 1), press d on an announcement that is wrong."


class DefectsView(Horizontal):
    """The Defects view. It keeps no defects of its own: it shows those it was last given."""

    DEFAULT_CSS = """
    DefectsView > Options { width: 2fr; height: 100%; scrollbar-gutter: stable;
                               border: round $frame; background: $background; padding: 0 1;
                               scrollbar-size-vertical: 1; }
    DefectsView > Options:focus { border: round $primary; background-tint: $background 0%; }
    DefectsView > VerticalScroll { width: 3fr; border: round $frame; padding: 0 1; scrollbar-size-vertical: 1; }
    DefectsView > VerticalScroll:focus { border: round $primary; }
    DefectsView > * { border-title-color: $primary; }
    DefectsView Static { height: auto; }
    """

    BINDINGS: ClassVar[list[BindingType]] = bindings(Where.DEFECTS)

    class GoTo(Message):
        """The place of a defect is asked for."""

        def __init__(self, defect: Defect) -> None:
            self.defect = defect
            super().__init__()

    class Edit(Message):
        """A defect is to be edited."""

        def __init__(self, defect: Defect) -> None:
            self.defect = defect
            super().__init__()

    class Delete(Message):
        """A defect is to be deleted."""

        def __init__(self, defect: Defect) -> None:
            self.defect = defect
            super().__init__()

    def __init__(self, work: Work, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self.work = work
        self._defects: list[Defect] = []

    def compose(self) -> ComposeResult:
        """The list and the whole of one."""
        listed = Options()
        listed.border_title = "Documented"
        yield listed
        whole = VerticalScroll(Static())
        whole.border_title = "Defect"
        yield whole

    def on_mount(self) -> None:
        """Follow the theme."""
        self.app.theme_changed_signal.subscribe(self, lambda _: self.show_defects(self._defects))

    def show_defects(self, defects: list[Defect], pick: int | None = None) -> None:
        """Show these defects; `pick` is the id of the one to stand at."""
        listed = self.query_one(Options)
        stood = listed.highlighted or 0
        self._defects = defects
        styles = part_styles(self.app)
        listed.clear_options()
        listed.add_options([Option(self._entry(defect, styles)) for defect in defects])
        at = next((index for index, defect in enumerate(defects) if defect.id == pick), min(stood, len(defects) - 1))
        listed.highlighted = at if defects else None
        self._show_picked()

    @property
    def picked(self) -> Defect | None:
        """The defect that is picked, None where there is none."""
        at = self.query_one(Options).highlighted
        return self._defects[at] if at is not None and at < len(self._defects) else None

    @property
    def for_keys(self) -> Widget:
        """The list."""
        return self.query_one(Options)

    def show_now(self) -> None:
        """Show the defects as they are documented now."""
        self.show_defects(self.work.defects())

    def _entry(self, defect: Defect, styles: dict[str, str]) -> Table:
        heard = Text(visible(defect.heard) or "(nothing)", styles["strong"])
        line = Text(f"{WEIGHT[defect.impact]} ", styles["mark"])
        line.append(f"{defect.impact.value:<10}", styles["plain"])
        line.append(f"{defect.criterion or 'no criterion':<13}", styles["role"])
        place = f"line {defect.place.line}" if defect.place.line else ""
        line.append(place if self.work.is_here(defect) else "on another page", styles["faint"])
        return facts_table([(str(defect.id), heard), ("", line)], styles["faint"], _NUMBER_WIDTH)

    def _show_picked(self) -> None:
        self.query_one(Static).update(self._whole(self.picked))

    def _whole(self, defect: Defect | None) -> Text | Table:
        styles = part_styles(self.app)
        if defect is None:
            return Text(_NOTHING_YET, styles["role"])
        criterion = BY_NUMBER.get(defect.criterion)
        place = defect.place
        facts = (
            ("is heard", defect.heard, "strong"),
            ("should be heard", defect.expected or "not stated yet", "state" if defect.expected else "faint"),
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
        )
        rows = [(label, Text(visible(value, keep_lines=True), styles[style])) for label, value, style in facts if value]
        if place.snippet:
            rows.append(("", Text(visible(place.snippet, keep_lines=True), styles["role"])))
        for number, step in enumerate(defect.steps):
            times = f", {step.times} times" if step.times > 1 else ""
            line = Text(f"{visible(step.move)}{times}: ", styles["plain"])
            line.append(visible(step.heard), styles["role"])
            rows.append(("" if number else "how to get there", line))
        return facts_table(rows, styles["faint"], _LABEL_WIDTH)

    def on_option_list_option_highlighted(self) -> None:
        """Show the whole of the defect one stands at."""
        self._show_picked()

    def on_option_list_option_selected(self) -> None:
        """Enter or a click on the picked one: go to its place."""
        self.action_go_to_defect()

    def action_go_to_defect(self) -> None:
        """Ask for the defect's place."""
        if self.picked is not None:
            self.post_message(self.GoTo(self.picked))

    def action_edit_defect(self) -> None:
        """Ask for the defect to be edited."""
        if self.picked is not None:
            self.post_message(self.Edit(self.picked))

    def action_delete_defect(self) -> None:
        """Ask for the defect to be deleted."""
        if self.picked is not None:
            self.post_message(self.Delete(self.picked))
