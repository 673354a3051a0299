"""Borders and backgrounds of tables, rows and cells, by which browsers tell data from layout.

Nothing is worked out before it is first asked for, and then for the parts of tables only: most rules of most pages say
something of borders or backgrounds.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import cached_property
from typing import Any

import tinycss2

from murvel.css.cascade.lazy import Declaration, declared_for
from murvel.css.selectors.engine import Subtree
from murvel.css.sheets.rules import StyleRule
from murvel.css.tokens import component_values
from murvel.css.values.colours import same_paint
from murvel.css.values.style import PLAIN, SIDES, Decoration
from murvel.dom.document import Element

PARTS_OF_TABLES = frozenset({"table", "tbody", "td", "th", "tr"})

_SIDES_OF = {
    "": SIDES, "-block": ("top", "bottom"), "-inline": ("left", "right"),
    "-block-start": ("top",), "-block-end": ("bottom",), "-inline-start": ("left",), "-inline-end": ("right",),
    **{f"-{side}": (side,) for side in SIDES},
}  # fmt: skip
_BORDERS = {
    f"border{which}{what}": (what[1:], sides) for which, sides in _SIDES_OF.items() for what in ("", "-width", "-style")
}
_INHERITED = frozenset({"border-spacing", "border-collapse", "empty-cells"})
DECORATING = frozenset(_BORDERS) | _INHERITED | {"background", "background-color"}
"""The properties that are read."""

_STYLES = frozenset("dotted dashed solid double groove ridge inset outset".split())
_FUNCTIONS = frozenset("color color-mix hsl hsla hwb lab lch light-dark oklab oklch rgb rgba".split())
_NOT_OF_COLOR = frozenset(
    "repeat no-repeat repeat-x repeat-y space round scroll fixed local center top bottom left right cover contain auto "
    "border-box padding-box content-box".split()
)


class Decorations:
    """The decorations of a document's tables.

    Args:
        kept: for each part of the document the rules that set one of the `DECORATING` properties.
    """

    def __init__(self, kept: Iterable[tuple[Subtree, list[StyleRule]]]) -> None:
        self._kept = kept

    def of(self, element: Element) -> Decoration:
        """Return what a table, row or cell looks like."""
        return self._decorations.get(element, PLAIN)

    @cached_property
    def _decorations(self) -> dict[Element, Decoration]:
        found: dict[Element, Decoration] = {}
        for part, blocks in self._kept:
            parts = [element for element in part.elements() if element.tag in PARTS_OF_TABLES]
            if parts:
                declared = declared_for(part, blocks, DECORATING, parts)
                for element in parts:
                    around = next((found[above] for above in element.ancestors() if above in found), PLAIN)
                    found[element] = _decoration([*_hints(element), *declared.get(element, ())], around)
        return found


def _hints(element: Element) -> Iterator[Declaration]:
    """The presentational hints of tables (HTML §15.3.8)."""
    attributes = element.attributes
    if attributes.get("bgcolor", "").strip():
        yield "background-color", component_values(attributes["bgcolor"].strip())
    if element.tag == "table" and attributes.get("cellspacing", "").strip() == "0":
        yield "border-spacing", component_values("0")


def _decoration(declared: list[Declaration], around: Decoration) -> Decoration:
    styles, widths = dict.fromkeys(SIDES, False), dict.fromkeys(SIDES, True)
    background, spacing, collapses, hides = "", around.has_spacing, around.collapses, around.hides_empty
    for name, tokens in declared:
        words = {token.lower_value for token in tokens if token.type == "ident"}
        if name in _BORDERS:
            what, sides = _BORDERS[name]
            for side, drawn, wide in _border(what, sides, tokens):
                styles[side] = styles[side] if drawn is None else drawn
                widths[side] = widths[side] if wide is None else wide
        elif name in ("background", "background-color"):
            background = _color(tokens)
        elif name == "border-spacing":
            spacing = not all(token.type in ("number", "dimension") and token.value == 0 for token in tokens)
        elif name == "border-collapse":
            collapses = "collapse" in words
        else:
            hides = "hide" in words
    borders = frozenset(side for side in SIDES if styles[side] and widths[side])
    return Decoration(borders, background, spacing, collapses, hides)


def _border(what: str, sides: tuple[str, ...], tokens: list[Any]) -> Iterator[tuple[str, bool | None, bool | None]]:
    """Yield for each side whether it is drawn and wide, None if that is not said."""
    if what:
        values = tokens if len(sides) > 1 else tokens[:1]
        for at, side in enumerate(sides):
            # One to four values: those left out are those of the opposite side (CSS Backgrounds 3 §4.2).
            token = next((values[index] for index in (at, at - 2, 0) if 0 <= index < len(values)), None)
            if token is not None:
                yield (
                    side,
                    (_is_drawn(token) if what == "style" else None),
                    (_is_wide(token) if what == "width" else None),
                )
        return
    drawn = any(_is_drawn(token) for token in tokens)
    wide = all(_is_wide(token) for token in tokens if token.type in ("number", "dimension"))
    for side in sides:
        yield side, drawn, wide


def _is_drawn(token: Any) -> bool:
    """Whether a token is a style that is drawn; what custom properties hold is taken for one."""
    return (token.type == "function" and token.lower_name == "var") or (
        token.type == "ident" and token.lower_value in _STYLES
    )


def _is_wide(token: Any) -> bool:
    return not (token.type in ("number", "dimension") and token.value == 0)


def _color(tokens: list[Any]) -> str:
    """The colour that a background has, in one notation for equal colours; empty if it paints none."""
    for token in tokens:
        is_colour = token.type in ("hash", "ident") or (token.type == "function" and token.lower_name in _FUNCTIONS)
        if is_colour and (token.type != "ident" or token.lower_value not in _NOT_OF_COLOR):
            return same_paint(str(tinycss2.serialize([token])))
    return ""
