"""Takes that were kept, opened again as they were, with nothing read beside them."""

from __future__ import annotations

from murvel.casebook.content import TakeContent
from murvel.loading.fetch import PageSource
from murvel.loading.kept import KeptResources
from murvel.reader.session import ReadingSession
from murvel.stage.open_stage import stage_of


def session_of_take(content: TakeContent, address: str, width: int) -> ReadingSession:
    """Return a session on a page as it was when a take was kept.

    Args:
        content: what the take was made of.
        address: the page's address.
        width: the viewport's width in CSS pixels.

    Raises:
        PageError: it is damaged.
        StageError: the page's cues cannot be used.
    """
    text = content.capture or content.source
    opened = stage_of(PageSource(text, address, KeptResources(content.resources)), width)
    return ReadingSession(opened.tree, stage=opened.stage)
