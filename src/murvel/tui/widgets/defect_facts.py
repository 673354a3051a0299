"""The whole of a defect as a table, and its lines in a list."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from rich.table import Table
from rich.text import Text

from murvel.casebook.attachment import Attachment
from murvel.casebook.defect import Defect, MoveMade
from murvel.casebook.status import Status, StatusChange
from murvel.checks.tables.criteria import BY_NUMBER
from murvel.text import visible
from murvel.tui.widgets.palette import WEIGHT
from murvel.tui.widgets.wording import facts_table

_LABEL_WIDTH = 17
_NUMBER_WIDTH = 4
_TICKED = "■"
_FREE = " "


def defect_line(defect: Defect, status: Status, styles: dict[str, str], *, is_ticked: bool) -> Text:
    """Return a defect as it stands in a list, on one line.

    Args:
        defect: the defect.
        status: where it stands.
        styles: `part_styles`.
        is_ticked: whether it is one of those that are changed together.
    """
    line = Text()
    line.append(f"{_TICKED if is_ticked else _FREE} ", styles["strong"])
    line.append(f"{defect.id or '':>{_NUMBER_WIDTH}} ", styles["faint"])
    line.append(f"{WEIGHT[defect.impact]} ", styles["mark"])
    line.append(f"{status:<10} ", styles["state"])
    line.append(visible(defect.headline), styles["strong"])
    line.append(f"  {defect.criterion}", styles["role"])
    if defect.tags:
        line.append(f"  {visible(' '.join(defect.tags))}", styles["value"])
    return line


def whole_defect(
    defect: Defect,
    status: Status,
    changes: Sequence[StatusChange],
    page: str,
    attachments: Sequence[Attachment],
    styles: dict[str, str],
) -> Table:
    """Return all that is known of a defect.

    Args:
        defect: the defect.
        status: where it stands.
        changes: the statuses that were given to it, the last one last.
        page: its page in words.
        attachments: what is attached to it.
        styles: `part_styles`.
    """
    criterion = BY_NUMBER.get(defect.criterion)
    place = defect.place
    facts = (
        ("title", defect.headline, "strong"),
        ("page", page, "plain"),
        ("is heard", defect.heard or "nothing", "plain"),
        ("should be heard", defect.expected or "not stated yet", "state" if defect.expected else "faint"),
        ("status", f"{status}: {status.meaning}", "plain"),
        ("impact", f"{defect.impact.value}: {defect.impact.meaning}", "plain"),
        ("who is stopped", defect.stopped, "plain"),
        ("criterion", criterion.label if criterion else "none picked yet", "plain" if criterion else "faint"),
        ("", criterion.gist if criterion else "", "role"),
        ("repair", defect.repair or "not stated yet", "plain" if defect.repair else "faint"),
        ("tags", " ".join(defect.tags), "value"),
        ("notes", defect.notes, "plain"),
        ("element", f"{place.role}, {place.name or 'without a name'}", "plain"),
        ("within", place.within, "plain"),
        ("source", place.in_source, "plain"),
        ("XPath", place.xpath, "faint"),
        ("stage", defect.stage, "plain"),
    )
    rows = [(label, Text(visible(value, keep_lines=True), styles[style])) for label, value, style in facts if value]
    for number, each in enumerate(defect.further):
        line = Text(f"{visible(each.place.words)}, {each.place.in_source}", styles["plain"])
        rows.append(("" if number else "also at", line))
    for number, change in enumerate(changes):
        line = Text(f"{change.at[:16].replace('T', ' ')}  {visible(change.words)}", styles["plain"])
        rows.append(("" if number else "history", line))
    for number, attachment in enumerate(attachments):
        line = Text(f"{attachment.name}, {visible(attachment.words)}", styles["plain"])
        rows.append(("" if number else "attached", line))
    rows.extend(_moves("how to get there", defect.steps, styles))
    rows.extend(_moves("or straight on", defect.straight, styles))
    if defect.acceptance:
        rows.append(("repaired when", Text(visible(defect.acceptance.rstrip(), keep_lines=True), styles["state"])))
    if place.snippet:
        rows.append(("markup", Text(visible(place.snippet, keep_lines=True), styles["role"])))
    return facts_table(rows, styles["faint"], _LABEL_WIDTH)


def _moves(label: str, moves: Sequence[MoveMade], styles: dict[str, str]) -> Iterator[tuple[str, Text]]:
    for number, step in enumerate(moves):
        line = Text(visible(step.words), styles["plain"])
        line.append(f": {visible(step.heard)}" if step.heard else "", styles["role"])
        yield "" if number else label, line
