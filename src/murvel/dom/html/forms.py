"""Forms: who owns a control, and which radio buttons make a group (HTML §4.10.18.3, §4.10.5.1.16)."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.dom.document import Document, Element
from murvel.dom.html.inputs import control_type

SUBMITTABLE = frozenset({"button", "input", "select", "textarea"})


def form_of(document: Document, control: Element) -> Element | None:
    """Return a control's form owner (§4.10.18.3): what its form attribute names, else the form around it."""
    if "form" in control.attributes:
        named = document.ids_around(control).get(control.attributes["form"])
        return named if named is not None and named.tag == "form" else None
    return next((above for above in control.ancestors() if above.tag == "form"), None)


def controls_of(document: Document, form: Element) -> Iterator[Element]:
    """Yield the controls of a form in document order."""
    for node in document.root.descendants():
        if isinstance(node, Element) and node.tag in SUBMITTABLE and form_of(document, node) is form:
            yield node


RadioGroup = tuple[int, Element | None, str]
"""What radio buttons of a group have in common: the tree they are in, their form owner, their name."""


def radio_group_of(document: Document, element: Element) -> RadioGroup | None:
    """Return which radio button group an element belongs to (§4.10.5.1.16); None for one without a name, and for
    anything else."""
    if control_type(element) != "radio":
        return None
    name = element.attributes.get("name", "")
    return (id(document.ids_around(element)), form_of(document, element), name) if name else None


def radio_group(document: Document, radio: Element) -> list[Element]:
    """Return the radio buttons of a group, in document order; one without a name is alone."""
    group = radio_group_of(document, radio)
    if group is None:
        return [radio]
    return [
        node
        for node in document.root.descendants()
        if isinstance(node, Element)
        and node.tag == "input"
        and node.attributes.get("name") == group[2]
        and radio_group_of(document, node) == group
    ]
