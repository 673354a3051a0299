"""What is seen of a page that is laid out and painted: contrast of text and of edges, targets, focus indicators."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum

from murvel.page.colours import Colour, is_large, ratio
from murvel.page.document import Element


class TextKind(StrEnum):
    """Which text of an element it is."""

    TEXT = "text"
    VALUE = "value"
    PLACEHOLDER = "placeholder"


@dataclass(frozen=True, slots=True)
class Pair:
    """A colour, and the one behind or beside it."""

    colour: Colour
    behind: Colour

    @property
    def ratio(self) -> float:
        """Their contrast ratio."""
        return ratio(self.colour, self.behind)


@dataclass(frozen=True, slots=True)
class Contrast:
    """Contrast at one place, measured from pixels.

    Attributes:
        typical: the pair in the middle of all that were measured.
        least: the pair with the least contrast, but for the worst fiftieth; on an even ground the same.
    """

    typical: Pair
    least: Pair

    @property
    def is_even(self) -> bool:
        """Whether it is the same everywhere, as far as anybody sees."""
        return self.typical.ratio - self.least.ratio < _EVEN


_EVEN = 0.05


@dataclass(frozen=True, slots=True)
class TextSeen:
    """Text as it is seen.

    Attributes:
        element: the element it stands in.
        kind: which text of that it is.
        pixels, weight: the size in CSS pixels and the weight of its font.
        is_inactive: whether it belongs to a control that is disabled; WCAG asks nothing of that.
        contrast: its contrast, None if that cannot be told.
        reason: why it cannot be told, as a clause; empty if it can.
    """

    element: Element
    kind: TextKind
    pixels: float
    weight: int
    is_inactive: bool
    contrast: Contrast | None
    reason: str = ""

    @property
    def is_large(self) -> bool:
        """Whether it counts as large text (WCAG 2.2, large scale)."""
        return is_large(self.pixels, self.weight)


@dataclass(frozen=True, slots=True)
class EdgeSeen:
    """The edge of a field as it is seen.

    Attributes:
        element: the field.
        is_inactive: whether it is disabled.
        contrast: of its border, or of its ground where it has none, with what is beside it; None if it cannot be told.
    """

    element: Element
    is_inactive: bool
    contrast: Pair | None


@dataclass(slots=True)
class Seen:
    """What is seen of a page.

    Attributes:
        texts: all text that is shown.
        edges: the edges of fields.
    """

    texts: list[TextSeen] = field(default_factory=list)
    edges: list[EdgeSeen] = field(default_factory=list)
