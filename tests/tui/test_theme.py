"""The themes: every text on every ground it stands on passes WCAG's contrast (WCAG 2.2 §1.4.3, §1.4.6)."""

from itertools import product

import pytest
from textual.color import Color
from textual.theme import Theme

from murvel.tui.theme import CONTRAST, THEMES

TEXTS = (
    "part-name", "part-text", "part-role", "part-state", "part-value", "part-context", "faint", "rail-landmark",
    "rail-group", "error", "primary", "secondary", "foreground",
)  # fmt: skip
GROUNDS = (
    "background",
    "surface",
    "panel",
    "cursor-ground",
    "block-cursor-background",
    "block-cursor-blurred-background",
)
OWN_GROUNDS = (("hole", "hole-ground"), ("found", "found-ground"))


def luminance(color: Color) -> float:
    """Return the relative luminance (WCAG 2.2, definition)."""
    parts = [each / 255 for each in color.rgb]
    red, green, blue = (each / 12.92 if each <= 0.04045 else ((each + 0.055) / 1.055) ** 2.4 for each in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(theme: Theme, text: str, ground: str) -> float:
    """Return the contrast ratio of two colours of a theme (WCAG 2.2, definition)."""
    colors = {**theme.to_color_system().generate(), **theme.variables}
    lighter, darker = sorted((luminance(Color.parse(colors[each])) for each in (text, ground)), reverse=True)
    return (lighter + 0.05) / (darker + 0.05)


@pytest.mark.parametrize("theme", THEMES, ids=lambda theme: theme.name)
def test_every_text_can_be_read(theme: Theme) -> None:
    least = 7 if theme is CONTRAST else 4.5
    pairs = [*product(TEXTS, GROUNDS), *OWN_GROUNDS]
    poor = {pair: round(contrast(theme, *pair), 2) for pair in pairs if contrast(theme, *pair) < least}
    assert poor == {}


def test_the_ratio_is_the_one_of_the_definition() -> None:
    assert contrast(Theme("t", "#000000", variables={"a": "#000", "b": "#fff"}), "a", "b") == pytest.approx(21)
    assert contrast(Theme("t", "#000000", variables={"a": "#777", "b": "#fff"}), "a", "b") == pytest.approx(
        4.48, abs=0.01
    )
