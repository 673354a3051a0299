"""The formats in which something leaves, and the endings of files that stand for them."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path
from typing import TypeVar

from murvel.report.errors import ReportError
from murvel.text import visible


class Format(StrEnum):
    """The formats of a report."""

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
    """The formats of leads."""

    TEXT = "text"
    JSON = "json"
    SARIF = "sarif"
    JUNIT = "junit"
    CSV = "csv"


class WalkFormat(StrEnum):
    """The formats of what came of walks."""

    TEXT = "text"
    JSON = "json"
    JUNIT = "junit"


class RetestFormat(StrEnum):
    """The formats of what came of a re-test."""

    TEXT = "text"
    JSON = "json"


_ENDINGS: dict[type[StrEnum], dict[str, StrEnum]] = {
    Format: {
        ".html": Format.HTML,
        ".htm": Format.HTML,
        ".md": Format.MARKDOWN,
        ".markdown": Format.MARKDOWN,
    },
    LeadFormat: {
        ".txt": LeadFormat.TEXT,
        ".sarif": LeadFormat.SARIF,
        ".sarif.json": LeadFormat.SARIF,
        ".json": LeadFormat.JSON,
        ".xml": LeadFormat.JUNIT,
        ".csv": LeadFormat.CSV,
    },
    WalkFormat: {".txt": WalkFormat.TEXT, ".json": WalkFormat.JSON, ".xml": WalkFormat.JUNIT},
    RetestFormat: {".txt": RetestFormat.TEXT, ".json": RetestFormat.JSON},
}
"""The format that each ending of a file stands for; the first one of a kind is the usual one."""

_Form = TypeVar("_Form", bound=StrEnum)


def format_of(kind: type[_Form], given: _Form | None, output: Path | None) -> _Form:
    """Return the format in which something is written.

    Args:
        kind: the formats there are.
        given: the format that a person named; it counts whatever the file's ending.
        output: the file, None or "-" for standard output; without an ending it gets the usual format.

    Raises:
        ReportError: the file's ending is that of no format.
    """
    endings = _ENDINGS[kind]
    name = output.name.lower() if output is not None else ""
    found = next((form for ending, form in endings.items() if name.endswith(ending)), None)
    if given is not None or found is not None or not Path(name).suffix:
        return given or kind(found or next(iter(endings.values())))
    known = ", ".join(endings)
    message = f"{visible(str(output))} has the ending of no format"
    raise ReportError(message, f"it can be one of {known}; or give --format.")
