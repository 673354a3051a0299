"""What a browser settles as it inserts elements: one checked radio of a group, one open details of a name."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from murvel.dom.document import Document, Element
from murvel.dom.html.controls import is_checked, is_open
from murvel.dom.html.forms import RadioGroup, radio_group_of


def settle_radios(document: Document, inside: Iterable[Element]) -> None:
    """Leave the last radio button of each group checked that has several (HTML §4.10.5.1.16)."""
    checked: dict[RadioGroup, Element] = {}
    for element in inside:
        if element.tag == "input" and "checked" in element.attributes and is_checked(element):
            group = radio_group_of(document, element)
            if group is None:
                continue
            before = checked.get(group)
            if before is not None:
                before.state = replace(before.state, checkedness=False)
            checked[group] = element


def closed_by_others(inside: Iterable[Element]) -> list[Element]:
    """Return the open details elements that a browser closes: one of their name is open before them (HTML §4.11.1).

    Args:
        inside: the elements of one tree, in document order.
    """
    names: set[str] = set()
    closed = []
    for element in inside:
        name = element.attributes.get("name", "") if element.tag == "details" else ""
        if name and is_open(element):
            if name in names:
                closed.append(element)
            names.add(name)
    return closed
