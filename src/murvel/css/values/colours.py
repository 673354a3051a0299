"""Colours: CSS notations, one colour over another, and contrast by WCAG's formula.

Notations and colour spaces are coloraide's (CSS Color 4). Contrast is WCAG 2.2's own arithmetic on 8-bit sRGB, since
pixels are compared by the million.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache
from typing import TYPE_CHECKING, NamedTuple

from murvel.loading.errors import PageError
from murvel.text import visible

if TYPE_CHECKING:
    from coloraide import Color

AA_TEXT, AA_LARGE, AAA_TEXT, AAA_LARGE, NON_TEXT = 4.5, 3.0, 7.0, 4.5, 3.0
"""The ratios that WCAG 2.2 asks for: 1.4.3, 1.4.6 and 1.4.11."""

LARGE_PIXELS, LARGE_BOLD_PIXELS, BOLD = 24.0, 56 / 3, 700
"""Large text is 18 points, or 14 points in bold (WCAG 2.2, large scale); a point is 4/3 CSS pixels."""


class Colour(NamedTuple):
    """An opaque colour: red, green and blue from 0 to 255."""

    red: int
    green: int
    blue: int

    @property
    def hex(self) -> str:
        """The colour as CSS writes it, "#1a2b3c"."""
        return f"#{self.red:02x}{self.green:02x}{self.blue:02x}"

    @property
    def luminance(self) -> float:
        """Its relative luminance, from 0 to 1 (WCAG 2.2, relative luminance)."""
        return 0.2126 * _LINEAR[self.red] + 0.7152 * _LINEAR[self.green] + 0.0722 * _LINEAR[self.blue]


_LINEAR = tuple(c / 12.92 if (c := value / 255) <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for value in range(256))


class Paint(NamedTuple):
    """A colour that may let through what is behind it.

    Attributes:
        colour: the colour.
        alpha: how much of it covers, from 0 to 1.
    """

    colour: Colour
    alpha: float

    def over(self, behind: Colour) -> Colour:
        """Return what is seen of it over another colour (CSS Compositing 1 §9.1.4, source over)."""
        mixed = (behind[at] + (self.colour[at] - behind[at]) * self.alpha for at in range(3))
        return Colour(*(round(value) for value in mixed))


def parse_colour(text: str) -> Paint:
    """Return a colour in any notation of CSS Color 4; what sRGB does not have is clipped, as browsers show it.

    Raises:
        PageError: it is no colour.
    """
    from coloraide import Color  # it takes a quarter of a second to load, and most commands ask for no colour

    try:
        found = Color(text.strip())
    except ValueError as error:
        raise PageError(
            f"“{visible(text)}” is no colour", "write it as CSS does, as in #1a2b3c, rgb(20 30 40) or teal."
        ) from error
    alpha = found.alpha(nans=False)
    return Paint(_rounded(found), min(max(alpha, 0.0), 1.0))


@cache
def same_paint(text: str) -> str:
    """Return a colour in one notation for all that paint the same, empty for those that paint nothing.

    What is no colour by itself, as currentcolor, is returned as it is written.
    """
    if text.strip().lower() in _PAINTS_NOTHING:
        return ""
    try:
        paint = parse_colour(text)
    except PageError:
        return text.strip().lower()
    return f"{paint.colour.hex} {paint.alpha:.3g}" if paint.alpha else ""


_PAINTS_NOTHING = frozenset({"none", "transparent", "initial", "unset", "inherit", "revert", "revert-layer", ""})
"""A background that is not stated; backgrounds are not inherited."""


def _rounded(found: Color) -> Colour:
    clipped = found.convert("srgb").clip()
    return Colour(*(round(255 * value) for value in clipped.coords(nans=False)))


def ratio(one: Colour, other: Colour) -> float:
    """Return the contrast ratio of two colours, from 1 to 21 (WCAG 2.2, contrast ratio)."""
    lighter, darker = one.luminance, other.luminance
    if lighter < darker:
        lighter, darker = darker, lighter
    return (lighter + 0.05) / (darker + 0.05)


def ratio_words(value: float) -> str:
    """Return a ratio as people write it, "4.49:1"; it is cut off and not rounded: what fails must not look passed."""
    return f"{int(value * 100 + 1e-9) / 100:.2f}:1"


def nearest(colour: Colour, behind: Colour, wanted: float) -> Colour | None:
    """Return the colour nearest to one that has a contrast with what is behind it; None if none has.

    Hue stays, lightness changes as little as possible, and chroma only as far as sRGB does not have it (OKLCH; CSS
    Color 4 §9.2). Nearness is what a person sees: the difference in Oklab.
    """
    from coloraide import Color

    if ratio(colour, behind) >= wanted:
        return colour
    start = Color("srgb", [value / 255 for value in colour])
    found = [each for each in (_along(start, behind, wanted, end) for end in (0.0, 1.0)) if each is not None]
    return min(found, key=lambda each: _difference(start, each), default=None)


def moved(colour: Colour, by: float) -> Colour:
    """Return a colour that is lighter, or darker, with its hue kept.

    Args:
        colour: the colour.
        by: how far to move it in lightness of OKLCH, from -1 to 1.
    """
    from coloraide import Color

    lightness, chroma, hue = Color("srgb", [value / 255 for value in colour]).convert("oklch").coords(nans=False)
    return _at(min(max(lightness + by, 0.0), 1.0), chroma, hue)


def _difference(start: Color, other: Colour) -> float:
    from coloraide import Color

    return float(start.delta_e(Color("srgb", [value / 255 for value in other]), method="ok"))


def _along(start: Color, behind: Colour, wanted: float, end: float) -> Colour | None:
    """The first colour on the way to black or white that has the contrast."""
    lightness, chroma, hue = start.convert("oklch").coords(nans=False)
    if ratio(_at(end, chroma, hue), behind) < wanted:
        return None
    near, far = lightness, end
    for _ in range(_HALVINGS):
        middle = (near + far) / 2
        if ratio(_at(middle, chroma, hue), behind) >= wanted:
            far = middle
        else:
            near = middle
    return _at(far, chroma, hue)


_HALVINGS = 14
"""Halvings of the way in lightness: what is left is far less than one step of 8-bit sRGB."""


def _at(lightness: float, chroma: float, hue: float) -> Colour:
    from coloraide import Color

    return _rounded(Color("oklch", [lightness, chroma, hue]).fit("srgb", method="oklch-chroma"))


def is_large(pixels: float, weight: int) -> bool:
    """Whether text counts as large (WCAG 2.2, large scale)."""
    return pixels >= LARGE_PIXELS or (weight >= BOLD and pixels >= LARGE_BOLD_PIXELS - 0.01)


def levels(value: float) -> Iterator[tuple[str, bool]]:
    """Yield what a ratio is enough for, each with whether it is."""
    yield "text, AA (1.4.3)", value >= AA_TEXT
    yield "text, AAA (1.4.6)", value >= AAA_TEXT
    yield "large text, AA (1.4.3)", value >= AA_LARGE
    yield "large text, AAA (1.4.6)", value >= AAA_LARGE
    yield "control, icon, focus indicator (1.4.11)", value >= NON_TEXT
