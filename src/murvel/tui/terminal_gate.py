"""The one gate before the terminal: whatever a widget draws passes it, and nothing in it acts on the terminal.

Widgets write out what is odd in text of a page (`murvel.text.visible`), so that it can be read. Fields hold what
was entered, and libraries draw what they are given. This gate is below them all, where strips go to the terminal.
"""

from __future__ import annotations

from rich.cells import cell_len
from rich.segment import Segment
from textual.color import Color
from textual.filter import LineFilter

from murvel.text import ACTING

_STANDS_FOR_IT = "\ufffd"


class TerminalGate(LineFilter):
    """Leaves out what acts on a terminal, or puts a sign of the same width in its place."""

    def apply(self, segments: list[Segment], background: Color) -> list[Segment]:
        """Return segments that are safe to write; those that are come back as they are."""
        if all(_is_safe(each) for each in segments):
            return segments
        return [_safe(each) for each in segments]


def _is_safe(segment: Segment) -> bool:
    text, style, control = segment
    is_plain = text.isascii() and text.isprintable()
    return (is_plain or ACTING.search(text) is None) and not control and (style is None or style.link is None)


def _safe(segment: Segment) -> Segment:
    style = segment.style
    if style is not None and style.link is not None:
        style = style.update_link(None)
    return Segment(ACTING.sub(lambda found: _STANDS_FOR_IT * cell_len(found.group()), segment.text), style)
