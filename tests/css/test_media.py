"""Media queries, answered for a screen of 1280 by 800 pixels."""

import pytest
import tinycss2

from murvel.css.sheets.media import Screen, matches

TRUE = """
all | screen | only screen | screen, print | print, all | (min-width: 1280px) | (max-width: 1280px) | (width: 1280px)
(min-width: 20em) | (min-width: 20rem) and (max-width: 200rem) | not print | not (max-width: 100px) | (width)
(400px <= width < 2000px) | (width >= 1280px) | (1280px = width) | (orientation: landscape) | (hover) | (hover: hover)
(prefers-color-scheme: light) | (prefers-reduced-motion: no-preference) | (pointer: fine) | screen and (min-width: 1in)
(min-width: 100px) or (max-width: 50px) | ((min-width: 1px) and (max-width: 9999px)) | (min-width: 0)
SCREEN | (height)
not screen and (max-width: 10px) | (scripting: none) | (not (max-width: 10px)) | not all and (monochrome)
"""
FALSE = """
print | not screen | not all | (max-width: 1279px) | (min-width: 1281px) | (width < 1280px) | (orientation: portrait)
(prefers-color-scheme: dark) | (prefers-reduced-motion: reduce) | (prefers-reduced-motion) | (hover: none) | tv | speech
screen and (max-width: 20em) | (forced-colors: active) | (nonsense: 1) | (min-width: 5) | (min-width: banana) | (
screen or (width) | (width) and (height) or (color) | (1px < width > ) | screen and | (2000px <= width)
"""


def holds(query: str, screen: Screen) -> bool:
    """Whether a media query list holds."""
    return matches(tinycss2.parse_component_value_list(query, skip_comments=True), screen)


def listed(text: str) -> list[str]:
    return [query.strip() for line in text.strip().splitlines() for query in line.split(" | ")]


@pytest.mark.parametrize("query", listed(TRUE))
def test_holds(query: str) -> None:
    assert holds(query, Screen(1280))


@pytest.mark.parametrize("query", listed(FALSE))
def test_does_not_hold(query: str) -> None:
    assert not holds(query, Screen(1280))


def test_an_empty_list_holds() -> None:
    assert holds("", Screen(1280))
    assert holds("  ", Screen(1280))


@pytest.mark.parametrize(("width", "held"), [(767, False), (768, True), (1280, True)])
def test_the_width_of_the_viewport_decides(width: int, held: bool) -> None:
    assert holds("(min-width: 48rem)", Screen(width)) is held
