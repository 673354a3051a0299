"""A re-test of a page: what became of each defect, what is new and what changed, and which proposals are accepted."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import ClassVar

from rich.table import Table
from rich.text import Text
from textual import work
from textual.binding import Binding, BindingType
from textual.containers import Vertical, VerticalScroll
from textual.widget import Widget
from textual.widgets import Static
from textual.widgets.option_list import Option

from murvel.casebook.records import Page
from murvel.checks.engine.record import Record
from murvel.errors import MurvelError
from murvel.retest.answer import Answer, ChangedEntry, PageRetest, Proposal, Sureness
from murvel.text import counted, visible
from murvel.tui.dialogs.dialog import Dialog
from murvel.tui.widgets.options import PickedOptions
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.rows import Beside
from murvel.tui.widgets.wording import facts_table

_SIGNS = {Proposal.CONFIRMED: "✓", Proposal.STILL_FAILS: "▲", Proposal.CANNOT_TELL: "?"}
_STYLES = {Proposal.CONFIRMED: "state", Proposal.STILL_FAILS: "error", Proposal.CANNOT_TELL: "mark"}
_LABEL_WIDTH = 17
_TICKED, _FREE = "■", " "

_Row = Answer | Record | ChangedEntry


class Retesting(Dialog[list[Answer] | None]):
    """Re-tests a page in a thread; answers with the proposals that are accepted, or with None.

    Args:
        page: the page.
        address: where it is found now.
        retest: does it.
    """

    KEYS = (("Space", "tick it or not"), ("Enter", "keep what is ticked"), ("Esc", "change nothing"))
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape,q", "dismiss(None)", "Change nothing", show=False),
        Binding("space", "tick", "Accept it", show=False),
        Binding("enter", "accept", "Accept", show=False, priority=True),
    ]

    def __init__(self, page: Page, address: str, retest: Callable[[], PageRetest]) -> None:
        super().__init__()
        self._page = page
        self._address = address
        self._retest = retest
        self._rows: list[_Row] = []
        self._ticked: set[int | None] = set()

    def body(self) -> Iterable[Widget]:
        """What came of it, and the whole of one."""
        with Vertical() as frame:
            frame.border_title = f"Re-test of {visible(self._page.title or self._page.address)}"
            yield Static(f"Opening {visible(self._address)} …", id="summary")
            with Beside():
                yield PickedOptions()
                with VerticalScroll(can_focus=False):
                    yield Static(id="whole")

    def on_mount(self) -> None:
        """Begin."""
        self.query_one(PickedOptions).focus()
        self._run()

    @work(thread=True, exclusive=True, exit_on_error=False)
    def _run(self) -> None:
        try:
            result = self._retest()
        except MurvelError as error:
            self.app.call_from_thread(self._fail, str(error))
            return
        self.app.call_from_thread(self._show, result)

    def _fail(self, words: str) -> None:
        if self.is_asking:
            self.query_one("#summary", Static).update(Text(visible(words), part_styles(self.app)["error"]))

    def _show(self, result: PageRetest) -> None:
        if not self.is_asking:
            return
        if result.failure is not None:
            self._fail(result.failure)
            return
        self._rows = [*result.answers, *result.changed, *result.new_leads]
        self._ticked = {each.defect.id for each in result.answers if each.is_sure and each.next_status is not None}
        counts = ", ".join(f"{result.count(proposal)} {proposal}" for proposal in Proposal)
        words = (
            f"Take {result.take}: {counts}; {counted(result.carried, 'verdict', 'verdicts')} carried over, "
            f"{len(result.changed)} to look at again; {counted(len(result.new_leads), 'new lead', 'new leads')}."
        )
        self.query_one("#summary", Static).update(Text(words, part_styles(self.app)["plain"]))
        self._draw(0)

    def _draw(self, at: int) -> None:
        listed = self.query_one(PickedOptions)
        styles = part_styles(self.app)
        listed.clear_options()
        listed.add_options([Option(self._line(each, styles)) for each in self._rows])
        listed.highlighted = at if self._rows else None

    def _line(self, row: _Row, styles: dict[str, str]) -> Text:
        text = Text(no_wrap=True, overflow="ellipsis")
        if isinstance(row, Answer):
            text.append(f"{_TICKED if row.defect.id in self._ticked else _FREE} ", styles["strong"])
            text.append(f"{_SIGNS[row.proposal]} {row.proposal:<12} ", styles[_STYLES[row.proposal]])
            sure = "" if row.sureness is Sureness.CERTAIN else f" ({row.sureness})"
            text.append(f"{row.defect.id}. {visible(row.defect.headline)}", styles["plain"])
            text.append(sure, styles["faint"])
        elif isinstance(row, ChangedEntry):
            text.append(f"  ~ {'judged':<12} ", styles["mark"])
            text.append(f"{row.key.slice}: {visible(row.heard)}", styles["plain"])
            text.append(f"  {visible(row.change)}", styles["faint"])
        else:
            text.append(f"  + {'new lead':<12} ", styles["mark"])
            text.append(visible(row.says), styles["plain"])
        return text

    def on_option_list_option_highlighted(self) -> None:
        """Show the whole of what one stands at."""
        at = self.query_one(PickedOptions).highlighted
        if at is not None and at < len(self._rows):
            self.query_one("#whole", Static).update(self._whole(self._rows[at]))

    def _whole(self, row: _Row) -> Table:
        styles = part_styles(self.app)
        rows = [(label, Text(visible(value), styles[style])) for label, value, style in _facts(row) if value]
        return facts_table(rows, styles["faint"], _LABEL_WIDTH)

    def action_tick(self) -> None:
        """Accept the proposal one stands at, or not, where it changes a status; then go on."""
        at = self.query_one(PickedOptions).highlighted
        row = self._rows[at] if at is not None and at < len(self._rows) else None
        if at is None or row is None:
            return
        if isinstance(row, Answer) and row.next_status is not None:
            self._ticked ^= {row.defect.id}
        self._draw(min(at + 1, len(self._rows) - 1))

    def action_accept(self) -> None:
        """Answer with what is ticked."""
        if self._rows:
            self.dismiss([each for each in self._rows if isinstance(each, Answer) and each.defect.id in self._ticked])


def _facts(row: _Row) -> list[tuple[str, str, str]]:
    if isinstance(row, Answer):
        return [
            ("defect", f"{row.defect.id}. {row.defect.headline}", "strong"),
            ("proposal", f"{row.proposal}: {row.why}", "plain"),
            ("status", _status_words(row), "plain"),
            ("was heard", row.defect.heard, "plain"),
            ("is heard now", row.heard, "state"),
            ("should be heard", row.defect.expected, "plain"),
            ("rests on", row.ground.value, "plain"),
            ("its element", row.found, "plain"),
            ("XPath", row.xpath, "faint"),
            ("the way there", ", then ".join(row.moves), "role"),
        ]
    if isinstance(row, ChangedEntry):
        return [
            ("judged", f"{row.judgement.word}, in {row.key.slice.value}", "strong"),
            ("note", row.judgement.note, "plain"),
            ("was heard", row.heard, "plain"),
            ("is heard now", row.now, "state"),
            ("has changed", row.change, "plain"),
            ("the same entry", row.sureness.value, "plain"),
        ]
    return [
        ("new lead", row.says, "strong"),
        ("is heard", row.heard, "plain"),
        ("so", row.means, "plain"),
        ("repair", row.repair, "plain"),
        ("line", str(row.line or ""), "plain"),
        ("XPath", row.xpath, "faint"),
    ]


def _status_words(answer: Answer) -> str:
    status = answer.next_status
    return f"{answer.status} becomes {status}" if status is not None else f"{answer.status} stays"
