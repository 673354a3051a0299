"""A colour on another, judged: the ratio, what it is enough for, and the nearest colours that would pass."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from murvel.css.values.colours import (
    AA_LARGE,
    AA_TEXT,
    AAA_LARGE,
    AAA_TEXT,
    NON_TEXT,
    Colour,
    levels,
    nearest,
    parse_colour,
    ratio,
    ratio_words,
)
from murvel.loading.errors import PageError
from murvel.text import visible


@dataclass(frozen=True, slots=True)
class Nearest:
    """A colour that would pass.

    Attributes:
        wanted: the ratio it reaches at least.
        colour: the nearest one in place of the foreground; None if none reaches it.
        behind: the nearest one in place of the ground; None if none reaches it.
    """

    wanted: float
    colour: Colour | None
    behind: Colour | None

    @classmethod
    def to(cls, colour: Colour, behind: Colour, wanted: float) -> Nearest:
        """Return what passes nearest to two colours."""
        return cls(wanted, nearest(colour, behind, wanted), nearest(behind, colour, wanted))

    def words(self, colour: Colour, behind: Colour) -> str:
        """Return it in words, as "#767676 on #ffffff, or #777777 on #000000"."""
        options = [f"{self.colour.hex} on {behind.hex}"] if self.colour is not None else []
        options += [f"{colour.hex} on {self.behind.hex}"] if self.behind is not None else []
        return ", or ".join(options) or "no colour, whichever of the two is changed"


@dataclass(frozen=True, slots=True)
class JudgedPair:
    """A colour and the one behind it.

    Attributes:
        colour, behind: the two, opaque.
        ratio: their contrast ratio.
        levels: what it is enough for, each with whether it is.
        nearest: what would pass, for each ratio that is not reached.
    """

    colour: Colour
    behind: Colour
    ratio: float
    levels: tuple[tuple[str, bool], ...]
    nearest: tuple[Nearest, ...]


def judged(foreground: str, background: str) -> JudgedPair:
    """Judge two colours in any notation of CSS; a foreground that lets something through is seen on the background.

    Raises:
        PageError: one of them is no colour, or it cannot be told what the background stands on.
    """
    paint, ground = parse_colour(foreground), parse_colour(background)
    if ground.alpha < 1:
        raise PageError(
            f"The contrast cannot be told: {visible(background)} lets through what is behind it",
            "give the colour that is seen there.",
        )
    colour, behind = paint.over(ground.colour), ground.colour
    found = ratio(colour, behind)
    wanted = [each for each in sorted({NON_TEXT, AA_TEXT, AAA_TEXT, AA_LARGE, AAA_LARGE}) if found < each]
    passing = tuple(Nearest.to(colour, behind, each) for each in wanted)
    return JudgedPair(colour, behind, found, tuple(levels(found)), passing)


def pair_lines(pair: JudgedPair) -> Iterator[str]:
    """Yield a judgement in lines."""
    yield f"{ratio_words(pair.ratio)}  {pair.colour.hex} on {pair.behind.hex}"
    for words, is_enough in pair.levels:
        yield f"  {'enough' if is_enough else 'too little':<12}{words}"
    for each in pair.nearest:
        yield f"  nearest with {each.wanted:g}:1: {each.words(pair.colour, pair.behind)}"
