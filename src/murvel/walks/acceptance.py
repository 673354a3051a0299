"""Acceptance steps: what shows that a defect is repaired, proposed from the way to it and from what noticed it."""

from __future__ import annotations

from collections.abc import Sequence

from murvel.reader.errors import ReaderError
from murvel.reader.moves.commands import acts, refuse_unknown
from murvel.walks.walk import Expectation, Expects, Step

_IN_TIME = frozenset({Expects.ANNOUNCED, Expects.SILENCE})
"""What is expected of a page as time passes."""


def proposed_steps(moves: Sequence[str], check: str, expected: str) -> tuple[Step, ...]:
    """Return the way to a defect with what shows there that it is repaired.

    Args:
        moves: the moves of the way; what is no command, as "open page", is left out.
        check: the identifier of the check that noticed it, empty if none did.
        expected: what should be heard, in the words of the announcement; used where no check noticed it. What is around
            the place may be announced before it, so the words are a part of what is heard.

    Returns:
        Nothing where neither is known.
    """
    if check:
        proof = Expectation(Expects.NOT_NOTICED, check)
    elif expected:
        proof = Expectation(Expects.CONTAINS, expected)
    else:
        return ()
    way = [move for move in moves if _is_command(move)]
    return (*(Step(move) for move in way[:-1]), Step(way[-1] if way else "", (proof,)))


def way_of(steps: Sequence[Step]) -> tuple[str, ...]:
    """Return the moves before anything is expected, and that on which it is: what leads to the place."""
    moves = []
    for step in steps:
        if step.move:
            moves.append(step.move)
        if step.expected:
            break
    return tuple(moves)


def proves(steps: Sequence[Step]) -> bool:
    """Whether steps expect anything, so that they can fail."""
    return any(step.expected for step in steps)


def work_the_page(steps: Sequence[Step]) -> bool:
    """Whether a page may change under steps, so that they need one of their own."""
    return any(acts(step.move) or any(one.expects in _IN_TIME for one in step.expected) for step in steps)


def _is_command(words: str) -> bool:
    try:
        refuse_unknown(words)
    except ReaderError:
        return False
    return True
