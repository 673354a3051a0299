"""A picture of one element, kept as evidence."""

from __future__ import annotations

import base64

from murvel.browser.tab import Tab

_AROUND = 12.0
"""CSS pixels around an element that are in its picture: an outline, and what it stands beside."""

_MOST_WIDE, _MOST_HIGH = 1280.0, 800.0
"""The most of an element that is in its picture, in CSS pixels; of a larger one, the beginning is."""

_MOST_BYTES = 900_000
_SCALES = (1.0, 0.5, 0.25)
"""A picture that has more bytes is taken again, smaller."""


async def picture_of(tab: Tab, number: int) -> bytes | None:
    """Return a picture of an element, as PNG; None if it has no box, or its picture is too large however small.

    The page is scrolled to it, and back.

    Args:
        tab: the page.
        number: our number of the element.

    Raises:
        BrowserError: the page does not answer.
    """
    extent = await tab.ask("extent()")
    places = await tab.frames.box(number)
    if places is None:
        return None
    left, top, width, height = places
    await tab.ask(f"scrollToPlace({max(left - _AROUND, 0)}, {max(top - _AROUND - extent['height'] / 4, 0)})")
    try:
        clip = {
            "x": max(left - _AROUND, 0),
            "y": max(top - _AROUND, 0),
            "width": min(width + 2 * _AROUND, _MOST_WIDE, extent["width"]),
            "height": min(height + 2 * _AROUND, _MOST_HIGH),
        }
        for scale in _SCALES:
            given = {"format": "png", "clip": {**clip, "scale": scale}}
            data = base64.b64decode((await tab.send("Page.captureScreenshot", given))["data"])
            if len(data) <= _MOST_BYTES:
                return data
        return None
    finally:
        await tab.ask(f"scrollToPlace({extent['scroll'][0]}, {extent['scroll'][1]})")
