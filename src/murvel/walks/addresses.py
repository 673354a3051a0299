"""Where the page of a walk is found: a path in a walk is meant from the folder of its file."""

from __future__ import annotations

import os
from pathlib import Path

from murvel.loading.addresses import is_web_address


def address_of(page: str, file: Path) -> str:
    """Return the address of the page that a walk in a file names."""
    return page if is_web_address(page) else str(file.parent / page)


def page_for(address: str, folder: Path) -> str:
    """Return how a walk in a folder names the page with an address."""
    return address if is_web_address(address) else os.path.relpath(address, folder)
