"""Declarative shadow trees (HTML §4.12.3, template shadowrootmode) and what their slots take (DOM §4.2.2)."""

from __future__ import annotations

from murvel.dom.document import Document, Element, Namespace, Text

_HOSTS = frozenset("article aside blockquote body div footer h1 h2 h3 h4 h5 h6 header main nav p section span".split())


def declares_shadow(template: Element) -> bool:
    """Whether a template declares a shadow tree, if its parent may have one."""
    return template.attributes.get("shadowrootmode", "").lower() in ("open", "closed")


def host_of(template: Element) -> Element | None:
    """Return the element that a template gives a shadow tree to: its parent, where that may have one and this is the
    first to declare it (DOM §4.8, attachShadow); None otherwise."""
    host = template.parent
    if host is None or host.namespace is not Namespace.HTML or not (host.tag in _HOSTS or "-" in host.tag):
        return None
    first = next(child for child in host.elements() if child.tag == "template" and declares_shadow(child))
    return host if first is template else None


def assign_slots(document: Document, templates: list[Element]) -> None:
    """Settle what is shown in hosts and slots (DOM §4.2.2.3, find slottables; §4.2.2.4, the flat tree).

    Args:
        document: its `flat` is filled.
        templates: those that have a host.
    """
    for template in templates:
        host = template.parent
        assert host is not None
        document.flat[host] = template.children
        waiting: dict[str, list[Element | Text]] = {}
        for child in host.children:
            if child is not template:
                name = child.attributes.get("slot", "") if isinstance(child, Element) else ""
                waiting.setdefault(name, []).append(child)
        for node in _own_nodes(template):
            if node.tag == "slot":
                taken = waiting.pop(node.attributes.get("name", ""), None)
                if taken:
                    document.flat[node] = taken
                    document.slotted.update(dict.fromkeys(taken, node))


def _own_nodes(template: Element) -> list[Element]:
    """The elements of a shadow tree without those of the shadow trees in it, in its order."""
    found: list[Element] = []
    stack = list(template.elements())[::-1]
    while stack:
        element = stack.pop()
        if element.tag == "template":
            continue
        found.append(element)
        stack.extend(reversed(list(element.elements())))
    return found
