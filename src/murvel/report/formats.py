"""The forms a report comes in."""

from enum import StrEnum


class Format(StrEnum):
    """The forms a report comes in."""

    HTML = "html"
    MARKDOWN = "markdown"


class LeadFormat(StrEnum):
    """The forms leads are given in."""

    TEXT = "text"
    JSON = "json"
    SARIF = "sarif"
    JUNIT = "junit"
    CSV = "csv"
