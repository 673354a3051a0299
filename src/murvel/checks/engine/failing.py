"""Which leads make a run fail."""

from __future__ import annotations

from enum import StrEnum


class FailOn(StrEnum):
    """From which certainty on leads make a run fail; the words are those of `murvel.checks.engine.check.Certainty`."""

    FAILS = "fails"
    NEEDS_EARS = "needs-ears"
    NONE = "none"
