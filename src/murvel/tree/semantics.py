"""What an element is: its role, whether it is exposed, which labels and references it has.

`Semantics` answers these for every element of a document, exposed or not, since a hidden element may still give
another one its name. Answers are kept, so that each is found once.
"""

from __future__ import annotations

from enum import Enum
from typing import NamedTuple

from murvel.page.document import Document, Element, Namespace, Text
from murvel.tree.focus import is_focusable
from murvel.tree.html import first_child, is_labelable
from murvel.tree.html_roles import author_role, native_role
from murvel.tree.image_maps import shown_areas
from murvel.tree.tables import holds_data

GLOBAL_ATTRIBUTES = frozenset(
    [
        "aria-atomic",
        "aria-busy",
        "aria-controls",
        "aria-current",
        "aria-describedby",
        "aria-description",
        "aria-details",
        "aria-dropeffect",
        "aria-flowto",
        "aria-grabbed",
        "aria-hidden",
        "aria-keyshortcuts",
        "aria-label",
        "aria-labelledby",
        "aria-live",
        "aria-owns",
        "aria-relevant",
        "aria-roledescription",
    ]
)
"""WAI-ARIA 1.2 §6.4, Global States and Properties, that no role prohibits or deprecates."""

_NOT_HIDDEN = frozenset({"", "false", "undefined"})
"""Values of aria-hidden that hide nothing; browsers take every other one for true (docs/standards.md)."""

_UNDO_NONE = GLOBAL_ATTRIBUTES - {"aria-hidden"}


_REQUIRED_PARENTS = {
    "listitem": frozenset({"list"}),
    "option": frozenset({"listbox", "combobox"}),
    "treeitem": frozenset({"tree"}),
}
"""Roles that browsers drop where what they must stand in is missing."""


class Hiding(Enum):
    """Why an element is not exposed (Core-AAM 1.2 §5.1.1; CSS; HTML §6.3, inert subtrees)."""

    NOT_DISPLAYED = "display: none"
    NOT_VISIBLE = "visibility"
    CLOSED_DETAILS = "a closed details element"
    CONTENT_SKIPPED = "content-visibility: hidden"
    ARIA_HIDDEN = "aria-hidden"
    INERT = "inert"
    NOT_SLOTTED = "no slot that takes it"
    NOT_ON_AN_IMAGE = "no image that shows it"


class Hidden(NamedTuple):
    """Why an element is not exposed, and the element that decides it."""

    why: Hiding
    by: Element


