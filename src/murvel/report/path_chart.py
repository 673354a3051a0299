"""The way of the Tab key as lines, and as a drawing: the regions as bands, the stops numbered, lines between them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby, pairwise
from typing import TYPE_CHECKING

from murvel.page.text import visible
from murvel.reader.session import ReadingSession
from murvel.reader.timing import clock
from murvel.report.drawing import short
from murvel.survey.path import Crossing, KeyboardPath, Stop, region_of
from murvel.survey.survey import Survey

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

_LABELLED = 60
"""Up to so many stops their names stand beside them."""


def path_lines(session: ReadingSession) -> Iterator[str]:
    """Yield the stops in Tab's order, each with the line to the reading order, and what Tab misses."""
    path = KeyboardPath(Survey(session))
    yield from summary_lines(path)
    for stop in path.stops:
        rank = "" if stop.number == stop.rank else f"  (read as number {stop.rank})"
        repeats = "  (leads to the same place as the one before)" if stop.repeats else ""
        leads = "".join(f"  [{lead.check.id}]" for lead in stop.leads)
        yield visible(f"{stop.number:>4} {stop.crossing} {stop.utterance.text}{rank}{repeats}{leads}")
    for lead in path.missed:
        place = f"line {lead.position.line}" if lead.position else lead.xpath
        yield visible(f"   - not reached: {lead.says}, {place}")
    for lead in path.silent:
        place = f"line {lead.position.line}" if lead.position else lead.xpath
        yield visible(f"   - reached, and silent: {lead.says}, {place}")


def summary_lines(path: KeyboardPath) -> Iterator[str]:
    """Yield what is to be said of the whole way."""
    count, seconds = path.before_main
    has_main = bool(path.page.roles.get("main"))
    before = f"{count} before the main content, {clock(seconds)} of listening" if has_main else "no main content"
    yield f"{len(path.stops)} stops; {before}; {path.way_past()}"
    parted = f"{path.parted} stand in another place than in reading" if path.parted else "in the order of reading"
    yield f"{parted}; not reached by Tab, though they may have to be: {len(path.missed)}"


@dataclass(frozen=True, slots=True)
class PathDrawing:
    """The way of Tab as a drawing."""

    path: KeyboardPath
    title: str
    description: str

    def figure(self) -> Figure:
        """Return it drawn: across, the presses of Tab; down, the second of listening at which a stop is read."""
        from matplotlib.figure import Figure

        stops = [(stop, stop.time) for stop in self.path.stops if stop.time is not None]
        figure = Figure(figsize=(10, max(4.0, min(0.16 * len(stops) + 2, 14))), layout="constrained")
        axes = figure.add_subplot()
        self._draw_bands(axes)
        for (before, earlier), (stop, later) in pairwise(stops):
            back = stop.rank < before.rank
            axes.plot(
                [before.number, stop.number], [earlier, later],
                color="black", linewidth=2.4 if back else 0.9, linestyle="--" if back else "-", zorder=2,
            )  # fmt: skip
        for stop, time in stops:
            self._draw_stop(axes, stop, time, is_labelled=len(stops) <= _LABELLED)
        axes.invert_yaxis()
        axes.set_xlabel("presses of Tab; dashed thick lines lead back in reading")
        axes.set_ylabel("seconds of listening")
        axes.set_xlim(0, max((stop.number for stop, _ in stops), default=1) * 1.25 + 1)
        axes.set_title(short(self.title), loc="left", parse_math=False)
        axes.spines[["top", "right"]].set_visible(False)
        return figure

    def _draw_bands(self, axes: Axes) -> None:
        page = self.path.page
        starts, total = page.session.spoken.starts, page.session.spoken.total
        regions = groupby(page.readout.items, key=lambda item: region_of(item.objects[0].node))
        for number, (region, items) in enumerate(regions):
            indexes = [item.index for item in items]
            end = starts[indexes[-1] + 1] if indexes[-1] + 1 < len(starts) else total
            axes.axhspan(starts[indexes[0]], end, facecolor="0.94" if number % 2 else "0.86", zorder=0)
            middle = (starts[indexes[0]] + end) / 2
            axes.text(0.995, middle, short(region), transform=axes.get_yaxis_transform(), ha="right", va="center",
                      fontsize=7, color="0.25", parse_math=False)  # fmt: skip

    def _draw_stop(self, axes: Axes, stop: Stop, time: float, *, is_labelled: bool) -> None:
        parts = stop.crossing is not Crossing.STRAIGHT
        axes.plot(stop.number, time, marker="s" if parts else "o", color="black", markersize=5, zorder=3,
                  markerfacecolor="white" if parts else "black")  # fmt: skip
        if is_labelled:
            words = f"{stop.number} {short(stop.utterance.text)[:28]}"
            axes.annotate(words, (stop.number, time), xytext=(5, 2), textcoords="offset points", fontsize=6,
                          parse_math=False)  # fmt: skip


def path_drawing(session: ReadingSession) -> PathDrawing:
    """Return the way of Tab through a page, ready to be drawn."""
    path = KeyboardPath(Survey(session))
    title = f"The way of Tab: {session.tree.document.title or session.tree.document.address}"
    said = [*summary_lines(path), *(f"{stop.number}: {stop.utterance.text}, {stop.region}" for stop in path.stops)]
    return PathDrawing(path, title, "; ".join(said))
