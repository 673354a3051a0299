"""What is seen of a page that is laid out and painted: contrast of text and of edges, targets, focus indicators."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from murvel.css.values.colours import Colour, is_large, ratio, ratio_words
from murvel.dom.document import Element


class TextKind(StrEnum):
    """Which text of an element it is."""

    TEXT = "text"
    VALUE = "value"
    PLACEHOLDER = "placeholder"


class State(StrEnum):
    """The state in which an element is seen."""

    REST = "at rest"
    HOVER = "under the pointer"
    FOCUS = "with the focus"


@dataclass(frozen=True, slots=True)
class Pair:
    """A colour, and the one behind or beside it."""

    colour: Colour
    behind: Colour

    @property
    def ratio(self) -> float:
        """Their contrast ratio."""
        return ratio(self.colour, self.behind)

    def words(self, between: str = "on") -> str:
        """Return the ratio and both colours in words, as "4.47:1, #777777 on #ffffff"."""
        return f"{ratio_words(self.ratio)}, {self.colour.hex} {between} {self.behind.hex}"


@dataclass(frozen=True, slots=True)
class Contrast:
    """Contrast at one place, measured from pixels.

    Attributes:
        typical: the pair in the middle of all that were measured.
        least: the pair at the 2nd percentile of contrast; on an even ground the same as `typical`.
    """

    typical: Pair
    least: Pair

    @property
    def is_even(self) -> bool:
        """Whether it is the same everywhere, as far as anybody sees."""
        return self.typical.ratio - self.least.ratio < _EVEN


_EVEN = 0.05


UNSEEN = "it is not in sight: covered, cut off or scrolled out of its box"
"""Why text that is in no picture of a page is not judged."""


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
        state: the state in which it is seen so; states other than at rest are given where they change its colours.
    """

    element: Element
    kind: TextKind
    pixels: float
    weight: int
    is_inactive: bool
    contrast: Contrast | None
    reason: str = ""
    state: State = State.REST

    @property
    def is_hindered(self) -> bool:
        """Whether it is in sight, and something keeps its contrast from being told."""
        return self.contrast is None and self.reason != UNSEEN

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


@dataclass(frozen=True, slots=True)
class IconSeen:
    """A control that only a drawing shows (WCAG 2.2, 1.4.11).

    Attributes:
        element: the control.
        is_inactive: whether it is disabled.
        contrast: of the drawing with its ground; None if the ground is not of one colour.
    """

    element: Element
    is_inactive: bool
    contrast: Pair | None


@dataclass(frozen=True, slots=True)
class ChartSeen:
    """A drawing with areas of colour.

    Attributes:
        element: the drawing.
        pairs: the colours of areas that meet with nothing clear between them, the least contrast first.
    """

    element: Element
    pairs: tuple[Pair, ...]


@dataclass(frozen=True, slots=True)
class ShownSeen:
    """What the styles of a page show at an element under the pointer.

    Attributes:
        element: what the pointer is on.
        shown: what it shows.
        is_on_focus: whether the focus shows it as well.
    """

    element: Element
    shown: Element
    is_on_focus: bool


class Movement(StrEnum):
    """What moves by itself."""

    ANIMATION = "animation"
    MARQUEE = "marquee"
    VIDEO = "video"
    PICTURE = "picture with frames"
    SCRIPT = "change by a script"
    COUNTDOWN = "countdown"


@dataclass(frozen=True, slots=True)
class MovingSeen:
    """Something that moves by itself for longer than five seconds (WCAG 2.2, 2.2.2), or counts down.

    Attributes:
        element: what moves.
        movement: how.
        seconds: for how long; None if it does not end.
        rests: whether it rests for people who prefer less motion.
        words: what a countdown says; empty for others.
    """

    element: Element
    movement: Movement
    seconds: float | None
    rests: bool
    words: str = ""


@dataclass(frozen=True, slots=True)
class MissingSeen:
    """Something that a page has in a wide window and not in a narrow one (WCAG 2.2, 1.4.10).

    Attributes:
        element: where it is on the narrow page, or the nearest around that.
        words: what is missing.
        openers: what is closed on the narrow page alone and may hold it, in words, as "“Menu”".
    """

    element: Element
    words: str
    openers: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class LimitSeen:
    """Something that happens when nobody does anything for a while (WCAG 2.2, 2.2.1).

    Attributes:
        element: what appears, None where it is no element of the page as it arrives.
        minutes: within how many minutes.
        words: what happens.
    """

    element: Element | None
    minutes: int
    words: str


@dataclass(frozen=True, slots=True)
class ClickSeen:
    """An element without a handler of its own that was clicked on a copy of the page without a network.

    Attributes:
        element: what was clicked.
        words: what the click did; empty where nothing was noticed.
    """

    element: Element
    words: str


