"""Labels and what they label (HTML §4.10.4)."""

from __future__ import annotations

from murvel.dom.document import Document, Element
from murvel.dom.html.facts import is_labelable


def labelled_control(document: Document, label: Element) -> Element | None:
    """Return a label's labeled control: what `for` names, else the first labelable element inside; None for none."""
    if "for" in label.attributes:
        target = document.ids_around(label).get(label.attributes["for"])
        return target if target is not None and is_labelable(target) else None
    for node in label.descendants():
        if isinstance(node, Element) and is_labelable(node):
            return node
    return None
