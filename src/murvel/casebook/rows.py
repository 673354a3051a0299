"""Rows of a casebook and what they stand for. A row is checked when it is read: a file may be whole and yet damaged."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import asdict, replace
from typing import Annotated, Any, TypeVar

from pydantic import Field, StringConstraints, TypeAdapter, ValidationError

from murvel.casebook.attachment import Attachment, AttachmentKind, kind_of
from murvel.casebook.changes import Before, Change
from murvel.casebook.defect import Defect, FurtherPlace, Impact, MoveMade, Place
from murvel.casebook.records import Left, Noted, Page, TakeRecord
from murvel.casebook.status import Status, StatusChange
from murvel.survey.entry import EntryKey, Judgement, Slice, Verdict

_Made = TypeVar("_Made")

_Number = Annotated[int, Field(strict=True, ge=0, lt=2**31)]
_Text = Annotated[str, StringConstraints(strict=True)]
_STEPS = TypeAdapter(tuple[MoveMade, ...])
_FURTHER = TypeAdapter(tuple[FurtherPlace, ...])
_BEFORE = TypeAdapter(tuple[Before, ...])
_KINDS: tuple[tuple[Any, str], ...] = (
    (_Number, "id page take number width twin"),
    (Annotated[int, Field(strict=True, ge=1, lt=2**31)] | None, "line column defect"),
    (
        _Text,
        "address title digest problems cursor xpath snippet role name heard expected criterion repair note move tag "
        "target earlier reason check acceptance tags notes words within stopped stage",
    ),
    (_Text | None, "focus"),
    (Annotated[str, StringConstraints(strict=True, pattern=r"^\d{4}-\d\d-\d\dT[\d:.+-]+$")], "taken opened at added"),
    (Annotated[str, StringConstraints(strict=True, pattern=r"^(\d{4}-\d\d-\d\d)?$")], "until"),
    (Impact, "impact"),
    (Status, "status"),
    (Verdict | None, "verdict"),
    (Slice, "slice"),
)
_JSON: dict[str, TypeAdapter[Any]] = {"steps": _STEPS, "straight": _STEPS, "further": _FURTHER, "before": _BEFORE}
"""Columns that hold JSON, and what that may be."""
_COLUMNS: dict[str, TypeAdapter[Any]] = {name: TypeAdapter(kind) for kind, names in _KINDS for name in names.split()}
"""What each column may hold."""


class DamagedRowError(ValueError):
    """A row that does not hold what its table says; the message says in which column, and what."""


def checked(row: Any, make: Callable[[Any], _Made]) -> _Made:
    """Return what a row stands for.

    Raises:
        DamagedRowError: a column holds what it cannot.
    """
    try:
        for name, value in row._mapping.items():
            if name in _COLUMNS:
                column = name
                _COLUMNS[name].validate_python(value)
            elif name in _JSON:
                column = name
                _JSON[name].validate_json(value)
        return make(row)
    except (ValidationError, ValueError, TypeError, RecursionError) as error:
        raise DamagedRowError(f"its {column} is not usable") from error


def page_of(row: Any) -> Page:
    """Return the page that a row stands for."""
    return Page(row.id, row.address, row.title, row.width)


def take_of(row: Any) -> TakeRecord:
    """Return the take that a row, joined with its page, stands for."""
    problems = tuple(row.problems.splitlines())
    return TakeRecord(row.id, row.page, row.address, row.number, row.taken, bool(row.is_kept), problems)


def left_of(row: Any) -> Left:
    """Return the place that a row stands for."""
    return Left(row.cursor, row.focus)


def entry_of(row: Any) -> EntryKey:
    """Return the key of an entry that a row holds."""
    return EntryKey(Slice(row.slice), row.tag, row.target, row.heard, row.twin, row.earlier)


def judgement_of(row: Any) -> tuple[EntryKey, Judgement]:
    """Return the key of the entry that a row stands for, and what was said of it."""
    return entry_of(row), Judgement(Verdict(row.verdict) if row.verdict else None, row.note)


def noted_of(row: Any) -> Noted:
    """Return the note that a row stands for."""
    return Noted(row.move, row.heard, row.xpath, row.note)


def status_of(row: Any) -> StatusChange:
    """Return the status that a row stands for."""
    return StatusChange(row.id, row.defect, Status(row.status), row.reason, row.until, row.at)


def attachment_of(row: Any) -> Attachment:
    """Return the attachment that a row stands for.

    Raises:
        ValueError: it is not of the kind that the row names.
    """
    kind, data = AttachmentKind(row.kind), bytes(row.data)
    if kind_of(data) is not kind:
        raise ValueError(f"no {kind}")
    return Attachment(row.id, row.defect, row.added, kind, row.words, data)


def defect_of(row: Any) -> Defect:
    """Return the defect that a row stands for."""
    return Defect(
        id=row.id,
        page=row.page,
        take=row.take,
        place=Place(row.xpath, row.line, row.column, row.snippet, row.role, row.name, row.within),
        heard=row.heard,
        steps=_STEPS.validate_json(row.steps),
        expected=row.expected,
        impact=Impact(row.impact),
        criterion=row.criterion,
        repair=row.repair,
        title=row.title,
        check=row.check,
        straight=_STEPS.validate_json(row.straight),
        acceptance=row.acceptance,
        tags=tuple(row.tags.split()),
        notes=row.notes,
        further=_FURTHER.validate_json(row.further),
        stopped=row.stopped,
        stage=row.stage,
    )


def draft_of(row: Any) -> Defect:
    """Return the defect that a row of drafts stands for."""
    return replace(defect_of(row), id=row.defect)


def values_of(defect: Defect) -> dict[str, Any]:
    """Return a defect as the values of its row, without its id."""
    return {
        "page": defect.page,
        "take": defect.take,
        "xpath": defect.place.xpath,
        "line": defect.place.line,
        "column": defect.place.column,
        "snippet": storable(defect.place.snippet),
        "role": defect.place.role,
        "name": storable(defect.place.name),
        "within": storable(defect.place.within),
        "heard": storable(defect.heard),
        "steps": json.dumps([asdict(step) for step in defect.steps]),
        "straight": json.dumps([asdict(step) for step in defect.straight]),
        "expected": storable(defect.expected),
        "impact": defect.impact.value,
        "criterion": defect.criterion,
        "repair": storable(defect.repair),
        "title": storable(defect.title),
        "check": defect.check,
        "acceptance": storable(defect.acceptance),
        "tags": storable(" ".join(defect.tags)),
        "notes": storable(defect.notes),
        "further": json.dumps([asdict(each) for each in defect.further]),
        "stopped": storable(defect.stopped),
        "stage": storable(defect.stage),
    }


def change_of(row: Any) -> Change:
    """Return the change that a row stands for."""
    return Change(row.id, row.words, _BEFORE.validate_json(row.before))


def before_as_json(before: tuple[Before, ...]) -> str:
    """Return what stood before a change as its row keeps it."""
    return json.dumps(_BEFORE.dump_python(before), ensure_ascii=False).encode("utf-8", "replace").decode()


def storable(text: str) -> str:
    """Return text as UTF-8 has it: a lone surrogate of a page is kept written out."""
    return text.encode("utf-8", "backslashreplace").decode("utf-8")
