"""The browser's own summary, for a details element that has none (HTML §4.11.1, §15.5.4)."""

from __future__ import annotations

from collections.abc import Iterable

from murvel.dom.document import Document, Element, Namespace, Text
from murvel.dom.html.facts import first_child

_WORDS = "Details"
"""What it says in English."""


class _OwnSummary(Element):
    """A summary that stands in no source: its place in the document is that of its details element."""

    __slots__ = ()

    def __init__(self, details: Element) -> None:
        super().__init__("summary", Namespace.HTML, {}, details, 0)
        self.children = [Text(_WORDS, self, 0)]

    @property
    def order(self) -> int:
        assert self.parent is not None
        return self.parent.order

    @order.setter
    def order(self, _: int) -> None:
        """It is where its details element is."""

    @property
    def end(self) -> int:
        return self.order + 1

    @end.setter
    def end(self, _: int) -> None:
        """It ends with its words."""


def give_summaries(document: Document, inside: Iterable[Element]) -> None:
    """Show the browser's own summary in details elements that have none, and take it away where they have one now.

    Args:
        document: its `flat` is brought up to date.
        inside: elements of the document; those that are no details are passed over.
    """
    for details in inside:
        if details.tag != "details" or details.namespace is not Namespace.HTML:
            continue
        shown = document.flat.get(details, [])
        own = shown[0] if shown and isinstance(shown[0], _OwnSummary) else None
        if first_child(details, "summary") is not None:
            if own is not None:
                del document.flat[details]
        else:
            document.flat[details] = [own or _OwnSummary(details), *details.children]


def summary_of(document: Document, details: Element) -> Element | None:
    """Return the summary that a details element shows: its first one, or the browser's own."""
    found = first_child(details, "summary")
    if found is None and details in document.flat:
        found = next((each for each in document.flat[details] if isinstance(each, _OwnSummary)), None)
    return found
