"""Keeping the cyclic garbage collector out of work that only builds."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def staying() -> Iterator[None]:
    """Pause the collector while something is made that stays for long, and let it pass that over from then on.

    What stayed before is searched again: it may have been let go.
    """
    gc.unfreeze()
    with no_collection():
        yield
        gc.freeze()


@contextmanager
def no_collection() -> Iterator[None]:
    """Pause the collector: a document's or tree's objects all stay, and searching them again and again for garbage
    while their number grows costs more than building them, and more than in proportion."""
    was_enabled = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_enabled:
            gc.enable()
