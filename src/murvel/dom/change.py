"""What was changed in a document since it was last looked at."""

from __future__ import annotations

from dataclasses import dataclass, field

from murvel.dom.document import Element


@dataclass(slots=True)
class DocumentChange:
    """Changes that belong together: what one key, or one moment, did to a document.

    Attributes:
        attributes: for each element, the attributes that were changed with their values before; None for absent.
        states: elements whose state was changed.
        parents: elements whose children or text were changed.
        added, removed: the topmost elements that came and went.
        everywhere: whether something changed that concerns every element: what is inert beside a modal dialog.
    """

    attributes: dict[Element, dict[str, str | None]] = field(default_factory=dict)
    states: set[Element] = field(default_factory=set)
    parents: set[Element] = field(default_factory=set)
    added: list[Element] = field(default_factory=list)
    removed: list[Element] = field(default_factory=list)
    everywhere: bool = False

    def __bool__(self) -> bool:
        return bool(self.attributes or self.states or self.parents or self.everywhere)

    def note_attribute(self, element: Element, name: str, before: str | None) -> None:
        """Note that an attribute is being changed; the first value before counts."""
        self.attributes.setdefault(element, {}).setdefault(name, before)

    def added_elements(self) -> list[Element]:
        """Return every element that came, in document order."""
        return [node for root in self.added for node in with_descendants(root)]


def with_descendants(root: Element) -> list[Element]:
    """Return an element and the elements inside it, in document order."""
    return [root, *(node for node in root.descendants() if isinstance(node, Element))]