@dataclass(frozen=True, slots=True)
class TabSeen:
    """The result of pressing Tab through a whole page.

    Attributes:
        missed: the stops of the tree that Tab did not come to; none if the presses ended early.
        kept: the stop that Tab does not leave; None if Tab left the page, or if that is unknown.
        is_freed: whether Tab leaves that stop after Escape.
    """

    missed: tuple[Element, ...]
    kept: Element | None
    is_freed: bool = False


class Lost(StrEnum):
    """What is not seen any more in forced colours."""

    INDICATOR = "the focus"
    EDGE = "the edge"
    ICON = "the icon"
    STATE = "the state"


@dataclass(frozen=True, slots=True)
class TargetSeen:
    """A target for pointers (WCAG 2.2, 2.5.8 and 2.5.5).

    Attributes:
        element: what is pressed.
        width, height: how far a pointer reaches it, in CSS pixels; labels and parts that stand out count.
        near: the nearest other target, where that is too near for a circle of 24 pixels around a small one.
        is_in_text: whether it stands in a sentence, whose lines decide its size.
        is_native: whether the browser decides its size.
    """

    element: Element
    width: float
    height: float
    near: Element | None
    is_in_text: bool
    is_native: bool

    def is_at_least(self, pixels: float) -> bool:
        """Whether it is as large in both directions."""
        return min(self.width, self.height) >= pixels - _ROUNDING

    @property
    def is_excepted(self) -> bool:
        """Whether size is not asked of it (2.5.8, exceptions inline and user agent control)."""
        return self.is_in_text or self.is_native


_ROUNDING = 0.5
TARGET_AA, TARGET_AAA = 24.0, 44.0
"""The sizes that WCAG 2.2 asks for, in CSS pixels (2.5.8, 2.5.5)."""


TAB_STAYS = 12
"""Presses to known stops after which Tab is known to stay in a part. A field for date and time takes seven presses."""


def is_kept(last: Collection[object], came: Sequence[object], others: int) -> bool:
    """Whether Tab is kept in a part of a page, and does not go round the whole of it.

    Args:
        last: the stops that the last `TAB_STAYS` presses came to.
        came: the stops that Tab came to, the first one first.
        others: how many more it came to the other way round.
    """
    if len(last) == 1:
        return len(came) + others > 1
    return came[0] not in last and len(last) <= max(3, len(came) / 2)


class Indication(StrEnum):
    """How the focus shows at a stop."""

    CLEAR = "clear"
    FAINT = "faint"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class IndicatorSeen:
    """How the focus shows at a Tab stop (WCAG 2.2, 2.4.7, 1.4.11 and 2.4.13).

    Attributes:
        element: the stop.
        indication: how it shows.
        area: how many square CSS pixels change with the focus.
        strong: how many of them change with a contrast of 3:1 or more.
        asked: the area that 2.4.13 asks for: a line of 2 pixels around the element.
        pair: the colours of most of what changes: with the focus, and without.
    """

    element: Element
    indication: Indication
    area: float
    strong: float
    asked: float
    pair: Pair | None


NARROW, ENLARGED = 320, 640
"""The width in CSS pixels at which a page must not scroll sideways (WCAG 2.2, 1.4.10), and what a usual window of 1280
has at 200 % (1.4.4)."""


@dataclass(slots=True)
class Seen:
    """What is seen of a page.

    Attributes:
        texts: all text that is shown.
        edges: the edges of fields.
        targets: what a pointer presses.
        indicators: how the focus shows.
        icons: controls that only a drawing shows.
        charts: drawings with areas of colour.
        shown: what the pointer shows by the page's styles.
        moving: what moves by itself.
        lost: what forced colours take away, and of what.
        cut: text that a box cuts off, and what part of it is lost.
        plain_links: links in text that only their colour sets apart, each with what it stands in.
        wide: what reaches beyond the window sideways, and by how many CSS pixels.
        width: how many CSS pixels of the page the window shows side by side.
        missing: what is there in a wide window; asked in windows of `ENLARGED` and less.
        limits: what happens when nobody does anything.
        tabbed: where Tab went on a copy of the page, None if that is not known.
        clicks: what was clicked where handlers may concern any element, and what that did.
    """

    texts: list[TextSeen] = field(default_factory=list)
    edges: list[EdgeSeen] = field(default_factory=list)
    targets: list[TargetSeen] = field(default_factory=list)
    indicators: list[IndicatorSeen] = field(default_factory=list)
    icons: list[IconSeen] = field(default_factory=list)
    charts: list[ChartSeen] = field(default_factory=list)
    shown: list[ShownSeen] = field(default_factory=list)
    moving: list[MovingSeen] = field(default_factory=list)
    lost: list[tuple[Element, Lost]] = field(default_factory=list)
    cut: list[tuple[Element, str]] = field(default_factory=list)
    plain_links: list[tuple[Element, Element]] = field(default_factory=list)
    wide: list[tuple[Element, float]] = field(default_factory=list)
    width: float = 0
    missing: list[MissingSeen] = field(default_factory=list)
    limits: list[LimitSeen] = field(default_factory=list)
    clicks: list[ClickSeen] = field(default_factory=list)
    tabbed: TabSeen | None = None
