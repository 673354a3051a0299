"""What an element is: its role, whether it is exposed, which labels and references it has.

`Semantics` answers these for every element of a document, exposed or not, since a hidden element may still give
another one its name. Answers are kept, so that each is found once.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from enum import Enum
from typing import NamedTuple

from murvel.css.values.style import Style, Styles
from murvel.dom.change import with_descendants
from murvel.dom.document import Document, Element, Namespace, Text
from murvel.dom.html.controls import is_checked, is_open
from murvel.dom.html.facts import is_spoken_of
from murvel.dom.html.forms import RadioGroup, radio_group, radio_group_of
from murvel.dom.html.inputs import CHECKED, control_type
from murvel.dom.summaries import summary_of
from murvel.loading.problems import ProblemKind
from murvel.tree.focus import is_focusable
from murvel.tree.names.labels import labelled_control
from murvel.tree.roles.aria_roles import GENERIC
from murvel.tree.roles.html_roles import author_role, author_roles, native_role
from murvel.tree.roles.image_maps import shown_areas
from murvel.tree.tables.tables import holds_data, sections_in_place

GLOBAL_ATTRIBUTES = frozenset(
    "aria-atomic aria-busy aria-controls aria-current aria-describedby aria-description aria-details "
    "aria-dropeffect aria-flowto aria-grabbed aria-hidden aria-keyshortcuts aria-label aria-labelledby aria-live "
    "aria-owns aria-relevant aria-roledescription".split()
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


def _order(element: Element) -> int:
    return element.order


_MOST_OWNERS = 64
"""How many owners may own each other in a row: elements stand no deeper in each other without them either."""

_NOTED = ("label", "area", "map image", "owner", "disabling", "asking radio", "read only", "referring", "language")
"""The kinds of elements that are noted while the document is gone through."""

_REFERRING = frozenset({"aria-labelledby", "aria-describedby", "popovertarget", "list"})
"""Attributes by which an element's object depends on other elements."""


def _kinds_of(element: Element) -> list[str]:
    kinds = []
    tag, attributes = element.tag, element.attributes
    if tag == "label" or tag == "area":
        kinds.append(tag)
    elif tag == "use":
        kinds.append("referring")
    elif tag == "input" and "required" in attributes and control_type(element) == "radio":
        kinds.append("asking radio")
    if attributes:
        if tag == "img" and "usemap" in attributes:
            kinds.append("map image")
        if "aria-owns" in attributes:
            kinds.append("owner")
        if "aria-disabled" in attributes and attributes["aria-disabled"].strip().lower() == "true":
            kinds.append("disabling")
        if "aria-readonly" in attributes and attributes["aria-readonly"].strip().lower() == "true":
            kinds.append("read only")
        if not _REFERRING.isdisjoint(attributes):
            kinds.append("referring")
        if tag != "html" and ("lang" in attributes or "xml:lang" in attributes):
            kinds.append("language")
    return kinds


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


def _closes(element: Element, below: Hidden | None) -> bool:
    """Whether an element is a closed details, which hides all in it except its summary."""
    return below is not None and below.why is Hiding.CLOSED_DETAILS and below.by is element


