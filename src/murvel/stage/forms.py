"""Forms as HTML alone makes them: owners, groups of radio buttons, constraint validation (HTML §4.10.18, §4.10.20)."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.page.document import Document, Element
from murvel.tree.html import input_type, is_disabled
from murvel.tree.validity import is_invalid
from murvel.tree.values import chosen_options

SUBMITTABLE = frozenset({"button", "input", "select", "textarea"})

_NOT_VALIDATED = frozenset({"hidden", "reset", "button", "submit", "image"})


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


def radio_group(document: Document, radio: Element) -> list[Element]:
    """Return the radio buttons of a group (§4.10.5.1.16), in document order; one without a name is alone."""
    name = radio.attributes.get("name", "")
    if not name:
        return [radio]
    form = form_of(document, radio)
    return [
        node
        for node in document.root.descendants()
        if isinstance(node, Element)
        and node.tag == "input"
        and input_type(node) == "radio"
        and node.attributes.get("name") == name
        and form_of(document, node) is form
    ]


def problem_of(document: Document, control: Element) -> str | None:
    """Return why a control's value is not valid, in words for the person; None where it is valid (§4.10.20.1)."""
    kind = input_type(control) if control.tag == "input" else control.tag
    if control.tag == "button" or kind in _NOT_VALIDATED or is_disabled(control) or "readonly" in control.attributes:
        return None
    if _is_missing(document, control, kind):
        return _MISSING.get(kind, "please fill in this field")
    if is_invalid(control):
        return _INVALID.get(kind, "please match the format that is asked for")
    return None


def _is_missing(document: Document, control: Element, kind: str) -> bool:
    if kind == "radio":
        group = radio_group(document, control)
        return any("required" in each.attributes for each in group) and not any(
            "checked" in each.attributes for each in group
        )
    if "required" not in control.attributes:
        return False
    if kind == "checkbox":
        return "checked" not in control.attributes
    if control.tag == "select":
        return not any(option.attributes.get("value", option.text().strip()) for option in chosen_options(control))
    return not (control.text() if control.tag == "textarea" else control.attributes.get("value", ""))


_MISSING = {
    "checkbox": "please tick this to go on",
    "radio": "please choose one of these",
    "select": "please choose from the list",
    "file": "please choose a file",
}
_INVALID = {
    "email": "please enter an email address",
    "url": "please enter an address that begins with its scheme",
    "number": "please enter a number in the range that is asked for",
}
"""What the browser's own message says, in our words: browsers word them as they like (§4.10.20.3)."""
