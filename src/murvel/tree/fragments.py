"""What a fragment of an address indicates on a page (HTML §7.4.6.3, scrolling to a fragment)."""

from __future__ import annotations

from functools import cached_property
from urllib.parse import unquote

from murvel.dom.document import Document, Element, Namespace


def fragment_of(reference: str) -> str | None:
    """Return the fragment of a reference to a place on its own page, as written; None for any other reference."""
    reference = reference.strip()
    return reference[1:] if reference.startswith("#") else None


class Fragments:
    """The places of a document that fragments can indicate."""

    def __init__(self, document: Document) -> None:
        self._document = document

    def indicated(self, fragment: str) -> Element | None:
        """Return the element that a fragment indicates (§7.4.6.3, select the indicated part).

        The top of the document is its root; None if the page has no such place.
        """
        if not fragment:
            return self._document.root
        decoded = unquote(fragment)
        for name in dict.fromkeys((fragment, decoded)):
            found = self._document.ids.get(name) or self._anchors.get(name)
            if found is not None:
                return found
        return self._document.root if decoded.lower() == "top" else None

    @cached_property
    def _anchors(self) -> dict[str, Element]:
        """The first anchor of each name (find a potential indicated element)."""
        found: dict[str, Element] = {}
        for node in self._document.root.descendants():
            if isinstance(node, Element) and node.tag == "a" and node.namespace is Namespace.HTML:
                found.setdefault(node.attributes.get("name", ""), node)
        return found
