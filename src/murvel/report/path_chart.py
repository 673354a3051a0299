"""The Tab order as a drawing: the regions as bands, the stops numbered, lines between them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby, pairwise
from typing import TYPE_CHECKING

from murvel.dom.document import Box
from murvel.reader.speech.timing import clock
from murvel.report.drawing import short
from murvel.report.path_text import summary_lines
from murvel.survey.path import KeyboardPath, Stop

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

_LABELLED = 150
"""In a chart with fewer stops, their names stand beside them."""

_HIGHEST = 28.0
"""Inches."""


@dataclass(frozen=True, slots=True)
class PathDrawing:
    """The Tab order as a drawing."""

    path: KeyboardPath
    title: str
    description: str

    def figure(self) -> Figure:
        """Return it drawn: on the page as it is laid out where a browser has done that; else across, the presses of
        Tab, and down, the stops in reading order, in bands by region."""
        from matplotlib.figure import Figure

        placed = [(stop, stop.element.box) for stop in self.path.stops]
        boxes = [(stop, box) for stop, box in placed if box is not None and box.width and box.height]
        if boxes:
            return self._on_page(boxes)
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

    def _on_page(self, placed: list[tuple[Stop, Box]]) -> Figure:
        """The boxes of the stops where they are seen, numbered by Tab, with lines from one to the next."""
        from matplotlib.figure import Figure
        from matplotlib.patches import Rectangle

        document = self.path.page.document
        whole = document.root.box
        right = max(document.width, *(box.left + box.width for _, box in placed))
        bottom = max(whole.height if whole is not None else 0, *(box.top + box.height for _, box in placed))
        figure = Figure(figsize=(10, min(max(10 * bottom / right, 4), _HIGHEST)), layout="constrained")
        axes = figure.add_subplot()
        for landmark in self._landmarks():
            axes.add_patch(Rectangle(*_placed(landmark), facecolor="0.96", edgecolor="0.75", linewidth=0.6, zorder=0))
        for (stop, before), (following, box) in pairwise(placed):
            back = following.rank < stop.rank
            axes.plot(
                [before.left + before.width / 2, box.left + box.width / 2],
                [before.top + before.height / 2, box.top + box.height / 2],
                color="black", linewidth=1.8 if back else 0.7, linestyle="--" if back else "-", zorder=2,
            )  # fmt: skip
        for stop, box in placed:
            style = "--" if stop.is_moved or stop.node is None else "-"
            axes.add_patch(
                Rectangle(*_placed(box), fill=False, edgecolor="black", linewidth=1, linestyle=style, zorder=1)
            )
            axes.text(box.left, box.top, str(stop.number), ha="center", va="center", fontsize=6, zorder=4,
                      bbox={"boxstyle": "circle,pad=0.25", "facecolor": "white", "linewidth": 0.6})  # fmt: skip
            if len(placed) <= _LABELLED:
                beside = box.left + box.width + 4, box.top + box.height / 2
                axes.text(*beside, short(stop.words), va="center", fontsize=5, parse_math=False, zorder=3)
        axes.set_xlim(0, right)
        axes.set_ylim(bottom, 0)
        axes.set_aspect("equal")
        axes.set_xlabel(
            "CSS pixels; dashed boxes stand elsewhere in reading or are not heard; dashed lines lead back in reading"
        )
        axes.set_title(short(self.title), loc="left", parse_math=False)
        return figure

    def _landmarks(self) -> Iterator[Box]:
        for node in self.path.page.tree.nodes:
            if node.is_landmark and node.element.box is not None:
                yield node.element.box

    def _draw_bands(self, axes: Axes) -> None:
        first = 0
        for number, (region, stops) in enumerate(groupby(self.path.reading, key=lambda stop: stop.region)):
            last = first + len(list(stops))
            axes.axhspan(first + 0.5, last + 0.5, facecolor="0.95" if number % 2 else "0.87", zorder=0)
            axes.text(1.01, (first + last + 1) / 2, short(region), transform=axes.get_yaxis_transform(), va="center",
                      fontsize=7, parse_math=False)  # fmt: skip
            first = last


def _placed(box: Box) -> tuple[tuple[float, float], float, float]:
    return (box.left, box.top), box.width, box.height


def _draw_stop(axes: Axes, stop: Stop) -> None:
    """A stop with its number; one that stands elsewhere in reading is a square."""
    marker = "s" if stop.is_moved else "o"
    axes.plot(stop.number, stop.rank, marker=marker, color="black", markersize=9, markeredgewidth=0.8,
              markerfacecolor="white", zorder=3)  # fmt: skip
    axes.text(stop.number, stop.rank, str(stop.number), ha="center", va="center", fontsize=5, zorder=4)


def path_drawing(path: KeyboardPath) -> PathDrawing:
    """Return the Tab order of a page, ready to be drawn."""
    title = f"Tab order: {path.page.document.title or path.page.document.address}"
    said = [*summary_lines(path), *(f"{stop.number}: {stop.words}, {stop.region}" for stop in path.stops)]
    return PathDrawing(path, title, "; ".join(said))
