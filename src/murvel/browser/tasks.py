"""Work that goes on beside what a person waits for."""

from __future__ import annotations

import asyncio
from collections.abc import Coroutine
from typing import Any


class Tasks:
    """Work under way in the browser's thread; each piece is kept until it is done, since the loop keeps none."""

    def __init__(self) -> None:
        self._under_way: set[asyncio.Task[None]] = set()

    def begin(self, work: Coroutine[Any, Any, None]) -> None:
        """Let work go on beside."""
        task = asyncio.ensure_future(work)
        self._under_way.add(task)
        task.add_done_callback(self._under_way.discard)
