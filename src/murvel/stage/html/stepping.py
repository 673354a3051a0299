"""Stepping the values of fields (HTML §4.10.5.3.8, the step attribute; §4.10.5.4, stepUp and stepDown)."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime, timedelta
from decimal import Decimal, InvalidOperation

_DEFAULT_STEP = {"number": Decimal(1), "range": Decimal(1)}


def stepped(kind: str, value: str, attributes: Mapping[str, str], by: int) -> str | None:
    """Return a field's value one step further, None if it cannot go there.

    Args:
        kind: the input's type.
        value: the value it has.
        attributes: its attributes.
        by: 1 for up, -1 for down.
    """
    if kind in _DEFAULT_STEP:
        return _number(kind, value, attributes, by)
    return _moment(kind, value, attributes, by)


def _number(kind: str, text: str, attributes: Mapping[str, str], by: int) -> str | None:
    step = _decimal(attributes.get("step", "")) or _DEFAULT_STEP[kind]
    if step <= 0:
        step = _DEFAULT_STEP[kind]
    low, high = _decimal(attributes.get("min", "")), _decimal(attributes.get("max", ""))
    if kind == "range":
        low, high = low if low is not None else Decimal(0), high if high is not None else Decimal(100)
    value = _decimal(text)
    if value is None:
        middle = (low + high) / 2 if kind == "range" and low is not None and high is not None and high >= low else None
        value = middle if middle is not None else Decimal(0)
    base = low if low is not None else Decimal(0)
    steps = (value - base) / step
    whole = steps.to_integral_value(rounding="ROUND_FLOOR" if by > 0 else "ROUND_CEILING")
    target = base + (whole + by) * step
    if (low is not None and target < low) or (high is not None and target > high):
        return None
    return format(target.normalize(), "f")


def _decimal(text: str) -> Decimal | None:
    if not text.strip() or len(text) > 40:
        return None
    try:
        number = Decimal(text.strip())
    except InvalidOperation:
        return None
    return number if number.is_finite() and abs(number.adjusted()) < 30 else None


def _moment(kind: str, value: str, attributes: Mapping[str, str], by: int) -> str | None:
    try:
        if kind == "date":
            day = date.fromisoformat(value) if value else date(2000, 1, 1) - timedelta(days=by)
            return _within((day + timedelta(days=by)).isoformat(), attributes)
        if kind == "week":
            year, week = (int(part) for part in value.split("-W"))
            there = (date.fromisocalendar(year, week, 1) + timedelta(weeks=by)).isocalendar()
            return _within(f"{there.year:04d}-W{there.week:02d}", attributes)
        if kind == "month":
            year, month = (int(part) for part in value.split("-"))
            number = year * 12 + month - 1 + by
            return _within(f"{number // 12:04d}-{number % 12 + 1:02d}", attributes)
        if kind == "time":
            moment = datetime.fromisoformat(f"2000-01-02T{value}") + timedelta(minutes=by)
            return _within(moment.strftime("%H:%M"), attributes)
        if kind == "datetime-local":
            return _within(
                (datetime.fromisoformat(value) + timedelta(minutes=by)).strftime("%Y-%m-%dT%H:%M"), attributes
            )
    except (ValueError, OverflowError):
        return None
    return None


def _within(value: str, attributes: Mapping[str, str]) -> str | None:
    low, high = attributes.get("min"), attributes.get("max")
    return None if (low and value < low) or (high and value > high) else value
