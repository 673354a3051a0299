"""The options of a select, and which of them are selected (HTML §4.10.7, §4.10.10)."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from murvel.dom.document import Element, Text
from murvel.dom.html.controls import is_marked_selected
from murvel.dom.html.facts import select_is_list
from murvel.text import collapse


def options(select: Element) -> list[Element]:
    """Return a select's options (HTML §4.10.7, list of options)."""
    return list(each_option(select))


def each_option(select: Element) -> Iterator[Element]:
    """Yield a select's options (HTML §4.10.7, list of options), without going through those that nobody takes."""
    return _options_from(select, iter)


def _options_from(
    select: Element, ordered: Callable[[Sequence[Element | Text]], Iterator[Element | Text]]
) -> Iterator[Element]:
    following = [ordered(select.children)]
    while following:
        node = next(following[-1], None)
        if node is None:
            following.pop()
        elif not isinstance(node, Text):
            if node.tag == "option":
                yield node
            following.append(ordered(node.children))


def chosen_options(select: Element) -> list[Element]:
    """Return the options that are selected when the page arrives (HTML §4.10.7, selectedness setting algorithm)."""
    return [option for option in each_option(select) if is_chosen(option, select)]


def is_chosen(option: Element, select: Element) -> bool:
    """Whether an option is among `chosen_options`; most cases need no walk through the others of a long list."""
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
    return next((each for each in _options_from(select, reversed) if is_marked_selected(each)), None)


def option_text(option: Element) -> str:
    """Return an option's label (HTML §4.10.10)."""
    return collapse(option.attributes.get("label", "")) or collapse(option.text())
