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
from murvel.survey.path import KeyboardPath, Stop
from murvel.survey.survey import survey_of

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

_LABELLED = 150
"""Up to so many stops their names stand beside them."""

_HIGHEST = 28.0
"""Inches."""


def path_lines(session: ReadingSession) -> Iterator[str]:
    """Yield the stops in Tab's order, each with the line to the reading order, and what Tab misses."""
    path = KeyboardPath(survey_of(session))
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
        """Return it drawn: across, the presses of Tab; down, the stops in reading order, in bands by region."""
        from matplotlib.figure import Figure

        stops, reading = self.path.stops, self.path.reading
        figure = Figure(figsize=(10, min(1.8 + 0.17 * len(stops), _HIGHEST)), layout="constrained")
        axes = figure.add_subplot()
        self._draw_bands(axes)
        for before, stop in pairwise(stops):
            back = stop.rank < before.rank
            axes.plot(
                [before.number, stop.number], [before.rank, stop.rank],
                color="black", linewidth=2.2 if back else 0.8, linestyle="--" if back else "-", zorder=2,
            )  # fmt: skip
        for stop in stops:
            _draw_stop(axes, stop)
        if len(stops) <= _LABELLED:
            names = [f"{short(stop.utterance.text)}  {clock(stop.time or 0)}" for stop in reading]
            axes.set_yticks(range(1, len(stops) + 1), names, fontsize=7, parse_math=False)
        axes.set_ylim(len(stops) + 0.6, 0.4)
        axes.set_xlim(0.4, len(stops) + 0.6)
        axes.set_xlabel("presses of Tab; dashed thick lines lead back in reading")
        axes.set_ylabel("in reading order, with the second of listening")
        axes.set_title(short(self.title), loc="left", parse_math=False)
        axes.spines[["top", "right"]].set_visible(False)
        return figure

    def _draw_bands(self, axes: Axes) -> None:
        first = 0
        for number, (region, stops) in enumerate(groupby(self.path.reading, key=lambda stop: stop.region)):
            last = first + len(list(stops))
            axes.axhspan(first + 0.5, last + 0.5, facecolor="0.95" if number % 2 else "0.87", zorder=0)
            axes.text(1.01, (first + last + 1) / 2, short(region), transform=axes.get_yaxis_transform(), va="center",
                      fontsize=7, parse_math=False)  # fmt: skip
            first = last


def _draw_stop(axes: Axes, stop: Stop) -> None:
    """A stop with its number; one that stands elsewhere in reading is a square."""
    parts = stop.number != stop.rank
    axes.plot(stop.number, stop.rank, marker="s" if parts else "o", color="black", markersize=9, markeredgewidth=0.8,
              markerfacecolor="white", zorder=3)  # fmt: skip
    axes.text(stop.number, stop.rank, str(stop.number), ha="center", va="center", fontsize=5, zorder=4)


def path_drawing(session: ReadingSession) -> PathDrawing:
    """Return the way of Tab through a page, ready to be drawn."""
    path = KeyboardPath(survey_of(session))
    title = f"The way of Tab: {session.tree.document.title or session.tree.document.address}"
    said = [*summary_lines(path), *(f"{stop.number}: {stop.utterance.text}, {stop.region}" for stop in path.stops)]
    return PathDrawing(path, title, "; ".join(said))
