"""What is drawn, out of a picture of a page: icons on their ground, areas of colour that meet. Nothing here knows a
browser."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from PIL import Image

from murvel.css.values.colours import NON_TEXT, Colour, ratio
from murvel.stage.seen import Pair

Rect = Sequence[float]
"""Left, top, width and height in CSS pixels of the picture."""

Box = tuple[int, int, int, int]

_NEAR = 6
"""Channels that differ by less are not seen to differ."""

_EVEN_GROUND = 0.8
"""The part of what is around an icon that has to be of one colour for that to be its ground."""

_LEAST_DRAWN = 4.0
"""Square CSS pixels from which on something is drawn at all."""

_STRONGEST = 0.1
"""The part of an icon that tells its colour: thin lines have soft edges."""

_LEAST_AREA = 0.01
_MOST_AREAS = 12
_ACROSS = 150
"""Places in each direction at which a chart is looked at."""

_APART = 3
"""CSS pixels from one area to the next: a line between them is part of neither."""

_OFTEN = 12
"""Places at which two areas have to meet."""

_MOST_PAIRS = 6


def icon_contrast(picture: Image.Image, rect: Rect, scale: float) -> tuple[Pair | None, bool]:
    """Return the contrast of what is drawn in a rectangle with its ground, and whether anything is drawn.

    Args:
        picture: the window.
        rect: where the icon is in it.
        scale: pixels for one of CSS.
    """
    box = _box(picture, rect, scale, 1.0)
    if box is None:
        return None, False
    around = picture.crop(box)
    width = around.width
    pixels = _pixels(around)
    ring = Counter(pixels[:width] + pixels[-width:] + pixels[0::width] + pixels[width - 1 :: width])
    ground = ring.most_common(1)[0][0]
    even = sum(count for each, count in ring.items() if _is_near(each, ground))
    if even < _EVEN_GROUND * ring.total():
        return None, True
    drawn = {each: count for each, count in Counter(pixels).items() if not _is_near(each, ground)}
    total = sum(drawn.values())
    if total < _LEAST_DRAWN * scale * scale:
        return None, False
    pairs = sorted((Pair(Colour(*each), Colour(*ground)) for each in drawn), key=lambda pair: -pair.ratio)
    seen = 0
    for pair in pairs:
        seen += drawn[tuple(pair.colour)]
        if seen >= _STRONGEST * total:
            return pair, True
    return None, True


def meeting_areas(picture: Image.Image, rect: Rect, scale: float) -> tuple[Pair, ...]:
    """Return the colours of areas that meet in a drawing with less than 3:1, and with no clear line between them.

    Args:
        picture: the window.
        rect: where the drawing is in it.
        scale: pixels for one of CSS.
    """
    box = _box(picture, rect, scale, 0.0)
    if box is None:
        return ()
    drawing = picture.crop(box)
    width, height = drawing.size
    pixels = _pixels(drawing)
    common = Counter(pixels).most_common(_MOST_AREAS)
    areas = {each for each, count in common if count >= _LEAST_AREA * len(pixels)}
    if len(areas) < 2:
        return ()
    meet: Counter[tuple[tuple[int, ...], tuple[int, ...]]] = Counter()
    apart = round(_APART * scale)
    for y in range(2, height - apart - 2, max(1, height // _ACROSS)):
        for x in range(2, width - apart - 2, max(1, width // _ACROSS)):
            at = y * width + x
            if pixels[at] in areas:
                for step in (1, width):
                    pair = _meeting(pixels, at, step, apart)
                    if pair is not None and pair[1] in areas:
                        meet[min(pair), max(pair)] += 1
    found = [Pair(Colour(*one), Colour(*other)) for (one, other), times in meet.items() if times >= _OFTEN]
    weak = sorted((pair for pair in found if pair.ratio < NON_TEXT), key=lambda pair: pair.ratio)
    return tuple(weak[:_MOST_PAIRS])


def _meeting(
    pixels: list[tuple[int, ...]], at: int, step: int, apart: int
) -> tuple[tuple[int, ...], tuple[int, ...]] | None:
    """The colours of two areas on either side of a place; None if there is one only, or a clear line between them."""
    one, other = pixels[at], pixels[at + step * apart]
    if one == other or pixels[at - step] != one or pixels[at + step * (apart + 1)] != other:
        return None
    first, last = Colour(*one), Colour(*other)
    for between in range(1, apart):
        line = Colour(*pixels[at + step * between])
        if min(ratio(line, first), ratio(line, last)) >= NON_TEXT:
            return None
    return one, other


def _box(picture: Image.Image, rect: Rect, scale: float, more: float) -> Box | None:
    """The pixels of a rectangle and some more around it; None if they are not all in the picture."""
    left, top, width, height = rect
    box = (
        round((left - more) * scale),
        round((top - more) * scale),
        round((left + width + more) * scale),
        round((top + height + more) * scale),
    )
    is_in = box[0] >= 0 and box[1] >= 0 and box[2] <= picture.width and box[3] <= picture.height
    return box if is_in and box[2] - box[0] > 2 and box[3] - box[1] > 2 else None


def _pixels(picture: Image.Image) -> list[tuple[int, ...]]:
    data = picture.tobytes()
    return list(zip(data[0::3], data[1::3], data[2::3], strict=True))


def _is_near(one: tuple[int, ...], other: tuple[int, ...]) -> bool:
    return all(abs(a - b) < _NEAR for a, b in zip(one, other, strict=True))
