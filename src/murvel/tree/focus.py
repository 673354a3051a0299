"""What the keyboard reaches, and in which order (HTML §6.6, Focus)."""

from __future__ import annotations

from collections.abc import Mapping

from murvel.page.document import Document, Element, Namespace
from murvel.page.html.controls import is_checked
from murvel.page.html.facts import is_disabled, is_editing_host, is_summary
from murvel.page.html.forms import RadioGroup, radio_group_of
from murvel.page.html.inputs import input_type
from murvel.page.text import HTML_SPACE

_MAY_HAVE_FOCUS = frozenset(
    {"a", "area", "audio", "button", "iframe", "input", "select", "summary", "textarea", "video"}
)
_FORM_CONTROLS = frozenset({"button", "input", "select", "textarea"})


def tab_index(element: Element) -> int | None:
    """Return the value of a valid tabindex attribute, None where there is none (HTML §2.3.4.1)."""
    value = element.attributes.get("tabindex")
    if value is None:
        return None
    value = value.strip(HTML_SPACE)
    digits = value[1:] if value[:1] in ("-", "+") else value
    end = next((i for i, character in enumerate(digits) if character not in "0123456789"), len(digits))
    if end == 0 or end > 9:
        return None
    number = int(digits[:end])
    return -number if value.startswith("-") else number


def is_focusable(element: Element) -> bool:
    """Whether an element can have focus at all, by the keyboard or by script; whether it is shown is not asked."""
    attributes = element.attributes
    if "tabindex" not in attributes and "contenteditable" not in attributes and element.tag not in _MAY_HAVE_FOCUS:
        return False
    return tab_index(element) is not None or _focusable_by_nature(element)


def _focusable_by_nature(element: Element) -> bool:
    """HTML §6.6.3, the tabindex value of elements without the attribute."""
    tag, attributes = element.tag, element.attributes
    if element.namespace is not Namespace.HTML:
        return tag == "a" and ("href" in attributes or "xlink:href" in attributes)
    if tag in ("a", "area"):
        return "href" in attributes
    if tag in _FORM_CONTROLS:
        return not is_disabled(element) and input_type(element) != "hidden"
    if tag == "iframe":
        return True
    if tag == "summary":
        return is_summary(element)
    if tag in ("audio", "video"):
        return "controls" in attributes
    return is_editing_host(element)


def stop_index(element: Element) -> int | None:
    """Return the tabindex value of an element that Tab may stop at; None for all others (HTML §6.6.3)."""
    index = tab_index(element)
    if index is None:
        return 0 if _focusable_by_nature(element) else None
    return index if index >= 0 and not is_disabled(element) else None


def tab_stops(document: Document, reached: Mapping[Element, int | None]) -> list[Element]:
    """Return the elements that Tab stops at, in its order (HTML §6.6.4, sequential focus navigation order).

    Args:
        document: the document.
        reached: the elements that are rendered and may have the focus, with what `stop_index` gave.

    A group of radio buttons is one stop: the checked one, else the first (HTML §4.10.5.1.16 leaves it to the user
    agent; browsers do this).
    """
    stops: list[tuple[int, Element]] = []
    groups: dict[RadioGroup, int] = {}
    frames = False
    for element in sorted((each for each, index in reached.items() if index is not None), key=_order):
        index = reached[element] or 0
        frames = frames or element.tag == "iframe"
        group = radio_group_of(document, element) if element.tag == "input" else None
        if group is not None:
            if group in groups:
                if is_checked(element):
                    stops[groups[group]] = (index, element)
                continue
            groups[group] = len(stops)
        stops.append((index, element))
    positive = sorted((stop for stop in stops if stop[0] > 0), key=lambda stop: (stop[0], stop[1].order))
    in_order = [element for index, element in stops if index == 0]
    if groups:
        in_order.sort(key=_order)  # the checked radio may stand before others of its group
    elements = [*(element for _, element in positive), *in_order]
    # Tab goes on into a frame; the frame itself is a stop only where nothing in it is.
    inside = {frame for element in elements for frame in element.ancestors() if frame.tag == "iframe"} if frames else ()
    return [element for element in elements if element not in inside]


def _order(element: Element) -> int:
    return element.order
