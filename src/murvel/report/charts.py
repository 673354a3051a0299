"""Every chart, as one table: what it shows of a page, as lines of text, as a drawing and as JSON output."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from murvel.checks.engine.catalogue import Catalogue
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
from murvel.survey.path import KeyboardPath
from murvel.survey.survey import survey_of


@dataclass(frozen=True, slots=True)
class Subject:
    """What charts are made of.

    Attributes:
        session: the reading of a page.
        catalogue: the checks that look through the page.
    """

    session: ReadingSession
    catalogue: Catalogue

    def path(self) -> KeyboardPath:
        """Return the Tab order of the page."""
        return KeyboardPath(survey_of(self.session, self.catalogue))

    def measured_path(self) -> KeyboardPath:
        """Return the Tab order of the page, with the places of its stops where a browser laid it out."""
        if self.session.stage is not None:
            self.session.stage.measure()
        return self.path()


@dataclass(frozen=True, slots=True)
class Chart:
    """A chart.

    Attributes:
        lines: yields it as lines of text.
        drawing: returns it as a drawing.
        data: returns it as JSON output.
    """

    lines: Callable[[Subject], Iterator[str]]
    drawing: Callable[[Subject], Drawing]
    data: Callable[[Subject], Data]


def _of_reading(
    lines: Callable[[ReadingSession], Iterator[str]],
    drawing: Callable[[ReadingSession], Drawing],
    data: Callable[[ReadingSession], Data],
) -> Chart:
    """A chart that asks no checks."""
    return Chart(lambda of: lines(of.session), lambda of: drawing(of.session), lambda of: data(of.session))


CHARTS: dict[ChartKind, Chart] = {
    ChartKind.REACH: _of_reading(reach_lines, reach_bars, reach_data),
    ChartKind.PATH: Chart(
        lambda of: path_lines(of.path()),
        lambda of: path_drawing(of.measured_path()),
        lambda of: path_data(of.path()),
    ),
    ChartKind.HEADINGS: _of_reading(heading_lines, heading_map, headings_data),
    ChartKind.LANDMARKS: _of_reading(landmark_lines, landmark_map, landmarks_data),
    ChartKind.LEADS: Chart(
        lambda of: leads_lines(of.session, of.catalogue),
        lambda of: leads_bars(of.session, of.catalogue),
        lambda of: leads_data(of.session, of.catalogue),
    ),
    ChartKind.TIMELINE: _of_reading(timeline_lines, timeline_bars, timeline_data),
}
assert CHARTS.keys() == set(ChartKind), "a chart is missing"
