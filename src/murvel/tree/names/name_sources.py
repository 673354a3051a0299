"""The sources of names and descriptions, and what becomes of each (AccName 1.2 §4.3; HTML-AAM 1.0 §4)."""

from __future__ import annotations

from enum import Enum, StrEnum
from typing import NamedTuple

from murvel.dom.document import Element
from murvel.dom.html.inputs import input_type


class NameFrom(StrEnum):
    """The sources of names and descriptions, in the standards' own words."""

    IMAGE_ALTERNATIVE = "alternative in content"
    LABELLEDBY = "aria-labelledby"
    ARIA_LABEL = "aria-label"
    LABEL = "label"
    ALT = "alt"
    LEGEND = "legend"
    CAPTION = "caption"
    SUMMARY = "summary"
    TITLE_ELEMENT = "title element"
    DESC = "desc element"
    LABEL_ATTRIBUTE = "label attribute"
    VALUE = "value"
    DEFAULT = "default"
    CONTENTS = "contents"
    TITLE = "title"
    PLACEHOLDER = "placeholder"
    DESCRIBEDBY = "aria-describedby"
    ARIA_DESCRIPTION = "aria-description"
    PAGE_TITLE = "page title"


class Outcome(Enum):
    """What became of a source."""

    WON = "won"
    BEATEN = "beaten"
    EMPTY = "empty"
    ABSENT = "absent"
    NOT_ALLOWED = "not allowed"


class NameStep(NamedTuple):
    """One rung of a name trace.

    Attributes:
        source: which source was asked.
        given: what stands in the page, as aria-label="Close"; empty if nothing does.
        text: the name it gives, or would give.
        outcome: won, beaten, empty (it is there and gives nothing), absent, or not allowed for the role.
    """

    source: NameFrom
    given: str
    text: str
    outcome: Outcome


ATTRIBUTE_OF = {
    NameFrom.LABELLEDBY: "aria-labelledby",
    NameFrom.ARIA_LABEL: "aria-label",
    NameFrom.ALT: "alt",
    NameFrom.LABEL_ATTRIBUTE: "label",
    NameFrom.VALUE: "value",
    NameFrom.TITLE: "title",
    NameFrom.SUMMARY: "summary",
    NameFrom.PLACEHOLDER: "placeholder",
}
"""The attribute that holds a source, where one does."""


def given(source: NameFrom, element: Element) -> str:
    """Return what stands in the page for a source, as aria-label="Close"; empty if nothing does."""
    attribute = ATTRIBUTE_OF.get(source)
    if attribute is None:
        return ""
    value = element.attributes.get(attribute)
    return "" if value is None else f'{attribute}="{value}"'


DEFAULT_TEXT = {"submit": "Submit", "reset": "Reset", "image": "Submit", "file": "Choose File"}
"""HTML §4.10.5.1.18 to .20: implementation-defined; these are Chromium's in English."""


def default_text(element: Element) -> str:
    """Return the text that the browser itself puts on a button without a value."""
    kind = input_type(element)
    if kind == "file" and "multiple" in element.attributes:
        return "Choose Files"
    return "" if "value" in element.attributes else DEFAULT_TEXT[kind]
