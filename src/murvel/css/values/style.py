"""What style sheets say of elements: computed values that change speech, and looks that checks ask for.

`Styles` is what the tree, the reader and the checks know of CSS. The cascade here fills it from style sheets; a
browser's computed styles fill it as well.
"""

from __future__ import annotations

from collections.abc import Mapping, Set
from dataclasses import dataclass
from typing import NamedTuple, Protocol

from murvel.css.generated.content import NO_LISTS, Generated, Lists
from murvel.dom.document import Element

_INLINE = frozenset(
    "inline contents ruby ruby-base ruby-text inline-block inline-flex inline-grid inline-table math".split()
)


@dataclass(frozen=True, slots=True)
class Style:
    """The computed values that decide what is exposed or said, in CSS's own keywords.

    `display` is what the element's box becomes: items, floats and absolute boxes are blocks (CSS Display 3 §2.7).
    `holds_items` says that boxes in it are flex or grid items. `is_out_of_flow` says that it is a float or absolute.
    `before` and `after` are the boxes that ::before and ::after add, or None if there are none.
    `hidden_by` names the rule that set `display: none` or `visibility`, where an author's rule did.
    `lists` says what concerns markers, counters and quotation marks. `marker` is what marks a list item, where that
    says more than that it is one. `shows_closed` says that a details element shows its content though it is closed.
    `replaced` is the text alternative of the image that stands in place of all content (CSS Content 3 §2), None if the
    content is shown.
    """

    display: str = "inline"
    visibility: str = "visible"
    white_space: str = "normal"
    text_transform: str = "none"
    content_visibility: str = "visible"
    holds_items: bool = False
    is_out_of_flow: bool = False
    before: Generated | None = None
    after: Generated | None = None
    hidden_by: str | None = None
    lists: Lists = NO_LISTS
    marker: str = ""
    shows_closed: bool = False
    replaced: str | None = None

    @property
    def is_inline(self) -> bool:
        """Whether the box stands in a line of text, so that nothing separates it from its neighbours."""
        return self.display in _INLINE


INITIAL_STYLE = Style()
"""The style of an element that nothing is known of."""


SIDES = ("top", "right", "bottom", "left")


class Decoration(NamedTuple):
    """What a part of a table looks like.

    Attributes:
        borders: the sides that have a border, of `SIDES`.
        background: its background colour, equal texts for equal colours; empty if it is transparent.
        has_spacing: whether cells stand apart from each other (`border-spacing`, inherited).
        collapses: whether neighbours share their borders (`border-collapse`, inherited).
        hides_empty: whether empty cells are hidden (`empty-cells`, inherited).
    """

    borders: frozenset[str] = frozenset()
    background: str = ""
    has_spacing: bool = True
    collapses: bool = False
    hides_empty: bool = False


PLAIN = Decoration()
"""What nothing is said of."""


class Looks(Protocol):
    """What an element looks like, as far as checks ask for it: size, weight, pointer, place."""

    def of(self, element: Element) -> Mapping[str, str]:
        """Return the declared values of an element by property, in lower case."""

    def with_property(self, name: str) -> Set[Element]:
        """Return the elements for which a rule declares a property."""

    @property
    def shown_by_pointer(self) -> Set[Element]:
        """The elements that are shown while something is pointed at."""

    @property
    def shown_by_focus(self) -> Set[Element]:
        """The elements that are shown while something has the focus."""


class Styles(Protocol):
    """The styles of a document's elements."""

    def of(self, element: Element) -> Style:
        """Return the computed style of an element."""

    @property
    def looks(self) -> Looks:
        """What elements look like; worked out when it is first asked for."""

    def decoration(self, element: Element) -> Decoration:
        """Return what a table, row or cell looks like; worked out when it is first asked for."""

    def matching(self, selector: str) -> list[Element]:
        """Return the elements that a selector matches, in document order.

        Raises:
            SelectorError: it is not understood.
        """


class NoStyles:
    """The styles of what came without any: every element has the initial values, and no looks are known."""

    def of(self, element: Element) -> Style:
        """Return the initial style."""
        return INITIAL_STYLE

    @property
    def looks(self) -> Looks:
        """No looks are known."""
        return _NO_LOOKS

    def decoration(self, element: Element) -> Decoration:
        """Nothing is said of any."""
        return PLAIN

    def matching(self, selector: str) -> list[Element]:
        """Nothing is matched: there is no markup."""
        return []


class _NoLooks:
    shown_by_pointer: Set[Element] = frozenset()
    shown_by_focus: Set[Element] = frozenset()

    def of(self, element: Element) -> Mapping[str, str]:
        return {}

    def with_property(self, name: str) -> Set[Element]:
        return frozenset()


_NO_LOOKS = _NoLooks()
