"""Facts of HTML about single elements that several parts of the tree rest on."""

from __future__ import annotations

from murvel.dom.document import Element, Namespace
from murvel.dom.html.inputs import control_type

LABELABLE = frozenset({"button", "input", "meter", "output", "progress", "select", "textarea"})
"""Elements that a label may label (HTML §4.10.2)."""

DISABLEABLE = frozenset({"button", "fieldset", "input", "optgroup", "option", "select", "textarea"})
"""Elements that can be disabled (HTML §4.16.3, :disabled)."""


def is_labelable(element: Element) -> bool:
    """Whether a label may label the element; a hidden input may not be labelled."""
    if element.tag not in LABELABLE or element.namespace is not Namespace.HTML:
        return False
    return control_type(element) != "hidden"


def select_is_list(element: Element) -> bool:
    """Whether a select shows a list box rather than a drop-down (HTML §4.10.7, display size: over 1)."""
    size = element.attributes.get("size", "").strip()
    if size.isascii() and size.isdecimal() and int(size[:9]):
        return int(size[:9]) > 1
    return "multiple" in element.attributes


def first_child(element: Element, tag: str) -> Element | None:
    """Return the first child element with a tag: the summary of details, the legend of a fieldset, a caption."""
    return next((child for child in element.elements() if child.tag == tag), None)


def is_summary(element: Element) -> bool:
    """Whether an element is the summary for its parent details (HTML §4.11.2)."""
    parent = element.parent
    return (
        element.tag == "summary"
        and parent is not None
        and parent.tag == "details"
        and first_child(parent, "summary") in (element, None)  # None: it is the browser's own
    )


def is_disabled(element: Element) -> bool:
    """Whether a form control is disabled (HTML §4.10.18.5), by itself or by a fieldset outside its first legend."""
    if element.tag not in DISABLEABLE:
        return False
    if "disabled" in element.attributes:
        return True
    if element.tag == "option":
        parent = element.parent
        return parent is not None and parent.tag == "optgroup" and "disabled" in parent.attributes
    below = element
    for above in element.ancestors():
        if above.tag == "fieldset" and "disabled" in above.attributes and first_child(above, "legend") is not below:
            return True
        below = above
    return False


def is_editing_host(element: Element) -> bool:
    """Whether an element's content can be edited by its attribute contenteditable (HTML §6.8.1)."""
    return element.attributes.get("contenteditable", "false").lower() in ("", "true", "plaintext-only")


def is_editable(element: Element) -> bool:
    """Whether an element is an editing host, or stands in one (HTML §6.8.1)."""
    each: Element | None = element
    while each is not None:
        if each.attributes and "contenteditable" in each.attributes:
            return is_editing_host(each)
        each = each.parent
    return False


def is_spoken_of(element: Element) -> bool:
    """Whether an author says something of an element beside its content."""
    return any(name.startswith("aria-") or name in ("tabindex", "title", "role") for name in element.attributes)