class Semantics:
    """The semantics of a document's elements, before there is a tree."""

    def __init__(self, document: Document) -> None:
        self.document = document
        self._roles: dict[int, str | None] = {}
        self._hidden: dict[int, Hidden] = {}
        self._labels: dict[int, list[Element]] = {}
        self._disabled_around: set[int] = set()
        self._layout: dict[int, bool] = {}
        self._owned: dict[int, list[Element]] = {}
        self._owners: dict[int, Element] = {}
        """What each element stands in that was taken from its place: by aria-owns, or as an area by its image."""
        self._survey()

    def role(self, element: Element) -> str | None:
        """Return an element's role; None or "none" where it has no object of its own."""
        order = element.order
        if order in self._roles:
            return self._roles[order]
        role = self._resolve_role(element) if "role" in element.attributes else native_role(element, self)
        self._roles[order] = role
        return role

    def _resolve_role(self, element: Element) -> str | None:
        chosen = author_role(element)
        if chosen is None or (chosen == "none" and self._stays_exposed(element)):
            return native_role(element, self)
        if chosen in ("region", "form") and not self.named_by_author(element):
            return native_role(element, self)
        if not self._in_context(element, chosen):
            return native_role(element, self)
        return chosen

    def _in_context(self, element: Element, role: str) -> bool:
        """Whether an element stands in what its role must stand in (WAI-ARIA 1.2 §5.2.6, Required Parent Role)."""
        parents = _REQUIRED_PARENTS.get(role)
        if parents is None or element.tag == "option":
            return True
        around = self._around(element)
        while around is not None:
            if self.role(around) in parents:
                return True
            around = self._around(around)
        return False

    def _around(self, element: Element) -> Element | None:
        """The element around another in the tree: what owns it, else its parent."""
        return self._owners.get(element.order) or element.parent

    def is_disabled_around(self, element: Element) -> bool:
        """Whether aria-disabled is true on something around an element (§6.6: it holds for all focusable inside)."""
        return element.order in self._disabled_around

    def _stays_exposed(self, element: Element) -> bool:
        """WAI-ARIA 1.2 §7.2, Presentational Roles Conflict Resolution."""
        return not _UNDO_NONE.isdisjoint(element.attributes) or is_focusable(element)

    def named_by_author(self, element: Element) -> bool:
        """Whether an element is named by aria-labelledby, aria-label or title."""
        attributes = element.attributes
        if (attributes.get("aria-label") or "").strip() or (attributes.get("title") or "").strip():
            return True
        return bool(self.references(element, "aria-labelledby"))

    def suggestions(self, field: Element) -> Element | None:
        """Return the datalist that a field's list attribute names (HTML §4.10.5.3.9), None where there is none."""
        named = self.document.ids_around(field).get(field.attributes.get("list", ""))
        return named if named is not None and named.tag == "datalist" else None

    def lays_out(self, table: Element) -> bool:
        """Whether a table element is there for layout only."""
        order = table.order
        if order not in self._layout:
            self._layout[order] = not holds_data(table)
        return self._layout[order]

    def hidden(self, element: Element) -> Hidden | None:
        """Return why an element is not exposed, None where it is."""
        return self._hidden.get(element.order)

    def shows_text(self, element: Element) -> bool:
        """Whether text directly in an element is shown, given that the element is not hidden with all inside it."""
        if element.style.visibility != "visible" or element.style.content_visibility == "hidden":
            return False
        return element.tag != "details" or "open" in element.attributes

    def children(self, element: Element) -> list[Element | Text]:
        """Return what stands in an element in the tree's order: without what is owned elsewhere, then what it owns
        (WAI-ARIA 1.2 §6.6 aria-owns); an image has the areas of its map."""
        if not self._owners:
            return self.document.shown_in(element)
        staying = [child for child in self.document.shown_in(element) if child.order not in self._owners]
        return [*staying, *self._owned.get(element.order, ())]

    def labels(self, element: Element) -> list[Element]:
        """Return the label elements of a labelable element in document order (HTML §4.10.4)."""
        return self._labels.get(element.order, [])

    def references(self, element: Element, attribute: str) -> list[Element]:
        """Return the elements an ID reference list names, in its order; ids that nothing has are left out."""
        value = element.attributes.get(attribute)
        if not value:
            return []
        ids = self.document.ids_around(element)
        return [ids[token] for token in value.split() if token in ids]

    def _survey(self) -> None:
        """One pass over the document: what is hidden, and which label labels what."""
        hidden = self._hidden
        root = self.document.root
        owning: list[Element] = []
        areas: list[Element] = []
        with_maps: list[Element] = []
        stack: list[tuple[Element, Hidden | None]] = [(root, None)]
        while stack:
            element, inherited = stack.pop()
            reason = inherited or self._hiding_subtree(element)
            if reason is not None:
                hidden[element.order] = reason
            elif element.style.visibility != "visible":
                hidden[element.order] = Hidden(Hiding.NOT_VISIBLE, element)
            if element.tag == "label":
                self._add_label(element)
            elif element.tag == "area":
                areas.append(element)
            elif element.tag == "img" and "usemap" in element.attributes:
                with_maps.append(element)
            if "aria-owns" in element.attributes and reason is None:
                owning.append(element)
            if element.attributes.get("aria-disabled", "").strip().lower() == "true":
                self._disabled_around.update(range(element.order + 1, element.end))
            below = reason
            if below is None and element.style.content_visibility == "hidden":
                below = Hidden(Hiding.CONTENT_SKIPPED, element)
            if element.tag == "iframe" and element.order in hidden:
                below = hidden[element.order]  # what is in a frame does not show where the frame does not
            shown: Element | None = None
            if below is None and element.tag == "details" and "open" not in element.attributes:
                below = Hidden(Hiding.CLOSED_DETAILS, element)
                shown = first_child(element, "summary")
            for child in reversed(self.document.shown_in(element)):
                if isinstance(child, Element):
                    stack.append((child, None if child is shown else below))
        if self.document.flat:
            self._hide_unslotted()
        if areas:
            self._place_areas(areas, with_maps)
        for owner in owning:
            self._take(owner)

    def _place_areas(self, areas: list[Element], images: list[Element]) -> None:
        """Put areas into the images that show them; they are as hidden as these."""
        placed = shown_areas(self.document, areas, images)
        for area in areas:
            image = placed.get(area)
            if image is not None:
                self._owners[area.order] = image
                self._owned.setdefault(image.order, []).append(area)
            hidden = Hidden(Hiding.NOT_ON_AN_IMAGE, area) if image is None else self.hidden(image)
            if hidden is not None:
                self._hidden.setdefault(area.order, hidden)

    def _hide_unslotted(self) -> None:
        """Hide the children of shadow hosts that no slot takes, and what stands in slots that take something."""
        shown = {node for nodes in self.document.flat.values() for node in nodes}
        for element in self.document.flat:
            for child in element.elements():
                if child not in shown:
                    inside = range(child.order, child.order + 1 if child.tag == "template" else child.end)
                    self._hidden.update(dict.fromkeys(inside, Hidden(Hiding.NOT_SLOTTED, child)))

    def _take(self, owner: Element) -> None:
        """Let an element own what its aria-owns names: each only once, and nothing that it stands in itself."""
        for target in self.references(owner, "aria-owns"):
            if target.order in self._owners or self._stands_in(owner, target):
                continue
            self._owners[target.order] = owner
            self._owned.setdefault(owner.order, []).append(target)

    def _stands_in(self, element: Element, other: Element) -> bool:
        above: Element | None = element
        while above is not None:
            if above is other:
                return True
            above = self._around(above)
        return False

    def _hiding_subtree(self, element: Element) -> Hidden | None:
        if element.style.display == "none":
            return Hidden(Hiding.NOT_DISPLAYED, element)
        attributes = element.attributes
        if attributes:
            if attributes.get("aria-hidden", "false").strip().lower() not in _NOT_HIDDEN and element.tag not in (
                "html",
                "body",
            ):
                return Hidden(Hiding.ARIA_HIDDEN, element)
            if "inert" in attributes and element.namespace is Namespace.HTML:
                return Hidden(Hiding.INERT, element)
        return None

    def _add_label(self, label: Element) -> None:
        target = self.labelled_control(label)
        if target is not None:
            self._labels.setdefault(target.order, []).append(label)

    def labelled_control(self, label: Element) -> Element | None:
        """Return a label's labeled control (HTML §4.10.4): what `for` names, else the first labelable inside."""
        if "for" in label.attributes:
            target = self.document.ids_around(label).get(label.attributes["for"])
            return target if target is not None and is_labelable(target) else None
        for node in label.descendants():
            if isinstance(node, Element) and is_labelable(node):
                return node
        return None
