"""The Tab order as a drawing: the regions as bands, the stops numbered, lines between them."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import groupby, pairwise
from typing import TYPE_CHECKING

from murvel.reader.session import ReadingSession
from murvel.reader.timing import clock
from murvel.report.drawing import short
from murvel.report.path_text import summary_lines
from murvel.survey.path import KeyboardPath, Stop
from murvel.survey.survey import survey_of

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

_LABELLED = 150
"""Up to so many stops their names stand beside them."""

_HIGHEST = 28.0
"""Inches."""


@dataclass(frozen=True, slots=True)
class PathDrawing:
    """The Tab order as a drawing."""

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
            names = [f"{short(stop.words)}  {clock(stop.time or 0)}" for stop in reading]
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
    marker = "s" if stop.is_moved else "o"
    axes.plot(stop.number, stop.rank, marker=marker, color="black", markersize=9, markeredgewidth=0.8,
              markerfacecolor="white", zorder=3)  # fmt: skip
    axes.text(stop.number, stop.rank, str(stop.number), ha="center", va="center", fontsize=5, zorder=4)


def path_drawing(session: ReadingSession) -> PathDrawing:
    """Return the Tab order of a page, ready to be drawn."""
    path = KeyboardPath(survey_of(session))
    title = f"Tab order: {session.tree.document.title or session.tree.document.address}"
    said = [*summary_lines(path), *(f"{stop.number}: {stop.words}, {stop.region}" for stop in path.stops)]
    return PathDrawing(path, title, "; ".join(said))
