"""Colours out of pictures of a page: what is behind text, and the text itself.

A picture is taken of the page without its text, one with a line in the text's colour through each text, and one with
a line in a colour of ours, which shows where the text is in sight at all. Nothing here knows a browser.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from typing import NamedTuple

from PIL import Image, ImageChops

from murvel.css.values.colours import Colour, Paint
from murvel.stage.seen import Contrast, Pair

_ACROSS, _DOWN = 24, (0.35, 0.5, 0.65)
"""Where a rectangle of text is looked at: so many places on a line, at these heights; a line as high as the type
covers them."""

_INSET = 1.5
"""CSS pixels at the ends of a line of text that are not looked at: they are covered in part."""

_NEAR = 3
"""Channels that differ by less are the same: painting rounds."""

_ENOUGH = 3
"""The least number of pixels that a text needs to be judged."""

_WORST_LEFT_OUT = 0.02
_MOST_MOVING = 0.1
"""The part of a text behind which something may move without making its contrast unknown."""


PROBE = Colour(255, 0, 255)
"""The colour of the lines of `Pictures.probe`, as `measuring.js` paints them."""

_LIKE_PROBE = 64
"""Channels that differ by less from the probe's may hide a line that opacity lets through."""

Rect = Sequence[float]
"""Left, top, width and height in CSS pixels of the page."""


def has_near(picture: Image.Image, colour: Colour) -> bool:
    """Whether any pixel of a picture is near a colour."""
    red, green, blue = ImageChops.difference(picture, Image.new("RGB", picture.size, tuple(colour))).split()
    least, _ = ImageChops.lighter(ImageChops.lighter(red, green), blue).getextrema()
    return isinstance(least, int | float) and least < _LIKE_PROBE


class Pictures(NamedTuple):
    """Pictures of one part of a page.

    Attributes:
        behind: without text.
        text: with a line through each text in its own colour, made opaque.
        again: without text once more; what differs from `behind` moves.
        probes: with lines in colours of ours instead of the text: in one, or in two where something of the page is
            like the first; none if they were not taken.
        left, top: where the part begins on the page, in CSS pixels.
        scale: pixels of the pictures for one of CSS.
    """

    behind: Image.Image
    text: Image.Image
    again: Image.Image
    probes: tuple[Image.Image, ...]
    left: float
    top: float
    scale: float

    def holds(self, rect: Rect) -> bool:
        """Whether all of a rectangle is in them."""
        left, top, width, height = rect
        x, y = (left - self.left) * self.scale, (top - self.top) * self.scale
        right, bottom = x + width * self.scale, y + height * self.scale
        return x >= 0 and y >= 0 and right <= self.behind.width and bottom <= self.behind.height

    def at(self, left: float, top: float) -> tuple[int, int]:
        """Return the pixel at a place of the page."""
        x, y = int((left - self.left) * self.scale), int((top - self.top) * self.scale)
        return min(max(x, 0), self.behind.width - 1), min(max(y, 0), self.behind.height - 1)


class Looked(NamedTuple):
    """What came of looking at a text.

    Attributes:
        contrast: its contrast, None if that cannot be told here.
        moves: whether it cannot be told since what is behind it moves.
        needs_probes: whether it is not told without probes: somewhere the text looks like what is behind it, or is
            covered.
    """

    contrast: Contrast | None
    moves: bool = False
    needs_probes: bool = False


