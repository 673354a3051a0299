"""The Tab order as text: its stops as lines, and the lines between both orders in characters."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from murvel.reader.speech.timing import clock
from murvel.reader.stops.silent import told_of
from murvel.survey.path import KeyboardPath, Stop
from murvel.text import counted, visible

STRAIGHT, DOWN, UP, BOTH = "─", "╲", "╱", "╳"

_MOST_CELLS = 200_000
"""Rows that all lines together may run past and still be drawn one by one."""


def path_lines(path: KeyboardPath) -> Iterator[str]:
    """Yield the stops in Tab's order, each with the line to the reading order, and what Tab misses."""
    yield from summary_lines(path)
    crossings = Crossings(path.stops)
    for stop in path.stops:
        rank = f"  (read as number {stop.rank})" if stop.is_moved else ""
        repeats = "  (leads to the same place as the one before)" if stop.repeats else ""
        leads = "".join(f"  [{lead.check.id}]" for lead in stop.leads)
        yield visible(f"{stop.number:>4} {crossings.at(stop.number - 1)} {stop.words}{rank}{repeats}{leads}")
    for part in path.elsewhere:
        yield visible(f"   - seen elsewhere: {told_of(part)}, {path.page.tree.place_words(part)}")
    for lead in path.missed:
        place = f"line {lead.position.line}" if lead.position else lead.xpath
        yield visible(f"   - not reached: {lead.says}, {place}")


def summary_lines(path: KeyboardPath) -> Iterator[str]:
    """Yield what is to be said of the whole way."""
    count, seconds = path.before_main
    has_main = bool(path.page.roles.get("main"))
    before = f"{count} before the main content, {clock(seconds)} of listening" if has_main else "no main content"
    silent = f", nothing is heard of {path.silent}" if path.silent else ""
    yield f"{len(path.stops)} stops{silent}; {before}; {path.way_past()}"
    stand = "stands" if path.moved == 1 else "stand"
    order = f"{path.moved} {stand} in another place than in reading" if path.moved else "in the order of reading"
    yield f"{order}; not reached by Tab, though they may have to be: {len(path.missed)}"
    if path.elsewhere:
        parts = counted(len(path.elsewhere), "part is", "parts are")
        yield f"{parts} seen in another place than read, the first {told_of(path.elsewhere[0])}"


class Crossings:
    """How the lines between the two orders of stops run past its rows, one row a stop."""

    def __init__(self, stops: Sequence[Stop]) -> None:
        """Take the stops in Tab's order."""
        self._ends = [stop.rank - 1 for stop in stops]
        self._crossings = _crossings(self._ends)
        self._passing = _passing(self._ends)

    def at(self, row: int) -> str:
        """Return how the lines run past a row, as one character.

        Args:
            row: the row, from 0.
        """
        return self._crossings[row]

    def past(self, row: int, width: int) -> str:
        """Return the lines that run past a row, from the Tab order on the left to the reading order on the right.

        Args:
            row: the row, from 0.
            width: how many cells lie between the two.
        """
        if not self._passing:
            return self._crossings[row] * width  # so many lines that nobody can follow one
        cells = [" "] * width
        for start in self._passing[row]:
            _draw_line(cells, row, start, self._ends[start])
        return "".join(cells)


def _crossings(ends: list[int]) -> list[str]:
    """How lines from each row to their end run past each row: found in one pass over both ends."""
    down, up = [0] * (len(ends) + 1), [0] * (len(ends) + 1)
    for start, end in enumerate(ends):
        change = down if end > start else up
        if end != start:
            change[min(start, end)] += 1
            change[max(start, end) + 1] -= 1
    result = []
    falling = rising = 0
    for row in range(len(ends)):
        falling += down[row]
        rising += up[row]
        if falling and rising:
            result.append(BOTH)
        else:
            result.append(DOWN if falling else UP if rising else STRAIGHT)
    return result


def _passing(ends: list[int]) -> list[list[int]]:
    """For each row the lines that run past it, by where they begin; empty if there are too many."""
    if sum(abs(end - start) + 1 for start, end in enumerate(ends)) > _MOST_CELLS:
        return []
    passing: list[list[int]] = [[] for _ in ends]
    for start, end in enumerate(ends):
        for row in range(min(start, end), max(start, end) + 1):
            passing[row].append(start)
    return passing


def _draw_line(cells: list[str], row: int, start: int, end: int) -> None:
    """Draw what of a line from a row to another falls into one row."""
    last = len(cells) - 1
    if start == end:
        first, stop, slope = 0, last, STRAIGHT
    else:
        share = 1 / abs(end - start)
        done = abs(row - start) * share
        first = round(max(0.0, done - share / 2) * last)
        stop = round(min(1.0, done + share / 2) * last)
        slope = DOWN if end > start else UP
    bend = first if row == end else stop
    for at in range(first, stop + 1):
        drawn = slope if at == bend else STRAIGHT
        if cells[at] == " " or (cells[at] == STRAIGHT and drawn == STRAIGHT):
            cells[at] = drawn
        elif cells[at] != drawn:
            cells[at] = BOTH
