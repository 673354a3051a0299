"""What came of a walk that was made for a command, as plain data."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from murvel.walks.judging import Unmet
from murvel.walks.replay import Made


@dataclass(slots=True)
class WalkResult:
    """What came of a walk.

    Attributes:
        name: its file.
        title: what it is about.
        made: its steps, as they were made.
        failure: why it could not be made, None if it was.
        difference: what was changed in its file, empty if nothing was.
        seconds: how long it took.
    """

    name: str
    title: str = ""
    made: list[Made] = field(default_factory=list)
    failure: str | None = None
    difference: str = ""
    seconds: float = 0.0

    @property
    def is_met(self) -> bool:
        """Whether it could be made, and all that was expected is so."""
        return self.failure is None and not any(each.unmet for each in self.made)

    def unmet(self) -> Iterator[tuple[int, Made, Unmet]]:
        """Yield what is not so, with the number of its step, from 1, and the step."""
        for number, each in enumerate(self.made, 1):
            for unmet in each.unmet:
                yield number, each, unmet
