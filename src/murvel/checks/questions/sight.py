"""What is seen, as far as style sheets say: the size and weight of type, and what keeps something out of sight.

No boxes are laid out here. What is told apart is what authors do on purpose: type that stands out, and the usual ways
to put text out of sight and leave it to listeners. Colours count where an element states them itself; what a style
sheet makes of them takes a browser.
"""

from __future__ import annotations

from collections.abc import Mapping
from itertools import islice
from typing import NamedTuple

from murvel.css.looks.looks import FONT_SIZES
from murvel.css.tokens import component_values
from murvel.css.values.colours import same_paint
from murvel.css.values.lengths import length
from murvel.css.values.style import Looks
from murvel.dom.document import Element, Text
from murvel.patterns import pattern

_WIDTH, _HEIGHT = 1280.0, 800.0
_DEFAULT = 16.0
_BOLD_TAGS = frozenset("b strong h1 h2 h3 h4 h5 h6 th".split())
_SIZES_BY_TAG = {"h1": 2.0, "h2": 1.5, "h3": 1.17, "h5": 0.83, "h6": 0.67, "big": 1.2, "small": 0.83}
_RELATIVE = {"larger": 1.2, "smaller": 1 / 1.2}
_UNIT = pattern(r"(-?\d*\.?\d+)(r?em|%)")
_BOLD = 600

_OVERFLOWS = ("overflow", "overflow-x", "overflow-y")

_FAR = -500.0
"""Pixels to the left of or above the page from which nothing is in sight."""

_CLIPPED = pattern(r"rect\((?:[01](?:px)?[ ,]*){4}\)")
_SHAPE = pattern(r"(inset|circle|ellipse|polygon)\(([^()]*)\)")
_ZERO = pattern(r"^[-+]?0+(?:\.0+)?(?:[a-z]+|%)?$")
_ALL = 100.0
_SCALED = pattern(r"scale(?:x|y|3d)?\(0(?:\.0+)?[,)]")

_CANVAS = "#ffffff"
"""The colour behind a page that states none (CSS Backgrounds 3 §2.11.2)."""

CUT_OFF = "cut off by a box around it"
_OFF_SCREEN, _NO_SIZE = "placed off the screen", "a box of no size"
_NO_TYPE, NO_CONTRAST = "type of size 0", "text in the colour of its background"
_UNDONE_BY = {_NO_TYPE: "font-size", NO_CONTRAST: "color"}
"""What an element inside may undo for itself, by the property that does so."""


_FEW_INSIDE = 30
_PICTURES = frozenset("canvas iframe img object picture svg video".split())

DRAWN_OVER = frozenset("input select textarea iframe".split())
"""Elements that are often put out of sight for others that are drawn in their place."""


class _Clip(NamedTuple):
    """What boxes leave of the page, in its pixels."""

    left: float
    top: float
    right: float
    bottom: float

    def within(self, other: _Clip) -> _Clip:
        """Return what is in both."""
        return _Clip(
            max(self.left, other.left), max(self.top, other.top),
            min(self.right, other.right), min(self.bottom, other.bottom),
        )  # fmt: skip

    @property
    def is_nothing(self) -> bool:
        """Whether no more than a line of one pixel is left."""
        return self.right - self.left <= 1 or self.bottom - self.top <= 1


class Font(NamedTuple):
    """How text is set: its size in CSS pixels, and its weight, 400 for regular."""

    size: float
    weight: float

    @property
    def is_bold(self) -> bool:
        """Whether it is set in bold."""
        return self.weight >= _BOLD


