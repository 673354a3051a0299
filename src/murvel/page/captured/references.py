"""Elements that scripts refer to directly, as `ariaLabelledByElements` does (WAI-ARIA 1.3 §10, reflected references).

The attribute is empty then, and a browser tells the elements by their numbers. Here the attribute names their ids; an
element without one gets one that no author writes.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from murvel.dom.document import Element


class References:
    """What attributes of some elements refer to, until all elements are known."""

    def __init__(self) -> None:
        self._waiting: list[tuple[Element, str, Sequence[int]]] = []

    def note(self, element: Element, name: str, numbers: Sequence[int]) -> None:
        """Note the elements that an attribute refers to, by their numbers."""
        self._waiting.append((element, name, numbers))

    def resolve(self, by_number: Mapping[int, Element]) -> bool:
        """Give the attributes the ids of what they refer to; return whether an element got an id by that."""
        waiting, self._waiting = self._waiting, []
        has_named = False
        for element, name, numbers in waiting:
            value, is_new = ids_of(numbers, by_number)
            element.attributes[name] = value
            has_named |= is_new
        return has_named


def ids_of(numbers: Sequence[int], by_number: Mapping[int, Element]) -> tuple[str, bool]:
    """Return the ids of elements, and whether one of them got its id just now; those that are gone are left out."""
    ids, is_new = [], False
    for number in numbers:
        target = by_number.get(number)
        if target is not None:
            is_new |= "id" not in target.attributes
            ids.append(target.attributes.setdefault("id", f"@{number}"))
    return " ".join(ids), is_new