class Semantics:
    """The semantics of a document's elements, before there is a tree."""

    def __init__(self, document: Document, styles: Styles) -> None:
        self.document = document
        self.styles = styles
        self._roles: dict[Element, str | None] = {}
        self._hidden: dict[Element, Hidden] = {}
        self._labels: dict[Element, list[Element]] = {}
        self._layout: dict[Element, bool] = {}
        self._owned: dict[Element, list[Element]] = {}
        self._missing: set[RadioGroup] | None = None  # the groups of radio buttons that ask for a choice and have none
        self._heights: dict[Element, int] = {}  # how many owners stand in each other from an element down
        self._owners: dict[Element, Element] = {}
        """What each element stands in that was taken from its place: by aria-owns, or as an area by its image."""
        self._noted: dict[str, dict[Element, None]] = {kind: {} for kind in _NOTED}
        self._survey([document.root])
        self._relate()

    def role(self, element: Element) -> str | None:
        """Return an element's role; None or "none" where it has no object of its own."""
        known = self._roles
        if element in known:
            return known[element]
        role = self._resolve_role(element) if "role" in element.attributes else native_role(element, self)
        if role == GENERIC and self.styles.of(element).replaced is not None:
            role = "img"  # nothing but an image is shown
        known[element] = role
        return role

    def _resolve_role(self, element: Element) -> str | None:
        chosen = author_role(element)
        if chosen is None or (chosen == "none" and self.stays_exposed(element)):
            return native_role(element, self)
        if chosen in ("region", "form") and not self.named_by_author(element):
            chosen = next((role for role in author_roles(element) if role not in ("region", "form")), None)
            if chosen is None:
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
        """The element around another in the tree: what owns it, else what it stands in as it is shown."""
        return self._owners.get(element) or self.around(element)

    def is_disabled_around(self, element: Element) -> bool:
        """Whether aria-disabled is true on something around an element (§6.6: it holds for all focusable inside)."""
        disabling = self._noted["disabling"]
        return bool(disabling) and any(above in disabling for above in element.ancestors())

    @property
    def passes_states_on(self) -> bool:
        """Whether something on the page says a state of what stands in it."""
        return bool(self._noted["disabling"] or self._noted["read only"])

    def is_read_only_around(self, cell: Element) -> bool:
        """Whether aria-readonly is true on the grid around a cell (§6.6: it holds for its cells)."""
        if not self._noted["read only"]:
            return False
        grid = next((above for above in cell.ancestors() if self.role(above) in ("grid", "treegrid")), None)
        return grid is not None and grid in self._noted["read only"]

    def is_choice_missing(self, radio: Element) -> bool:
        """Whether a radio button's group asks for a choice and has none (HTML §4.10.5.1.16)."""
        if not self.asks_for_choices:
            return False
        if self._missing is None:
            asking = {radio_group_of(self.document, each): each for each in self._noted["asking radio"]}
            self._missing = {
                group
                for group, each in asking.items()
                if group is not None and not any(map(is_checked, radio_group(self.document, each)))
            }
        return radio_group_of(self.document, radio) in self._missing

    @property
    def asks_for_choices(self) -> bool:
        """Whether some radio button on the page is required."""
        return bool(self._noted["asking radio"])

    def stays_exposed(self, element: Element) -> bool:
        """Whether an element is exposed though it is presentational (WAI-ARIA 1.2 §7.2, conflict resolution)."""
        return not _UNDO_NONE.isdisjoint(element.attributes) or is_focusable(element)

    def around(self, element: Element) -> Element | None:
        """Return what an element stands in as it is shown: a slot, a shadow tree's host, else its parent."""
        slot = self.document.slotted.get(element)
        if slot is not None:
            return slot
        parent = element.parent
        return parent.parent if parent is not None and self.document.is_shadow(parent) else parent

    def named_by_author(self, element: Element) -> bool:
        """Whether an element is named by aria-labelledby, aria-label or title."""
        attributes = element.attributes
        if (attributes.get("aria-label") or "").strip() or (attributes.get("title") or "").strip():
            return True
        return bool(self.references(element, "aria-labelledby"))

    def suggestions(self, field: Element) -> Element | None:
        """Return the datalist that a field's list attribute names (HTML §4.10.5.3.9), None if there is none."""
        named = self.document.ids_around(field).get(field.attributes.get("list", ""))
        return named if named is not None and named.tag == "datalist" else None

    def drawn_by(self, use: Element) -> Element | None:
        """Return what a use element of SVG draws again, None if that is not on the page (SVG 2 §5.6)."""
        reference = use.attributes.get("href") or use.attributes.get("xlink:href") or ""
        target = self.document.ids_around(use).get(reference[1:]) if reference.startswith("#") else None
        return None if target is None or target.contains(use) else target

    def lays_out(self, table: Element) -> bool:
        """Whether a table element is there for layout only."""
        if table not in self._layout:
            self._layout[table] = "role" not in table.attributes and not holds_data(table, self.styles)
        return self._layout[table]

    def hidden(self, element: Element) -> Hidden | None:
        """Return why an element is not exposed, None if it is."""
        return self._hidden.get(element)

    def shows_text(self, element: Element) -> bool:
        """Whether text directly in an element is shown, given that the element is not hidden with all inside it."""
        style = self.styles.of(element)
        if style.visibility != "visible" or style.content_visibility == "hidden":
            return False
        return element.tag != "details" or is_open(element) or style.shows_closed

    def children(self, element: Element) -> Sequence[Element | Text]:
        """Return what stands in an element in the tree's order, and then what it owns (WAI-ARIA 1.2 §6.6 aria-owns)."""
        children = self.document.shown_in(element)
        if element.tag == "table":
            children = sections_in_place(children)
        if not self._owners:
            return children
        return [*(child for child in children if child not in self._owners), *self._owned.get(element, ())]

    def labels(self, element: Element) -> list[Element]:
        """Return the label elements of a labelable element in document order (HTML §4.10.4)."""
        return self._labels.get(element, [])

    def is_redundant(self, label: Element) -> bool:
        """Whether a label says only what its checkbox or radio button is named: browsers expose that once."""
        control = self.labelled_control(label)
        if control is None or control_type(control) not in CHECKED or is_spoken_of(label):
            return False
        hidden = self.hidden(control)
        if hidden is not None and hidden.why is not Hiding.ARIA_HIDDEN:
            return False
        if not label.contains(control) and self.styles.of(label).display.startswith("inline-"):
            return False  # browsers take a box of its own beside the control for more than its name
        if not {"aria-label", "aria-labelledby"}.isdisjoint(control.attributes):
            return False
        return all(child is control for child in label.elements())

    def references(self, element: Element, attribute: str) -> list[Element]:
        """Return the elements an ID reference list names, in its order; ids that nothing has are left out."""
        value = element.attributes.get(attribute)
        if not value:
            return []
        ids = self.document.ids_around(element)
        return [ids[token] for token in value.split() if token in ids]

    def _survey(self, starts: list[Element]) -> set[Element]:
        """Note what is hidden, and the elements that need a closer look, from some elements down.

        Args:
            starts: elements in document order, none inside another.

        Returns:
            The elements that are hidden in another way than was noted before.
        """
        different: set[Element] = set()
        hidden, styles, noted = self._hidden, self.styles, self._noted
        modal = self.document.modal
        stack: list[tuple[Element, Hidden | None]] = [
            (start, self._passed_down_to(start)) for start in reversed(starts)
        ]
        while stack:
            element, inherited = stack.pop()
            style = styles.of(element)
            reason = inherited or self._hiding_subtree(element, style, modal)
            own = reason
            if own is None and style.visibility != "visible":
                own = Hidden(Hiding.NOT_VISIBLE, element)
            if own != hidden.get(element):
                different.add(element)
                if own is None:
                    del hidden[element]
                else:
                    hidden[element] = own
            for kind in _kinds_of(element):
                noted[kind][element] = None
            below = self._passed_down(element, style, reason)
            shown = summary_of(self.document, element) if _closes(element, below) else None
            for child in reversed(self.document.shown_in(element)):
                if isinstance(child, Element):
                    stack.append((child, None if child is shown else below))
        return different

    def _passed_down(self, element: Element, style: Style, reason: Hidden | None) -> Hidden | None:
        """Return why all that stands in an element is hidden, `reason` being why the element itself is with it."""
        if reason is not None:
            return reason
        if style.content_visibility == "hidden":
            return Hidden(Hiding.CONTENT_SKIPPED, element)
        if element.tag == "iframe" and element in self._hidden:
            return self._hidden[element]  # what is in a frame does not show where the frame does not
        if element.tag == "details" and not is_open(element) and not style.shows_closed:
            return Hidden(Hiding.CLOSED_DETAILS, element)
        return None

    def _passed_down_to(self, element: Element) -> Hidden | None:
        """Return why an element is hidden by what it stands in, None if it is not."""
        above = element.parent
        if above is None:
            return None
        around = self._hidden.get(above)
        reason = around if around is not None and around.why is not Hiding.NOT_VISIBLE else None
        below = self._passed_down(above, self.styles.of(above), reason)
        return None if _closes(above, below) and summary_of(self.document, above) is element else below

    def _relate(self) -> None:
        """Note what belongs together: labels and controls, areas and images, owners and what they own."""
        for label in self._noted["label"]:
            self._add_label(label)
        if self.document.flat:
            self._hide_unslotted()
        if self._noted["area"]:
            self._place_areas(list(self._noted["area"]), list(self._noted["map image"]))
        for owner in self._noted["owner"]:
            if self.hidden(owner) is None or self._hidden[owner].why is Hiding.NOT_VISIBLE:
                self._take(owner)

    # A document that changes

    def forget(self, removed: Iterable[Element]) -> None:
        """Forget elements that are no longer on the page."""
        for element in removed:
            self._roles.pop(element, None)
            self._hidden.pop(element, None)
            self._layout.pop(element, None)
            for noted in self._noted.values():
                noted.pop(element, None)

    def forget_roles(self, elements: Iterable[Element]) -> None:
        """Let the roles of elements be found again when they are next asked for."""
        for element in elements:
            self._roles.pop(element, None)

    def survey_again(self, starts: list[Element]) -> set[Element]:
        """Note again what is hidden from some elements down; return those that are hidden in another way now.

        Args:
            starts: elements in document order, none inside another.
        """
        self._missing = None
        for start in starts:
            for element in with_descendants(start):
                for noted in self._noted.values():
                    noted.pop(element, None)
        return self._survey(starts)

    def relate_again(self) -> set[Element]:
        """Note again which label labels what; return the controls that have other labels now."""
        before, self._labels = self._labels, {}
        for label in sorted(self._noted["label"], key=_order):
            self._add_label(label)
        controls = before.keys() | self._labels.keys()
        return {each for each in controls if before.get(each) != self._labels.get(each)}

    def lays_out_again(self, table: Element) -> bool:
        """Find again whether a table only lays out; return whether the answer is another one than before."""
        before = self._layout.pop(table, None)
        return before is not None and before is not self.lays_out(table)

    @property
    def moves_things(self) -> bool:
        """Whether anything stands in another place of the tree than of the document: owned, slotted, or an area."""
        return bool(self._noted["area"] or self._noted["owner"] or self.document.flat)

    @property
    def is_multilingual(self) -> bool:
        """Whether any part of the document states a language of its own."""
        return bool(self._noted["language"])

    def owner(self, element: Element) -> Element | None:
        """Return what an element stands in that was taken from its place, None for all others."""
        return self._owners.get(element)

    def referring(self) -> Iterable[Element]:
        """Return the elements whose objects depend on others that they name by id."""
        return self._noted["referring"]

    def _place_areas(self, areas: list[Element], images: list[Element]) -> None:
        """Put areas into the images that show them; they are as hidden as these."""
        placed = shown_areas(self.document, areas, images)
        for area in areas:
            image = placed.get(area)
            if image is not None:
                self._owners[area] = image
                self._owned.setdefault(image, []).append(area)
            hidden = Hidden(Hiding.NOT_ON_AN_IMAGE, area) if image is None else self.hidden(image)
            if hidden is not None:
                self._hidden.setdefault(area, hidden)

    def _hide_unslotted(self) -> None:
        """Hide the children of shadow hosts that no slot takes, and what stands in slots that take something."""
        shown = {node for nodes in self.document.flat.values() for node in nodes}
        for element in self.document.flat:
            for child in element.elements():
                if child not in shown:
                    inside = [child] if child.tag == "template" else with_descendants(child)
                    self._hidden.update(dict.fromkeys(inside, Hidden(Hiding.NOT_SLOTTED, child)))

    def _take(self, owner: Element) -> None:
        """Let an element own what its aria-owns names: each only once, and nothing that it stands in itself."""
        for target in self.references(owner, "aria-owns"):
            if target in self._owners or self._stands_in(owner, target):
                continue
            self._owners[target] = owner
            self._owned.setdefault(owner, []).append(target)
            self._note_height(owner, target)

    def _stands_in(self, element: Element, other: Element) -> bool:
        """Whether an element stands in another one, or too many owners would stand in each other if it owned it."""
        owners = self._heights.get(other, 0)
        above: Element | None = element
        while above is not None:
            if above is other:
                return True
            owners += above in self._owners
            if owners > _MOST_OWNERS:
                text = f"Elements that own each other by aria-owns are followed over {_MOST_OWNERS} owners only."
                self.document.problems.add(ProblemKind.LIMIT, text)
                return True
            above = self._around(above)
        return False

    def _note_height(self, owner: Element, target: Element) -> None:
        height = self._heights.get(target, 0) + 1
        above: Element | None = owner
        while above is not None and self._heights.get(above, 0) < height:
            self._heights[above] = height
            height += above in self._owners
            above = self._around(above)

    def _hiding_subtree(self, element: Element, style: Style, modal: Element | None) -> Hidden | None:
        if style.display == "none":
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
        if modal is not None and not modal.contains(element) and not element.contains(modal) and element.tag != "head":
            return Hidden(Hiding.INERT, modal)  # HTML §6.3.1, modal dialogs and inert subtrees
        return None

    def _add_label(self, label: Element) -> None:
        target = self.labelled_control(label)
        if target is not None:
            self._labels.setdefault(target, []).append(label)

    def labelled_control(self, label: Element) -> Element | None:
        """Return a label's labeled control (HTML §4.10.4), None if it has none."""
        return labelled_control(self.document, label)