class Sight:
    """What is seen of a page's elements."""

    def __init__(self, looks: Looks) -> None:
        self._looks = looks
        self._fonts: dict[Element | None, Font] = {None: Font(_DEFAULT, 400.0)}
        self._unseen: dict[Element | None, str] = {None: ""}
        self._clips: dict[Element | None, _Clip | None] = {None: None}
        """What is left in sight of what an element holds, None for all of it."""
        self._root = _DEFAULT
        self._grounds: dict[Element | None, str | None] = {None: same_paint(_CANVAS)}
        self._pictures: dict[Element, bool] = {}

    def font(self, element: Element) -> Font:
        """Return how the text directly in an element is set."""
        for each in _down_to(element, self._fonts):
            around = self._fonts[each.parent]
            looks = self._looks.of(each)
            size = self._size(looks.get("font-size"), around.size, each)
            if each.parent is None:
                self._root = size
            self._fonts[each] = Font(size, _weight(looks.get("font-weight"), around.weight, each))
        return self._fonts[element]

    def _size(self, declared: str | None, around: float, element: Element) -> float:
        if declared is None or declared in ("inherit", "unset", "revert"):
            return around * _SIZES_BY_TAG.get(element.tag, 1.0) if declared != "inherit" else around
        if declared in FONT_SIZES:
            return FONT_SIZES[declared]
        if declared in _RELATIVE:
            return around * _RELATIVE[declared]
        return self._pixels(declared, around) or around

    def _pixels(self, text: str, around: float) -> float | None:
        """A length in pixels; em and percent are parts of what is around, rem of the page's own type."""
        units = {"rem": self._root, "em": around, "%": around / 100}
        in_pixels = _UNIT.sub(lambda found: f"{float(found[1]) * units[found[2]]:.3f}px", text)
        tokens = [each for each in component_values(in_pixels) if each.type != "whitespace"]
        return length(tokens[0], _WIDTH, _HEIGHT) if len(tokens) == 1 else None

    def unseen(self, element: Element) -> str:
        """Return what keeps an element out of sight, in words; empty if nothing does as far as is known."""
        for each in _down_to(element, self._unseen):
            around, looks = self._unseen[each.parent], self._looks.of(each)
            if around == CUT_OFF or (around and _UNDONE_BY.get(around) in looks):
                around = ""
            box, left = each.box, self._clips[each.parent]
            if left is not None:
                left = self._clip_around(each, looks)
            place = _Clip(box.left, box.top, box.left + box.width, box.top + box.height) if box is not None else None
            is_cut = place is not None and left is not None and not place.is_nothing and place.within(left).is_nothing
            self._unseen[each] = around or self._why_unseen(each) or (CUT_OFF if is_cut else "")
            if place is not None and each.parent is not None and each.tag != "body" and _cuts(looks):
                left = place.within(left) if left is not None else place
            self._clips[each] = left
        return self._unseen[element]

    def _clip_around(self, element: Element, looks: Mapping[str, str]) -> _Clip | None:
        """What boxes around an element leave of it: those that it is positioned in (CSS Overflow 3 §3.1)."""
        around = element.parent
        if looks.get("position") == "fixed":
            return None
        if looks.get("position") == "absolute":
            while around is not None and not _is_positioned(self._looks.of(around)):
                around = around.parent
        return self._clips[around]

    def _why_unseen(self, element: Element) -> str:
        looks, box = self._looks.of(element), element.box
        is_beyond = box is not None and box.width and (box.left + box.width <= 0 or box.top + box.height <= 0)
        if is_beyond and not any(_scrolls(self._looks.of(each)) for each in element.ancestors()):
            return _OFF_SCREEN
        if box is not None and min(box.width, box.height) <= 1 and _cuts(looks):
            return _NO_SIZE
        if not looks:
            return ""
        if looks.get("opacity", "1").rstrip("%") in ("0", "0.0", "0.00"):
            return "opacity 0"
        transform = f"{looks.get('transform', '')} scale({looks.get('scale', '1')})"
        if _SCALED.search(transform):
            return "scaled to nothing"
        placed = looks.get("position") in ("absolute", "fixed")
        if placed and any(self._is_far(looks.get(side)) for side in ("left", "top", "right")):
            return _OFF_SCREEN
        if self._is_far(looks.get("text-indent")):
            return "text-indent off the screen"
        if (placed and _CLIPPED.search(looks.get("clip", ""))) or _leaves_nothing(looks.get("clip-path", "")):
            return "clipped away"
        if _is_nothing(looks) and _cuts(looks):
            return _NO_SIZE
        if looks.get("font-size") in ("0", "0px"):
            return _NO_TYPE
        colour = looks.get("color", "")
        if colour and (not same_paint(colour) or self._is_on_its_colour(element, colour)):
            return NO_CONTRAST
        return ""

    def _is_on_its_colour(self, element: Element, colour: str) -> bool:
        """Whether text of a colour stands on the same one; not where a picture may lie between them."""
        paint = same_paint(colour)
        if paint == _painted(self._looks.of(element)):
            return True
        return paint == self._ground(element) and not any(self._holds_picture(each) for each in element.ancestors())

    def _ground(self, element: Element) -> str | None:
        """The paint of the background around an element; None where boxes lie over one another or images do."""
        for each in _down_to(element, self._grounds):
            looks = self._looks.of(each)
            own = _painted(looks)
            if own == "" and "background" in each.attributes.get("style", ""):
                own = None  # by a variable that no sheet sets as far as is read
            if own or own is None:
                self._grounds[each] = own
            else:
                self._grounds[each] = None if _is_positioned(looks) else self._grounds[each.parent]
        return self._grounds[element]

    def _holds_picture(self, around: Element) -> bool:
        """Whether something directly in an element may be drawn behind the text beside it."""
        if around not in self._pictures:
            self._pictures[around] = any(
                each.tag in _PICTURES or (_is_positioned(self._looks.of(each)) and self._is_painted(each))
                for each in around.elements()
            )
        return self._pictures[around]

    def _is_painted(self, element: Element) -> bool:
        """Whether a box shows more than text: a background, or a picture near its beginning."""
        if _painted(self._looks.of(element)) != "":
            return True
        inside = islice(element.descendants(), _FEW_INSIDE)
        return any(isinstance(each, Element) and each.tag in _PICTURES for each in inside)

    def _is_far(self, value: str | None) -> bool:
        pixels = self._pixels(value, _DEFAULT) if value else None
        return pixels is not None and pixels <= _FAR


