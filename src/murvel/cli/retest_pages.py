"""Which pages of a casebook a command re-tests, and where they are found now."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from murvel.casebook.errors import CasebookError
from murvel.casebook.records import Page
from murvel.casebook.store import Casebook
from murvel.errors import did_you_mean
from murvel.loading.addresses import is_web_address
from murvel.text import visible
from murvel.work.retest_casebook import address_now


def chosen(book: Casebook, named: Sequence[str]) -> list[Page]:
    """Return the pages of a casebook that were named, those with defects or verdicts where none was.

    Args:
        book: the casebook.
        named: addresses of pages, paths, or the ends of either.

    Raises:
        CasebookError: no page of the casebook has such an address, or there is nothing to re-test.
    """
    pages = sorted(book.pages(), key=lambda page: page.id)
    if not named:
        defects = book.defects()
        documented = {each.page for each in defects} | {place.page for each in defects for place in each.further}
        wanted = [page for page in pages if page.id in documented or book.judgements(page)]
        if not wanted:
            raise CasebookError("Nothing is documented in this casebook yet", "document a defect first.")
        return wanted
    found: dict[int, Page] = {}
    for each in named:
        matching = [page for page in pages if page.address in (each, _absolute(each)) or page.address.endswith(each)]
        if not matching:
            hint = did_you_mean(each, [Path(page.address).name for page in pages], "murvel takes lists its pages.")
            raise CasebookError(f"The casebook has no page {visible(each)!r}", hint)
        found.update({page.id: page for page in matching})
    return list(found.values())


def moved(old: str, new: str) -> Callable[[str], str]:
    """Return what tells where a page is found now.

    Args:
        old, new: how the addresses of pages that have moved began, and begin now; both empty if none has.

    Raises:
        CasebookError: only one of them was given.
    """
    if bool(old) != bool(new):
        raise CasebookError("Only one of --from and --to was given", "give both, or neither.")
    return partial(address_now, old=_absolute(old), new=_absolute(new)) if old else lambda address: address


def _absolute(address: str) -> str:
    return address if is_web_address(address) else str(Path(address).expanduser().resolve())
