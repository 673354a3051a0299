"""The Live view: the live regions of the page, what was spoken when, and what a listener never learns of."""

from __future__ import annotations

from typing import ClassVar

from rich.console import Group, RenderableType
from rich.text import Text
from textual import events
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import VerticalScroll
from textual.timer import Timer
from textual.widget import Widget
from textual.widgets import Static

from murvel.reader import acting
from murvel.reader.live.queue import Announcement, Fate, Source
from murvel.reader.live.regions import regions_of
from murvel.reader.speech.timing import clock
from murvel.report.formats import ChartKind
from murvel.text import visible
from murvel.tui.actions import Action, bindings
from murvel.tui.views.view import Happened, View
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import facts_table
from murvel.work.work import Work

_SHOWN = 200
"""How many entries of the timeline are drawn, the newest ones."""

_FRAME = 0.1
"""Seconds between two pictures of a replay."""

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


def _action(name: str, run: str, keys: str, words: str, brief: str = "") -> Action:
    return Action("live", name, run, keys, words, brief)


class LiveView(View):
    """Regions above, the timeline below; each entry of it has its stretch of time drawn over its words."""

    NAME = "live"
    TITLE = "Live"
    ABOUT = "live regions, what was spoken when, and what never was"
    ACTIONS: ClassVar[tuple[Action, ...]] = (
        _action("second", "step_time(1)", "t", "Let a second pass on the page", "one second on"),
        _action("seconds", "step_time(5)", "T", "Let five seconds pass", "five seconds on"),
        _action("replay", "replay", "p", "Play what was spoken once more, or stop there", "replay"),
        _action("replay-on", "step_replay(1)", "right", "Go a second on in the replay"),
        _action("replay-back", "step_replay(-1)", "left", "Go a second back in the replay"),
        _action("replay-end", "end_replay", "escape", "Go from the replay to the present"),
        _action(
            "draw", f"screen.draw('{ChartKind.TIMELINE}', 'svg')", "x", "Draw the timeline into an SVG file", "draw it"
        ),
        _action("draw-pdf", f"screen.draw('{ChartKind.TIMELINE}', 'pdf')", "X", "Draw the timeline into a PDF file"),
    )
    BINDINGS: ClassVar[list[BindingType]] = bindings(ACTIONS)

    def __init__(self, work: Work) -> None:
        super().__init__(work)
        self.session = work.session
        self._replayed: float | None = None
        """The second of the timeline that a replay stands at, None if the present is shown."""
        self._timer: Timer | None = None

    def compose(self) -> ComposeResult:
        """One long text."""
        with VerticalScroll():
            yield Static()

    @property
    def for_keys(self) -> Widget:
        """What scrolls."""
        return self.query_one(VerticalScroll)

    def on_resize(self, event: events.Resize) -> None:
        """Draw the stretches again for the new width."""
        if self.is_in_front:
            self.watch_drawn()

    def action_step_time(self, seconds: float) -> None:
        """Let time pass on the page at once."""
        acting.wait(self.session, seconds)
        self.post_message(Happened())

    # Replay

    def action_replay(self) -> None:
        """Play what was spoken once more from its start, at the speed it was spoken at; or stop there, and go on."""
        if self._timer is not None:
            self._stop()
        else:
            if self._replayed is None or self._replayed >= self._end():
                self._replayed = 0.0
            self._timer = self.set_interval(_FRAME, self._go_on)
        self.watch_drawn()

    def action_step_replay(self, by: float) -> None:
        """Go a step on or back in the replay, and stand there."""
        self._stop()
        at = self._replayed if self._replayed is not None else self._end()
        self._replayed = min(max(at + by, 0.0), self._end())
        self.watch_drawn()

    def action_end_replay(self) -> None:
        """Back to the present."""
        self._stop()
        self._replayed = None
        self.watch_drawn()

    def _end(self) -> float:
        ends = (each.ended if each.ended is not None else each.asked for each in self.session.speech.timeline)
        return max(ends, default=0.0)

    def _stop(self) -> None:
        if self._timer is not None:
            self._timer.stop()
            self._timer = None

    def _go_on(self) -> None:
        assert self._replayed is not None, "only a replay goes on"
        self._replayed += _FRAME
        if self._replayed >= self._end():
            self._stop()
        self.watch_drawn()

    def watch_drawn(self) -> None:
        """Show the regions and the timeline as they are now, the newest entries in sight."""
        styles = part_styles(self.app)
        regions = Text()
        self._add_regions(regions, styles)
        if self._replayed is None:
            regions.append(f"\nWhat was spoken, up to {clock(self.session.clock)}", styles["strong"])
            regions.append("   ━ spoken  ╍╳ cut off  ·╳ dropped  … waiting\n", styles["faint"])
        else:
            state = "playing" if self._timer is not None else "standing"
            regions.append(f"\nReplay, {state} at {self._replayed:.1f} s of {self._end():.1f} s", styles["strong"])
            regions.append("   bright is being spoken, dim is over\n", styles["faint"])
        silent = Text()
        self._add_silent(silent, styles)
        self.query_one(Static).update(Group(regions, self._timeline(styles), silent))
        self.call_after_refresh(self.for_keys.scroll_end, animate=False)

    def _add_regions(self, text: Text, styles: dict[str, str]) -> None:
        session = self.session
        text.append("Live regions of the page\n", styles["strong"])
        regions = regions_of(session.tree)
        for _, region in regions:
            settings = [region.politeness.value]
            settings += ["said as a whole"] if region.atomic else []
            settings += ["busy"] if region.busy else []
            settings += [] if region.relevant == {"additions", "text"} else [", ".join(sorted(region.relevant))]
            text.append(f"  {visible(region.name)}", styles["plain"])
            text.append(f"   {visible(' · '.join(settings))}\n", styles["role"])
        if not regions:
            text.append(
                "  none: nothing that changes by itself is announced on this page.\n"
                "  A status, an alert or an element with aria-live would stand here, with how it interrupts.\n",
                styles["role"],
            )

    def _timeline(self, styles: dict[str, str]) -> RenderableType:
        entries = self.session.speech.timeline[-_SHOWN:]
        spoken = [each for each in entries if each.fate is not Fate.NEVER]
        if not spoken:
            return Text("  nothing yet\n", styles["role"])
        start = min(each.asked for each in spoken)
        end = max([each.ended or each.asked for each in spoken] + [start + 1])
        if self._replayed is not None:
            spoken = [each for each in spoken if each.asked <= self._replayed]
        rows = [(f"{each.asked:>6.1f}", self._entry(styles, each, start, end)) for each in spoken]
        return facts_table(rows, styles["faint"], _MARGIN)

    def _entry(self, styles: dict[str, str], entry: Announcement, start: float, end: float) -> Text:
        """A stretch of time, and below it what was said in it."""
        width = max(_NARROWEST, self.size.width - _MARGIN - 8)
        scale = (width - 1) / (end - start)
        asked = int((entry.asked - start) * scale)
        begun = int(((entry.begun if entry.begun is not None else entry.asked) - start) * scale)
        ended = int(((entry.ended if entry.ended is not None else entry.asked) - start) * scale)
        kind = _KINDS.get(entry.source, "faint")
        words = "plain"
        if self._replayed is not None:
            now = entry.begun is not None and entry.begun <= self._replayed < (entry.ended or entry.begun)
            kind, words = (kind, "strong") if now else ("faint", "role")
            ended = min(ended, max(begun, int((self._replayed - start) * scale)))
        text = Text(" " * asked + "·" * max(0, begun - asked), styles["faint"])
        text.append(_SIGNS[entry.fate] * max(1, ended - begun) + _ENDS.get(entry.fate, ""), styles[kind])
        text.append(f"\n{visible(entry.about)}: ", styles["role"])
        text.append(visible(entry.text), styles[words])
        if entry.why:
            text.append(f"  ({visible(entry.why)})", styles["notice"])
        return text

    def _add_silent(self, text: Text, styles: dict[str, str]) -> None:
        text.append("\nChanges that are visible but never announced\n", styles["strong"])
        for time, change in self.session.silent[-_SHOWN:]:
            text.append(f"{time:>6.1f}  ", styles["faint"])
            text.append(f"○ {change.kind.value}: ", styles["error"])
            text.append(visible(change.text), styles["plain"])
            text.append(f"  {visible(change.why_silent)}\n", styles["role"])
        if not self.session.silent:
            text.append(
                "  none so far. What changes on the screen, and in no live region, would stand here.\n", styles["role"]
            )
