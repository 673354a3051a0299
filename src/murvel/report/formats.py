"""The forms a report comes in."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path


class Format(StrEnum):
    """The forms a report comes in."""

    HTML = "html"
    MARKDOWN = "markdown"

    @classmethod
    def of_ending(cls, path: Path | None) -> Format:
        """Return the form that a file's ending says; HTML where it says none."""
        return cls.MARKDOWN if path is not None and path.suffix.lower() in (".md", ".markdown") else cls.HTML


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

    @classmethod
    def of_ending(cls, path: Path | None) -> LeadFormat:
        """Return the form that a file's ending says; text where it says none."""
        name = path.name.lower() if path is not None else ""
        return next((form for ending, form in _ENDINGS.items() if name.endswith(ending)), cls.TEXT)


_ENDINGS = {
    ".sarif": LeadFormat.SARIF,
    ".sarif.json": LeadFormat.SARIF,
    ".json": LeadFormat.JSON,
    ".xml": LeadFormat.JUNIT,
    ".csv": LeadFormat.CSV,
}


class WalkFormat(StrEnum):
    """The forms in which walks are reported."""

    TEXT = "text"
    JSON = "json"
    JUNIT = "junit"


class RetestFormat(StrEnum):
    """The forms in which a re-test is reported."""

    TEXT = "text"
    JSON = "json"
