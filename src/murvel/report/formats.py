"""The forms a report comes in."""

from enum import StrEnum


class Format(StrEnum):
    """The forms a report comes in."""

    HTML = "html"
    MARKDOWN = "markdown"


class ChartKind(StrEnum):
    """What can be charted; `murvel.report.charts` says how."""

    REACH = "reach"
    PATH = "path"
    HEADINGS = "headings"
    LANDMARKS = "landmarks"
    LEADS = "leads"
    TIMELINE = "timeline"

    @property
    def about(self) -> str:
        """What it shows, in a few words."""
        return _ABOUT[self]


_ABOUT = {
    ChartKind.REACH: "what it takes to come to each place",
    ChartKind.PATH: "the Tab order beside the reading order",
    ChartKind.HEADINGS: "the outline, with its breaks",
    ChartKind.LANDMARKS: "the large parts, as long as they take to hear",
    ChartKind.LEADS: "what checks notice, by topic and certainty",
    ChartKind.TIMELINE: "what was spoken when, after the moves given with --do",
}


class LeadFormat(StrEnum):
    """The forms leads are given in."""

    TEXT = "text"
    JSON = "json"
    SARIF = "sarif"
    JUNIT = "junit"
    CSV = "csv"
