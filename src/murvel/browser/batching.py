"""Which changes that a browser tells one by one are one change for whoever listens.

What a key sets off comes in several pieces: a handler, what it put off to the next frame, the rules that match then.
They are put together where nothing is lost by that: text that changes twice stays two changes, since both are
announced.
"""

from __future__ import annotations

from typing import Any

from murvel.page.captured.document import Batch


def batches_of(told: list[dict[str, Any]]) -> list[Batch]:
    """Return the batches that the page tells, those put together that can be."""
    found: list[Batch] = []
    for each in told:
        is_scan = each.pop("isScan", False)
        batch = Batch(**each)
        if found and (is_scan or not _touched(found[-1]) & _touched(batch)):
            put_together(found[-1], batch)
        else:
            found.append(batch)
    return found


def _touched(batch: Batch) -> set[int]:
    """The texts and parents whose content a batch states, and the nodes that came."""
    return {number for number, _ in batch.texts} | {number for number, _ in batch.children} | {
        node[0] for node in batch.added
    }  # fmt: skip


def put_together(first: Batch, second: Batch) -> None:
    """Add the second of two batches to the first; of what both change, the second counts."""
    first.at = second.at
    first.attributes += second.attributes
    first.texts += second.texts
    first.children += second.children
    first.added += second.added
    first.styles += second.styles
    first.states += second.states
