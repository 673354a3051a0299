"""Whether a control's value is invalid as the page arrives (HTML §4.10.20.2, constraint validation).

Browsers expose that as invalid, except for text fields that are merely empty though required. A pattern attribute is
not tried: a page's own regular expression could run for ever.
"""

from __future__ import annotations

import re

from murvel.page.document import Element
from murvel.tree.html import input_type
from murvel.tree.values import chosen_options

_EMAIL = re.compile(
    r"[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?"
    r"(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*"
)
"""A valid email address (HTML §4.10.5.1.5)."""

_ABSOLUTE_URL = re.compile(r"[a-zA-Z][a-zA-Z0-9+.-]*:.+")


def is_invalid(element: Element) -> bool:
    """Whether an input or select fails its constraints."""
    attributes = element.attributes
    if element.tag == "select":
        return "required" in attributes and not any(_option_value(option) for option in chosen_options(element))
    kind = input_type(element)
    if kind == "checkbox":
        return "required" in attributes and "checked" not in attributes
    value = attributes.get("value", "")
    if not value:
        return False
    if kind == "email" and not _EMAIL.fullmatch(value.strip()):
        return True
    if kind == "url" and not _ABSOLUTE_URL.fullmatch(value.strip()):
        return True
    return kind == "number" and _out_of_range(attributes, value)


def _option_value(option: Element) -> str:
    value = option.attributes.get("value")
    return option.text().strip() if value is None else value


def _out_of_range(attributes: dict[str, str], value: str) -> bool:
    number = _number(value)
    low, high = _number(attributes.get("min", "")), _number(attributes.get("max", ""))
    if number is None:
        return False
    return (low is not None and number < low) or (high is not None and number > high)


def _number(text: str) -> float | None:
    try:
        return float(text)
    except ValueError:
        return None
