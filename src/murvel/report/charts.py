"""Every chart, as one table: what it shows of a session, as lines of text, as a drawing and as JSON output."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from murvel.reader.session import ReadingSession
from murvel.report.data.charts import (
    headings_data,
    landmarks_data,
    leads_data,
    path_data,
    reach_data,
    timeline_data,
)
from murvel.report.data.shapes import Data
from murvel.report.drawing import Drawing
from murvel.report.formats import ChartKind
from murvel.report.page_charts import heading_lines, heading_map, landmark_lines, landmark_map, leads_bars, leads_lines
from murvel.report.path_chart import path_drawing
from murvel.report.path_text import path_lines
from murvel.report.reach_chart import reach_bars, reach_lines
from murvel.report.timeline import timeline_bars, timeline_lines


@dataclass(frozen=True, slots=True)
class Chart:
    """A chart.

    Attributes:
        lines: yields it as lines of text.
        drawing: returns it as a drawing.
        data: returns it as JSON output.
    """

    lines: Callable[[ReadingSession], Iterator[str]]
    drawing: Callable[[ReadingSession], Drawing]
    data: Callable[[ReadingSession], Data]


CHARTS: dict[ChartKind, Chart] = {
    ChartKind.REACH: Chart(reach_lines, reach_bars, reach_data),
    ChartKind.PATH: Chart(path_lines, path_drawing, path_data),
    ChartKind.HEADINGS: Chart(heading_lines, heading_map, headings_data),
    ChartKind.LANDMARKS: Chart(landmark_lines, landmark_map, landmarks_data),
    ChartKind.LEADS: Chart(leads_lines, leads_bars, leads_data),
    ChartKind.TIMELINE: Chart(timeline_lines, timeline_bars, timeline_data),
}
assert CHARTS.keys() == set(ChartKind), "a chart is missing"
