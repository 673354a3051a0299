"""A lead on the screen: what is wrong, what that means for a listener, how to repair it."""

from __future__ import annotations

from collections.abc import Collection

from rich.console import Group
from rich.text import Text

from murvel.checks.engine.check import Certainty
from murvel.checks.engine.lead import Lead
from murvel.text import visible
from murvel.tui.widgets.palette import FAILS, NEEDS_EARS
from murvel.tui.widgets.wording import facts_table

LABEL_WIDTH = 12


def lead_block(lead: Lead, styles: dict[str, str]) -> Group:
    """Return a lead as a block of text."""
    fails = lead.certainty is Certainty.FAILS
    title = Text(f"{FAILS} fails: " if fails else f"{NEEDS_EARS} needs-ears: ", styles["error" if fails else "mark"])
    title.append(visible(lead.says), styles["strong"])
    rows = [
        ("so", lead.check.means),
        ("repair", lead.check.repair),
        ("then heard", lead.expected),
        ("WCAG 2.2", ", ".join(lead.check.criteria)),
    ]
    table = facts_table(
        [(label, Text(visible(text), styles["plain"])) for label, text in rows], styles["faint"], LABEL_WIDTH
    )
    return Group(title, table)


def lead_marks(leads: Collection[Lead]) -> str:
    """Return how many leads fail and how many a person has to judge, as signs with numbers."""
    fails = sum(lead.certainty is Certainty.FAILS for lead in leads)
    needs_ears = sum(lead.certainty is Certainty.NEEDS_EARS for lead in leads)
    return (f" {FAILS}{fails}" if fails else "") + (f" {NEEDS_EARS}{needs_ears}" if needs_ears else "")