def _down_to(element: Element, known: Mapping[Element | None, object]) -> list[Element]:
    """The elements from the first that is not known down to one, the outermost first."""
    missing: list[Element] = []
    each: Element | None = element
    while each is not None and each not in known:
        missing.append(each)
        each = each.parent
    return missing[::-1]


def _weight(declared: str | None, around: float, element: Element) -> float:
    if declared is None:
        return max(around, 700.0) if element.tag in _BOLD_TAGS else around
    if declared.isdecimal():
        return float(declared)
    return {"bold": 700.0, "bolder": 700.0, "lighter": 300.0, "normal": 400.0}.get(declared, around)


def _leaves_nothing(shape: str) -> bool:
    """Whether a clip-path leaves no area (CSS Shapes 1 §3): insets that meet, a radius of 0, corners on one line."""
    found = _SHAPE.search(shape)
    if found is None:
        return False
    name, inside = found.groups()
    if name in ("circle", "ellipse"):
        return bool(_ZERO.match(inside.partition("at")[0].strip()))
    if name == "polygon":
        corners = [corner.split() for corner in inside.split(",") if len(corner.split()) == 2]
        return bool(corners) and any(len({_ZERO.sub("0", corner[side]) for corner in corners}) == 1 for side in (0, 1))
    sides = [each.rstrip("%") for each in inside.partition("round")[0].split() if _ZERO.match(each) or each[-1:] == "%"]
    try:
        top, right, bottom, left = (float(_ZERO.sub("0", each)) for each in _four(sides))
    except ValueError:
        return False
    return top + bottom >= _ALL or left + right >= _ALL


def _four(sides: list[str]) -> tuple[str, ...]:
    """One to four values of a shorthand as four (CSS Box 4 §4); none for none."""
    match sides:
        case [every]:
            return every, every, every, every
        case [across, along]:
            return across, along, across, along
        case [top, along, bottom]:
            return top, along, bottom, along
    return tuple(sides)


def _is_nothing(looks: Mapping[str, str]) -> bool:
    return any(looks.get(side) in ("0", "0px", "1px") for side in ("width", "height", "max-width", "max-height"))


def _cuts(looks: Mapping[str, str]) -> bool:
    return any(looks.get(name, "").partition(" ")[0] in ("hidden", "clip") for name in _OVERFLOWS)


def _is_positioned(looks: Mapping[str, str]) -> bool:
    return looks.get("position", "static") != "static" or looks.get("transform", "none") != "none"


def _scrolls(looks: Mapping[str, str]) -> bool:
    return any(looks.get(name, "").partition(" ")[0] in ("auto", "scroll") for name in _OVERFLOWS)


def _painted(looks: Mapping[str, str]) -> str | None:
    """The paint of an element's own background, empty for none; None where that takes a browser.

    An image or a gradient takes one, and so does a shorthand beside a colour: which was stated last is not known.
    """
    stated = {same_paint(looks[name]) for name in ("background-color", "background") if looks.get(name)} or {""}
    image = looks.get("background-image", "none")
    is_drawn = image != "none" or any(word in looks.get("background", "") for word in ("url(", "gradient("))
    return None if is_drawn or len(stated) > 1 else stated.pop()


def first_text(element: Element) -> Element | None:
    """Return the element that the first text in an element stands in, None if it has no text."""
    for node in element.descendants():
        if isinstance(node, Text) and node.data.strip():
            return node.parent
    return None