class Overlaps:
    """Which texts lie in the same place; there, a picture does not tell whose colour is seen.

    Args:
        rects: the rectangles of all texts, each with a number of its own.
    """

    def __init__(self, rects: Iterable[tuple[int, Rect]]) -> None:
        self._by_band: dict[int, list[tuple[int, Rect]]] = defaultdict(list)
        for owner, rect in rects:
            for band in self._bands(rect):
                self._by_band[band].append((owner, rect))

    def _bands(self, rect: Rect) -> range:
        return range(int(rect[1] // _BAND), int((rect[1] + rect[3]) // _BAND) + 1)

    def with_(self, owner: int, rect: Rect) -> list[Rect]:
        """Return the rectangles of other texts that lie over one."""
        left, top, width, height = rect
        near = {id(each): (other, each) for band in self._bands(rect) for other, each in self._by_band[band]}
        return [
            each
            for other, each in near.values()
            if other != owner
            and each[0] < left + width
            and left < each[0] + each[2]
            and each[1] < top + height
            and top < each[1] + each[3]
        ]


_BAND = 50.0
"""The height of the bands of a page in which rectangles are sought, in CSS pixels."""


def text_contrast(pictures: Pictures, rects: Sequence[Rect], others: Sequence[Rect], alpha: float) -> Looked:
    """Return the contrast of text with what is behind it.

    Args:
        pictures: of the part that the text is in.
        rects: where the text is.
        others: where other text lies over it.
        alpha: how much the text's own colour covers.
    """
    even = [_even_pair(pictures, rect, alpha) for rect in rects] if not others else [None]
    known = [pair for pair in even if pair is not None]
    if len(known) == len(even):
        return Looked(contrast_of(known))
    pairs: list[Pair] = []
    places = moving = 0
    for place in _places(pictures, rects, others):
        places += 1
        behind, text = _pixel(pictures.behind, place), _pixel(pictures.text, place)
        if not _is_same(behind, _pixel(pictures.again, place)):
            moving += 1
        elif not _is_same(behind, text) or any(not _is_same(behind, _pixel(each, place)) for each in pictures.probes):
            pairs.append(Pair(Paint(text, alpha).over(behind), behind))
        elif not pictures.probes:
            return Looked(None, needs_probes=True)
    if moving > _MOST_MOVING * places or len(pairs) < _ENOUGH:
        return Looked(None, moves=moving > _MOST_MOVING * places)
    return Looked(contrast_of(pairs))


def _even_pair(pictures: Pictures, rect: Rect, alpha: float) -> Pair | None:
    """The colours of a rectangle in which all is of one colour, behind the text and in it; None if it is not so."""
    left, top, width, height = rect
    inset = min(_INSET, width / 4)
    x, y = pictures.at(left + inset, top + _DOWN[0] * height)
    right, bottom = pictures.at(left + width - inset, top + _DOWN[-1] * height)
    box = (x, y, max(right, x + 1), max(bottom, y + 1))
    behind, text = _one_colour(pictures.behind, box), _one_colour(pictures.text, box)
    again = behind if pictures.again is pictures.behind else _one_colour(pictures.again, box)
    if behind is None or again is None or text is None or not _is_same(behind, again):
        return None
    if _is_same(behind, text):
        probes = [_one_colour(each, box) for each in pictures.probes]
        if not any(each is not None and not _is_same(behind, each) for each in probes):
            return None
    return Pair(Paint(text, alpha).over(behind), behind)


def _one_colour(picture: Image.Image, box: tuple[int, int, int, int]) -> Colour | None:
    bounds = picture.crop(box).getextrema()
    values = [each for each in bounds if isinstance(each, tuple)]
    if any(high != low for low, high in values):
        return None
    return Colour(*(int(low) for low, _ in values[:3]))


def value_contrast(pictures: Pictures, rects: Sequence[Rect], others: Sequence[Rect], paint: Paint) -> Looked:
    """Return the contrast of a field's value, whose colour is known, with what is behind it."""
    places = list(_places(pictures, rects, others))
    behind = [one for place in places if _is_same(one := _pixel(pictures.behind, place), _pixel(pictures.again, place))]
    moving = len(places) - len(behind)
    if moving > _MOST_MOVING * len(places) or len(behind) < _ENOUGH:
        return Looked(None, moves=moving > _MOST_MOVING * len(places))
    return Looked(contrast_of([Pair(paint.over(each), each) for each in behind]))


def contrast_of(pairs: list[Pair]) -> Contrast:
    """Return the typical and the least contrast of pairs."""
    ordered = sorted(pairs, key=lambda pair: pair.ratio)
    return Contrast(ordered[len(ordered) // 2], ordered[int(len(ordered) * _WORST_LEFT_OUT)])


def edge_contrast(picture: Pictures, rect: Rect, borders: Sequence[float], *, is_round: bool = False) -> Pair | None:
    """Return the pair of colours that shows most of a field's edge: its border or ground, and what is beside it.

    Args:
        picture: the pictures; the one without text is looked at.
        rect: the field's box.
        borders: the widths of its borders: top, right, bottom, left.
        is_round: whether its corners are, so far that only the middle of a side is its edge.
    """
    left, top, width, height = rect
    best: Pair | None = None
    for side, border in enumerate(borders):
        pairs = []
        for along in (0.5,) if is_round else (step / _ACROSS for step in range(1, _ACROSS)):
            x, y = (
                (left + along * width, top), (left + width, top + along * height), (left + along * width, top + height),
                (left, top + along * height),
            )[side]  # fmt: skip
            out_x, out_y = ((0, -1), (1, 0), (0, 1), (-1, 0))[side]
            reach = max(border / 2, 0.5)
            outside = _pixel(picture.behind, picture.at(x + 3 * out_x, y + 3 * out_y))
            line = _pixel(picture.behind, picture.at(x - reach * out_x, y - reach * out_y))
            inside = _pixel(picture.behind, picture.at(x - (border + 2) * out_x, y - (border + 2) * out_y))
            options = (Pair(line, outside), Pair(inside, outside), Pair(line, inside))
            pairs.append(max(options, key=lambda pair: pair.ratio))
        typical = contrast_of(pairs).typical
        if best is None or typical.ratio > best.ratio:
            best = typical
    return best


def _places(pictures: Pictures, rects: Sequence[Rect], others: Sequence[Rect]) -> Iterator[tuple[int, int]]:
    for left, top, width, height in rects:
        inset = min(_INSET, width / 4)
        for down in _DOWN:
            for step in range(_ACROSS):
                along = (step + 0.5) / _ACROSS * (width - 2 * inset)
                x, y = left + inset + along, top + down * height
                if not any(each[0] <= x <= each[0] + each[2] and each[1] <= y <= each[1] + each[3] for each in others):
                    yield pictures.at(x, y)


def _pixel(picture: Image.Image, place: tuple[int, int]) -> Colour:
    found = picture.getpixel(place)
    assert isinstance(found, tuple)
    return Colour(*(int(value) for value in found[:3]))


def _is_same(one: Colour, other: Colour) -> bool:
    return all(abs(a - b) < _NEAR for a, b in zip(one, other, strict=True))
