"""The options of a select, and which of them are selected (HTML §4.10.7, §4.10.10)."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.page.document import Element, Text
from murvel.page.html.controls import is_marked_selected
from murvel.page.html.facts import select_is_list
from murvel.page.text import collapse


def options(select: Element) -> list[Element]:
    """Return a select's options (HTML §4.10.7, list of options)."""
    return list(each_option(select))


def each_option(select: Element) -> Iterator[Element]:
    """Yield a select's options (HTML §4.10.7, list of options)."""
    return (node for node in select.descendants() if not isinstance(node, Text) and node.tag == "option")


def chosen_options(select: Element) -> list[Element]:
    """Return the options that are selected when the page arrives (HTML §4.10.7, selectedness setting algorithm)."""
    return [option for option in each_option(select) if is_chosen(option, select)]


def is_chosen(option: Element, select: Element) -> bool:
    """Whether an option is among `chosen_options`; most are told without going through the others of a long list."""
    if "multiple" in select.attributes:
        return is_marked_selected(option)
    if is_marked_selected(option):
        return _last_selected(select) is option
    if select_is_list(select) or "disabled" in option.attributes:
        return False
    if option.state.selectedness is False:
        return False  # a person or a script has left it so
    first = next((each for each in each_option(select) if "disabled" not in each.attributes), None)
    return first is option and _last_selected(select) is None


def _last_selected(select: Element) -> Element | None:
    left = list(select.children)
    while left:
        node = left.pop()
        if isinstance(node, Text):
            continue
        if node.tag == "option" and is_marked_selected(node):
            return node
        left.extend(node.children)
    return None


def option_text(option: Element) -> str:
    """Return an option's label (HTML §4.10.10)."""
    return collapse(option.attributes.get("label", "")) or collapse(option.text())
