"""Fields that no role tells: regions that can be edited (HTML §6.8.1, contenteditable)."""

from __future__ import annotations

from murvel.dom.html.facts import is_editing_host
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import CELLS, EDITS

_NO_FIELDS = EDITS | CELLS


def is_rich_text(node: Node) -> bool:
    """Whether a node is a region that can be edited and has no role of a field; cells of a grid are told as cells."""
    if node.is_text or "contenteditable" not in node.element.attributes or node.role in _NO_FIELDS:
        return False
    return is_editing_host(node.element)
