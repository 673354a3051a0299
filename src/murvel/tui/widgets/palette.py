"""Styles by kind of part, from the theme's variables."""

from __future__ import annotations

from textual.app import App

from murvel.casebook.defect import Impact
from murvel.reader.speech.utterance import PartKind
from murvel.tui.widgets.wording import HOLE

WEIGHT = {
    Impact.BLOCKS: "●●●●",
    Impact.HINDERS: "●●●○",
    Impact.SLOWS: "●●○○",
    Impact.IRRITATES: "●○○○",
    Impact.NOT_RATED: "○○○○",
}
"""How heavy an impact is, as filled circles: a sign beside its word."""


FAILS, NEEDS_EARS = "▲", "△"
"""Signs of leads: of those that fail, and of those that a person has to judge."""

LEGEND = f"{FAILS} fails   {NEEDS_EARS} a person has to judge"


def part_styles(app: App[object]) -> dict[str, str]:
    """Return rich styles for each kind of part in the theme that is on; with NO_COLOR only weight and slant remain."""
    colour = app.theme_variables
    return {
        PartKind.CONTEXT.value: colour["part-context"],
        PartKind.HEADER.value: colour["part-context"],
        PartKind.LANGUAGE.value: f"italic {colour['part-value']}",
        PartKind.LIVE.value: f"bold {colour['part-state']}",
        PartKind.HINT.value: f"italic {colour['faint']}",
        PartKind.NAME.value: f"bold {colour['part-name']}",
        PartKind.HEADING.value: f"bold {colour['part-name']}",
        PartKind.TEXT.value: colour["part-text"],
        PartKind.ROLE.value: colour["part-role"],
        PartKind.STATE.value: colour["part-state"],
        PartKind.VALUE.value: colour["part-value"],
        PartKind.POSITION.value: colour["faint"],
        PartKind.DESCRIPTION.value: f"italic {colour['part-role']}",
        PartKind.BLANK.value: f"italic {colour['faint']}",
        "notice": f"italic {colour['part-state']}",
        HOLE: f"{colour['hole']} on {colour['hole-ground']}",
        "faint": colour["faint"],
        "plain": colour["part-text"],
        "strong": f"bold {colour['part-name']}",
        "mark": colour["part-context"],
        "error": f"bold {colour['error']}",
        "rail-landmark": colour["rail-landmark"],
        "rail-group": colour["rail-group"],
        "found": f"bold underline {colour['found']} on {colour['found-ground']}",
        "cursor": f"on {colour['cursor-ground']}",
    }
