"""Relations between nodes (WAI-ARIA 1.2 §6.5.4, Relationship Attributes; HTML-AAM 1.0 §3.5 for native labels)."""

from __future__ import annotations

from collections.abc import Callable

from murvel.dom.document import Element
from murvel.dom.html.facts import LABELABLE
from murvel.tree.node import Node
from murvel.tree.roles.semantics import Semantics

REFERENCES = {
    "activedescendant": "aria-activedescendant",
    "controls": "aria-controls",
    "describedby": "aria-describedby",
    "details": "aria-details",
    "errormessage": "aria-errormessage",
    "flowto": "aria-flowto",
    "labelledby": "aria-labelledby",
    "owns": "aria-owns",
}
"""Each relation with the attribute that states it."""

_STATING = frozenset(REFERENCES.values())


def relations_of(node: Node, semantics: Semantics, node_of: Callable[[Element], Node | None]) -> dict[str, list[Node]]:
    """Return the exposed nodes that a node refers to, by the name of the relation; only those that have any.

    An error message belongs to a field only while that is invalid (WAI-ARIA 1.2 §6.6 aria-errormessage).
    """
    element = node.element
    found: dict[str, list[Node]] = {}
    for relation, attribute in () if _STATING.isdisjoint(element.attributes) else REFERENCES.items():
        if attribute not in element.attributes or (relation == "errormessage" and "invalid" not in node.states):
            continue
        targets = semantics.references(element, attribute)
        if relation == "activedescendant":
            targets = targets[:1]
        _add(found, relation, targets, node_of)
    if element.tag in LABELABLE and "labelledby" not in found:
        _add(found, "labelledby", semantics.labels(element), node_of)
    return found


def _add(
    found: dict[str, list[Node]], relation: str, targets: list[Element], node_of: Callable[[Element], Node | None]
) -> None:
    nodes = [each for each in map(node_of, targets) if each is not None]
    if nodes:
        found[relation] = nodes
