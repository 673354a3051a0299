"""Reading order against the order in sight, on pages that a browser laid out (WCAG 2.2 §1.3.2, Meaningful Sequence).

Only parts that stand beside each other in one element are compared, each with its whole box: so columns that are read
one after the other are in order, and a part that rules have moved before another one is not.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from murvel.checks.questions.tab_order import TabOrder
from murvel.dom.document import Box, Element
from murvel.tree.model import Tree

_OVERLAP = 0.5
"""Parts whose heights overlap by this share of the smaller one stand in one row."""

_SMALLEST = 4.0
"""Smaller boxes in CSS pixels are no parts that are seen."""


def seen_elsewhere(tree: Tree) -> Iterator[Element]:
    """Yield the parts that are seen in another place than they are read, in document order.

    Args:
        tree: of a page whose elements have boxes; of another page nothing is yielded.
    """
    with_text = _with_text(tree)
    for element in (tree.document.root, *_elements(tree.document.root)):
        parts = [each for each in element.elements() if each in with_text and _is_part(tree, each)]
        if len(parts) > 1:
            is_right_to_left = element.attributes.get("dir", tree.document.root.attributes.get("dir")) == "rtl"
            seen = _in_sight(parts, is_right_to_left=is_right_to_left)
            moved = TabOrder(seen, [part.order for part in seen]).moved
            yield from sorted((seen[at] for at in moved), key=lambda part: part.order)


def _elements(root: Element) -> Iterable[Element]:
    return (node for node in root.descendants() if isinstance(node, Element))


def _with_text(tree: Tree) -> set[Element]:
    """The elements in which something is heard."""
    found: set[Element] = set()
    for node in tree.nodes:
        element: Element | None = node.element
        while element is not None and element not in found:
            found.add(element)
            element = element.parent
    return found


def _is_part(tree: Tree, element: Element) -> bool:
    """Whether an element is a box of its own in the flow; what floats over the page has no place in its order."""
    style = tree.styles.of(element)
    box = element.box
    is_seen = box is not None and box.width >= _SMALLEST and box.height >= _SMALLEST
    return is_seen and not style.is_inline and not style.is_out_of_flow and style.visibility == "visible"


def _in_sight(parts: list[Element], *, is_right_to_left: bool) -> list[Element]:
    """Parts in the order in which they are seen: row by row, and in a row along the line."""
    rows: list[list[Element]] = []
    for part in sorted(parts, key=lambda each: _box(each).top):
        row = next((row for row in rows if any(_is_beside(_box(part), _box(each)) for each in row)), None)
        if row is None:
            rows.append([part])
        else:
            row.append(part)
    sign = -1 if is_right_to_left else 1
    return [part for row in rows for part in sorted(row, key=lambda each: sign * _box(each).left)]


def _box(part: Element) -> Box:
    assert part.box is not None
    return part.box


def _is_beside(one: Box, other: Box) -> bool:
    shared = min(one.top + one.height, other.top + other.height) - max(one.top, other.top)
    return shared > _OVERLAP * min(one.height, other.height)
