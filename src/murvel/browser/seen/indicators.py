"""How the focus shows at Tab stops: a picture without, and one with the styles of focus, are compared."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from itertools import compress
from typing import NamedTuple

from PIL import Image, ImageChops

from murvel.css.values.colours import NON_TEXT, Colour, ratio
from murvel.stage.seen import Indication, Pair

Rect = Sequence[float]
"""Left, top, width and height in CSS pixels of the picture."""

_AROUND = 8.0
"""CSS pixels around a stop in which its indicator is looked for."""

_CHANGED = 6
"""A channel that changes by less is not seen to change."""

_MOST_GROUPS = 6
"""The most pictures that are taken apart for stops near each other."""

_LEAST_AREA = 4.0
"""Square CSS pixels that have to change for anything to be seen."""


class Compared(NamedTuple):
    """What changes in a picture with the focus; the attributes are those of `murvel.stage.seen.IndicatorSeen`."""

    indication: Indication
    area: float
    strong: float
    asked: float
    pair: Pair | None


def compared(without: Image.Image, with_focus: Image.Image, rect: Rect, scale: float) -> Compared:
    """Compare two pictures of a window around a stop.

    Args:
        without: the window without the focus.
        with_focus: the window with it.
        rect: the stop's box in the window, in CSS pixels.
        scale: pixels for one of CSS.
    """
    left, top, width, height = rect
    box = (
        max(int((left - _AROUND) * scale), 0),
        max(int((top - _AROUND) * scale), 0),
        min(int((left + width + _AROUND) * scale) + 1, without.width),
        min(int((top + height + _AROUND) * scale) + 1, without.height),
    )
    asked = 2 * 2 * (width + height)
    if box[0] >= box[2] or box[1] >= box[3]:
        return Compared(Indication.NONE, 0.0, 0.0, asked, None)
    before, after = without.crop(box), with_focus.crop(box)
    bounds = ImageChops.difference(before, after).getbbox()
    if bounds is None:
        return Compared(Indication.NONE, 0.0, 0.0, asked, None)
    counts = Counter(_changes(before.crop(bounds), after.crop(bounds)))
    area = strong = 0
    for (old, new), count in counts.items():
        if max(abs(a - b) for a, b in zip(old, new, strict=True)) >= _CHANGED:
            area += count
            strong += count if ratio(Colour(*new), Colour(*old)) >= NON_TEXT else 0
    (most, _), *_ = counts.most_common(1)
    pair = Pair(Colour(*most[1]), Colour(*most[0]))
    size = scale * scale
    return Compared(_indication(area / size, strong / size, asked), area / size, strong / size, asked, pair)


def groups_apart(numbers: Sequence[int], places: Mapping[int, Rect]) -> list[list[int]]:
    """Return stops in groups; within a group, no indicator reaches another stop.

    Args:
        numbers: the stops.
        places: where they are; one without a place, which may come into sight with the focus, is in the first group.
    """
    groups: list[list[int]] = [[]]
    for number in numbers:
        place = places.get(number)
        free = (
            group for group in groups if place is None or not any(_is_near(place, places.get(each)) for each in group)
        )
        group = next(free, None)
        if group is None:
            group = groups[-1] if len(groups) == _MOST_GROUPS else []
            if not group:
                groups.append(group)
        group.append(number)
    return [group for group in groups if group]


def _is_near(one: Rect, other: Rect | None) -> bool:
    return other is not None and all(
        one[at] < other[at] + other[at + 2] + 2 * _AROUND and other[at] < one[at] + one[at + 2] + 2 * _AROUND
        for at in (0, 1)
    )


def _indication(area: float, strong: float, asked: float) -> Indication:
    """How clear that is: half of a line of one pixel around the stop has to change with contrast."""
    if area < _LEAST_AREA:
        return Indication.NONE
    return Indication.CLEAR if strong >= asked / 4 else Indication.FAINT


def _changes(before: Image.Image, after: Image.Image) -> Iterator[tuple[tuple[int, ...], tuple[int, ...]]]:
    """Yield the pixels that differ between two pictures, before and after."""
    red, green, blue = ImageChops.difference(before, after).split()
    differs = ImageChops.lighter(ImageChops.lighter(red, green), blue).tobytes()
    return zip(compress(_pixels(before), differs), compress(_pixels(after), differs), strict=True)


def _pixels(picture: Image.Image) -> Iterator[tuple[int, ...]]:
    data = picture.tobytes()
    return zip(data[0::3], data[1::3], data[2::3], strict=True)
