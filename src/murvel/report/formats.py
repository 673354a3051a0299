"""The forms a report comes in."""

from enum import StrEnum


class Format(StrEnum):
    """The forms a report comes in."""

    HTML = "html"
    MARKDOWN = "markdown"
