"""What the keyboard reaches, and in which order (HTML §6.6, Focus)."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from murvel.dom.document import Document, Element, Namespace
from murvel.dom.html.controls import is_checked
from murvel.dom.html.facts import is_disabled, is_editable, is_editing_host, is_summary
from murvel.dom.html.forms import RadioGroup, radio_group_of
from murvel.dom.html.inputs import input_type
from murvel.text import HTML_SPACE

_MAY_HAVE_FOCUS = frozenset(
    {"a", "area", "audio", "button", "embed", "iframe", "input", "object", "select", "summary", "textarea", "video"}
)
_DOCUMENTS = frozenset({"application/xhtml+xml", "application/xml", "image/svg+xml", "text/html", "text/xml"})
_OF_DOCUMENTS = (".htm", ".html", ".svg", ".xhtml", ".xml")
_FORM_CONTROLS = frozenset({"button", "input", "select", "textarea"})


def tab_index(element: Element) -> int | None:
    """Return the value of a valid tabindex attribute, None if there is none (HTML §2.3.4.1)."""
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
        return element.state.is_scroll_stop
    return tab_index(element) is not None or _focusable_by_nature(element)


def _focusable_by_nature(element: Element) -> bool:
    """HTML §6.6.3, the tabindex value of elements without the attribute."""
    tag, attributes = element.tag, element.attributes
    if element.state.is_scroll_stop:
        return True
    if element.namespace is not Namespace.HTML:
        return tag == "a" and ("href" in attributes or "xlink:href" in attributes)
    if tag in ("a", "area") and "href" in attributes:
        return not is_inside_editing(element)
    if tag in _FORM_CONTROLS:
        return not is_disabled(element) and input_type(element) != "hidden"
    if tag == "iframe":
        return True
    if tag in ("embed", "object"):
        return shows_document(element)
    if tag == "summary":
        return is_summary(element)
    if tag in ("audio", "video"):
        return "controls" in attributes
    return is_editing_host(element) and not is_inside_editing(element)


def shows_document(element: Element) -> bool:
    """Whether an embed or object shows a document, by the type or the ending of what it names: Tab stops at that."""
    kind = element.attributes.get("type", "").strip().lower()
    address = element.attributes.get("src" if element.tag == "embed" else "data", "").strip().lower()
    if not kind and address.startswith("data:"):
        kind = address.removeprefix("data:").partition(",")[0].partition(";")[0]
    path = address.partition("#")[0].partition("?")[0]
    return bool(address) and (kind in _DOCUMENTS if kind else path.endswith(_OF_DOCUMENTS))


def is_inside_editing(element: Element) -> bool:
    """Whether an element stands in what can be edited: links do nothing there, and there is one host only."""
    return element.parent is not None and is_editable(element.parent)


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
    elements = sorted((each for each, index in reached.items() if index is not None), key=_place)
    owners = _Owners(document)
    keyed = [(key, element) for element in elements if (key := owners.key(element, reached[element] or 0)) is not None]
    keyed.sort(key=lambda entry: entry[0])
    in_order = _with_radios_once(document, [element for _, element in keyed])
    # Tab goes on into a frame; the frame itself is a stop only where nothing in it is.
    inside = {frame for element in in_order for frame in owners.frames(element)}
    return [element for element in in_order if element not in inside]


def _with_radios_once(document: Document, stops: list[Element]) -> list[Element]:
    groups: dict[RadioGroup, Element] = {}
    of: dict[Element, RadioGroup] = {}
    for element in stops:
        group = radio_group_of(document, element) if element.tag == "input" else None
        if group is not None:
            of[element] = group
            if group not in groups or is_checked(element):
                groups[group] = element
    return [element for element in stops if element not in of or groups[of[element]] is element]


_Rank = tuple[int, int, int, bool]
_Key = tuple[_Rank, ...]
"""Where an element comes: for each owner of a scope around it, and for itself, its rank and place there."""


class _Owners:
    """The owners of scopes in which Tab goes on before it leaves them: shadow hosts, slots and frames (HTML §6.6.4)."""

    def __init__(self, document: Document) -> None:
        self._document = document
        self._delegating = {root.parent for root in document.scopes if "shadowrootdelegatesfocus" in root.attributes}
        self._slots = document.slotted
        self._has_scopes = bool(document.flat or document.scopes)

    def key(self, element: Element, index: int) -> _Key | None:
        """Return where an element comes; None if it is no stop, as it is out of reach by what owns its scope."""
        own = _rank(index, element)
        if not self._has_scopes:
            return (own,)
        if element in self._delegating:
            return None
        keys = [own]
        for owner in self._around(element):
            owned = tab_index(owner) or 0
            if owned < 0:
                return None
            keys.append(_rank(owned, owner))
        return tuple(reversed(keys))

    def frames(self, element: Element) -> Iterator[Element]:
        """Yield the frames that an element stands in."""
        if self._has_scopes:
            yield from (above for above in element.ancestors() if above.tag == "iframe")

    def _around(self, element: Element) -> Iterator[Element]:
        """Yield the owners of the scopes around an element, the nearest first."""
        node: Element | None = element
        while node is not None:
            slot = self._slots.get(node)
            above = node.parent
            if slot is not None:
                yield slot
                node = slot
            elif above is not None and above.parent is not None and self._document.is_shadow(above):
                node = above.parent
                yield node
            else:
                if above is not None and above.tag == "iframe":
                    yield above
                node = above


def _rank(index: int, element: Element) -> _Rank:
    """Positive values first, the smaller before the larger, then all others in document order."""
    return (0, index, *_place(element)) if index > 0 else (1, 0, *_place(element))


def _place(element: Element) -> tuple[int, bool]:
    """The place of an element in document order; the browser's own summary has the number of its details element."""
    return element.order, element.parent is not None and element.parent.order == element.order
