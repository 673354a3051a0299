"""Walks into files: as a person would write them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

import yaml

from murvel.walks.walk import Expectation, Expects, Step, Walk

_WIDE = 120


def walk_text(walk: Walk) -> str:
    """Return a walk as the text of its file; `walk_of` reads the same walk from it."""
    meant = {word: value for word, value in asdict(walk.meant).items() if value}
    head: dict[str, Any] = {"walk": walk.title, "page": walk.page, "is": meant, "width": walk.width}
    head |= {"stage": walk.stage, "voice": walk.voice, "mode": walk.mode}
    kept = {word: value for word, value in head.items() if value or word == "page"}
    return _dumped({**kept, "steps": [_step(step) for step in walk.steps]})


def steps_text(steps: Sequence[Step]) -> str:
    """Return steps as they stand behind `steps:` in a walk; `steps_of` reads the same steps from it."""
    return _dumped([_step(step) for step in steps]) if steps else ""


def scalar(text: str) -> str:
    """Return a text as YAML writes it on one line, in quotes where it needs them."""
    return yaml.safe_dump(text, allow_unicode=True, width=10_000_000, default_style='"').strip()


def _dumped(data: dict[str, Any] | list[Any]) -> str:
    return yaml.safe_dump(data, allow_unicode=True, sort_keys=False, width=_WIDE)


def _step(step: Step) -> str | dict[str, Any]:
    if not step.move:
        return {"expect": _all(step.expected)}
    if not step.expected:
        return step.move
    if len(step.expected) == 1 and step.expected[0].expects is Expects.HEARD:
        return {step.move: step.expected[0].wanted}
    return {step.move: _all(step.expected)}


def _all(expected: tuple[Expectation, ...]) -> dict[str, Any] | list[dict[str, Any]]:
    """What is expected, as one mapping where no word stands twice, and as a list of them otherwise."""
    each = [_expectation(one) for one in expected]
    words = [word for one in each for word in one]
    if len(set(words)) == len(words):
        return {word: value for one in each for word, value in one.items()}
    return each


def _expectation(one: Expectation) -> dict[str, Any]:
    wanted = one.wanted
    if one.expects is Expects.ANNOUNCED and not isinstance(wanted, str | float | tuple):
        within = {} if wanted["within"] == "0 s" else {"within": wanted["within"]}
        return {one.expects.value: wanted["text"], **within}
    if one.expects is Expects.SILENCE:
        return {one.expects.value: f"{wanted:g} s"}
    word = f"{one.list} {one.expects.value}" if one.list else one.expects.value
    if isinstance(wanted, tuple):
        return {word: list(wanted)}
    return {word: dict(wanted) if not isinstance(wanted, str | float) else wanted}
