"""What forced colours take away: focus indicators, edges, icons, states (CSS Color Adjustment 1 §3)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, NamedTuple

from murvel.browser.seen.camera import FOCUS, Camera, Window
from murvel.browser.seen.indicators import compared, groups_apart
from murvel.browser.seen.marks import icon_contrast
from murvel.browser.seen.pixels import Pictures, edge_contrast
from murvel.browser.tab import Tab
from murvel.css.values.colours import NON_TEXT
from murvel.stage.seen import Indication, Lost, Pair

_GONE = 1.5
"""A contrast under this is none, for something that had 3:1 before."""


class SeenBefore(NamedTuple):
    """What is clearly seen in a window in the page's own colours.

    Attributes:
        stops: the numbers of the stops whose focus shows, and not by an outline: those are painted in forced colours.
        edges: fields with their edges, as the page told them.
        icons: icons, as the page told them.
    """

    stops: list[int]
    edges: list[list[Any]]
    icons: list[list[Any]]


def is_clear(pair: Pair | None) -> bool:
    """Whether a contrast is enough for something that is drawn."""
    return pair is not None and pair.ratio >= NON_TEXT


async def lost_in(tab: Tab, camera: Camera, window: Window, before: SeenBefore) -> set[tuple[int, Lost]]:
    """Return what a window loses in forced colours.

    Args:
        tab: the page.
        camera: takes the pictures.
        window: what the window shows.
        before: what was clearly seen in it.

    Raises:
        BrowserError: the page does not answer.
    """
    found: set[tuple[int, Lost]] = set()
    if not any(before):
        return found
    async with camera.in_forced_colours():
        without = await camera.picture() if before.stops or before.icons else None
        places = dict(await tab.ask(f"places({before.stops})"))
        for some in groups_apart(before.stops, places):
            async with camera.in_state(some, FOCUS):
                focused = await camera.picture()
                now = await tab.ask(f"places({some})")
            for number, (x, y, width, height) in now:
                rect = (x - window.left, y - window.top, width, height)
                if without is not None and compared(without, focused, rect, window.scale).indication is Indication.NONE:
                    found.add((number, Lost.INDICATOR))
        if before.edges:
            behind = await camera.picture("behind")
            pictures = Pictures(behind, behind, behind, (), window.left, window.top, window.scale)
            for number, _, borders, rect, is_round in before.edges:
                pair = edge_contrast(pictures, rect, borders, is_round=bool(is_round))
                if pair is not None and pair.ratio < _GONE:
                    found.add((number, Lost.EDGE))
        for number, _, (x, y, width, height) in before.icons if without is not None else ():
            assert without is not None
            pair, is_drawn = icon_contrast(without, (x - window.left, y - window.top, width, height), window.scale)
            if not is_drawn or (pair is not None and pair.ratio < _GONE):
                found.add((number, Lost.ICON))
    return found


async def lost_states(tab: Tab, camera: Camera) -> set[tuple[int, Lost]]:
    """Return the controls whose state shows in the page's own colours, and not in forced ones.

    Each is compared with one like it that is not in the state: by computed styles of both, of what is around, and of
    what is in them.
    """
    looks = _different(await tab.ask("stateLooks()"))
    if not looks:
        return set()
    async with camera.in_forced_colours():
        kept = _different(await tab.ask("stateLooks()"))
    return {(number, Lost.STATE) for number, _ in looks.keys() - kept.keys()}


def _different(told: Iterable[tuple[int, str, str, str]]) -> Mapping[tuple[int, str], str]:
    return {(number, state): look for number, state, look, other in told if look != other}
