"""What was refused to a page, listed by why: one sentence a reason, however much there is of it."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.loading.addresses import shown

_NAMED = 3
"""How many addresses a sentence names."""

_MOST = 10_000
"""Addresses that are kept for one reason."""


class Refusals:
    """Addresses that a page asked for in vain, by why that was."""

    def __init__(self) -> None:
        self._by_reason: dict[str, dict[str, None]] = {}

    def add(self, address: str, reason: str) -> None:
        """Note that an address was refused.

        Args:
            address: as a person knows it.
            reason: a clause.
        """
        known = self._by_reason.setdefault(reason, {})
        if len(known) < _MOST:
            known[address] = None

    def sentences(self) -> Iterator[str]:
        """Yield a sentence for each reason."""
        for reason, addresses in self._by_reason.items():
            names = [shown(each) for each in list(addresses)[:_NAMED]]
            if len(addresses) == 1:
                yield f"{names[0]} was not fetched: {reason}."
                continue
            more = len(addresses) - len(names)
            listed = ", ".join(names) + (f" and {more} more" if more else "")
            yield f"{len(addresses)} addresses were not fetched: {reason} ({listed})."
