"""The Live view: the live regions of the page, what was spoken when, and what a listener never learns of."""

from __future__ import annotations

from typing import ClassVar

from rich.console import Group, RenderableType
from rich.text import Text
from textual import events
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.widgets import Static

from murvel.page.text import visible
from murvel.reader.live import Snapshot
from murvel.reader.session import ReadingSession
from murvel.reader.speech import Entry, Fate, Source
from murvel.reader.timing import clock
from murvel.tui.actions import Where, bindings
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import facts_table

_SHOWN = 200
"""How many entries of the timeline are drawn, the newest ones."""

_MARGIN = 8
_NARROWEST = 12

_SIGNS = {
    Fate.SPOKEN: "━",
    Fate.SPEAKING: "━",
    Fate.CUT_OFF: "╍",
    Fate.WAITING: "·",
    Fate.DROPPED: "·",
    Fate.NEVER: "·",
}
_ENDS = {Fate.CUT_OFF: "╳", Fate.DROPPED: "╳", Fate.NEVER: "○", Fate.WAITING: "…"}


_KINDS: dict[Source | None, str] = {Source.ASSERTIVE: "error", Source.POLITE: "state"}
"""Styles for what regions say, by who asks."""


class LiveView(VerticalScroll, can_focus=True):
    """Regions above, the timeline below; each entry of it has its stretch of time drawn over its words."""

    DEFAULT_CSS = """
    LiveView { background: $background; padding: 0 2; scrollbar-size-vertical: 1; }
    LiveView > Static { height: auto; }
    """
    BINDINGS: ClassVar[list[BindingType]] = bindings(Where.LIVE)

    def __init__(self, session: ReadingSession, *, id: str | None = None) -> None:
        super().__init__(Static(), id=id)
        self.session = session

    def on_mount(self) -> None:
        """Follow the theme."""
        self.app.theme_changed_signal.subscribe(self, lambda _: self.show_session())

    def on_resize(self, event: events.Resize) -> None:
        """Draw the stretches anew for the new width."""
        self.show_session()

    def show_session(self) -> None:
        """Show the regions and the timeline as they are now, the newest entries in sight."""
        styles = part_styles(self.app)
        regions = Text()
        self._add_regions(regions, styles)
        regions.append(f"\nWhat was spoken, up to {clock(self.session.clock)}", styles["strong"])
        regions.append("   ━ spoken  ╍╳ cut off  ·╳ dropped  … waiting\n", styles["faint"])
        silent = Text()
        self._add_silent(silent, styles)
        self.query_one(Static).update(Group(regions, self._timeline(styles), silent))
        self.call_after_refresh(self.scroll_end, animate=False)

    def _add_regions(self, text: Text, styles: dict[str, str]) -> None:
        session = self.session
        text.append("Live regions of the page\n", styles["strong"])
        key_of = session.stage.page.key_of if session.stage is not None else lambda element: element.order
        regions = Snapshot(session.tree, key_of).regions()
        for region in regions:
            settings = [region.politeness.value]
            settings += ["said as a whole"] if region.atomic else []
            settings += ["busy"] if region.busy else []
            settings += [] if region.relevant == {"additions", "text"} else [", ".join(sorted(region.relevant))]
            text.append(f"  {visible(region.name)}", styles["plain"])
            text.append(f"   {visible(' · '.join(settings))}\n", styles["role"])
        if not regions:
            text.append("  none: nothing that changes by itself is announced on this page\n", styles["role"])

    def _timeline(self, styles: dict[str, str]) -> RenderableType:
        entries = self.session.speech.timeline[-_SHOWN:]
        spoken = [each for each in entries if each.fate is not Fate.NEVER]
        if not spoken:
            return Text("  nothing yet\n", styles["role"])
        start = min(each.asked for each in spoken)
        end = max([each.ended or each.asked for each in spoken] + [start + 1])
        rows = [(f"{each.asked:>6.1f}", self._entry(styles, each, start, end)) for each in spoken]
        return facts_table(rows, styles["faint"], _MARGIN)

    def _entry(self, styles: dict[str, str], entry: Entry, start: float, end: float) -> Text:
        """A stretch of time, and below it what was said in it."""
        width = max(_NARROWEST, self.size.width - _MARGIN - 8)
        scale = (width - 1) / (end - start)
        asked = int((entry.asked - start) * scale)
        begun = int(((entry.begun if entry.begun is not None else entry.asked) - start) * scale)
        ended = int(((entry.ended if entry.ended is not None else entry.asked) - start) * scale)
        kind = _KINDS.get(entry.source, "faint")
        text = Text(" " * asked + "·" * max(0, begun - asked), styles["faint"])
        text.append(_SIGNS[entry.fate] * max(1, ended - begun) + _ENDS.get(entry.fate, ""), styles[kind])
        text.append(f"\n{visible(entry.about)}: ", styles["role"])
        text.append(visible(entry.text), styles["plain"])
        if entry.why:
            text.append(f"  ({visible(entry.why)})", styles["notice"])
        return text

    def _add_silent(self, text: Text, styles: dict[str, str]) -> None:
        text.append("\nSilent changes: to be seen, and never heard\n", styles["strong"])
        for time, change in self.session.silent[-_SHOWN:]:
            text.append(f"{time:>6.1f}  ", styles["faint"])
            text.append(f"○ {change.kind.value}: ", styles["error"])
            text.append(visible(change.text), styles["plain"])
            text.append(f"  {visible(change.why_silent)}\n", styles["role"])
        if not self.session.silent:
            text.append("  none so far\n", styles["role"])
