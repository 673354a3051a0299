"""Every chart, as one table: what it shows of a session, as lines of text and as a drawing."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from murvel.reader.session import ReadingSession
from murvel.report.drawing import Drawing
from murvel.report.reach_chart import reach_bars, reach_lines
from murvel.report.timeline import timeline_bars, timeline_lines


@dataclass(frozen=True, slots=True)
class Chart:
    """A chart.

    Attributes:
        about: what it shows, in a few words.
        lines: yields it as lines of text.
        drawing: returns it as a drawing.
    """

    about: str
    lines: Callable[[ReadingSession], Iterator[str]]
    drawing: Callable[[ReadingSession], Drawing]


CHARTS: dict[str, Chart] = {
    "reach": Chart("what it takes to come to each place", reach_lines, reach_bars),
    "timeline": Chart("what was spoken when, after the moves given with --do", timeline_lines, timeline_bars),
}
"""The charts by their words on the command line."""
