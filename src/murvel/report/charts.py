"""Every chart, as one table: what it shows of a session, as lines of text and as a drawing."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from murvel.reader.session import ReadingSession
from murvel.report.drawing import Drawing
from murvel.report.page_charts import heading_lines, heading_map, landmark_lines, landmark_map, leads_bars, leads_lines
from murvel.report.path_chart import path_drawing, path_lines
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
    "path": Chart("the way of the Tab key beside that of reading", path_lines, path_drawing),
    "headings": Chart("the outline, with its breaks", heading_lines, heading_map),
    "landmarks": Chart("the large parts, as long as they take to hear", landmark_lines, landmark_map),
    "leads": Chart("what checks notice, by topic and certainty", leads_lines, leads_bars),
    "timeline": Chart("what was spoken when, after the moves given with --do", timeline_lines, timeline_bars),
}
"""The charts by their words on the command line."""
