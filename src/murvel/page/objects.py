"""Objects that show their fallback content: what they name is not there, or of a type that browsers do not show.

Rules: HTML §4.8.7, "the object element represents its fallback content". Nothing is fetched to find out: what is on the
web is taken to be there.
"""

from __future__ import annotations

from murvel.dom.document import Document, Element
from murvel.loading.addresses import scheme_of

_SHOWN = ("image/", "text/", "application/xhtml+xml", "application/xml", "application/pdf", "application/json")
"""How the types of what browsers show in an object begin (docs/standards.md)."""


def falls_back(document: Document, element: Element) -> bool:
    """Whether an object element shows its content in place of what it names."""
    data = element.attributes.get("data", "").strip()
    kind = element.attributes.get("type", "").strip().lower()
    if not data or (kind and not kind.startswith(_SHOWN)):
        return True
    address = document.resolve(data)
    if scheme_of(address) == "data":
        told = address.partition(":")[2].lstrip().lower()
        return not told.startswith((*_SHOWN, ",", ";"))
    return document.resources.is_missing(address)
