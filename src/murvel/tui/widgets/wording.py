"""Utterances as styled pieces of text: the name stands out, the role is quiet, a missing name is a visible hole."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from rich.cells import cell_len
from rich.console import Console, ConsoleOptions, RenderResult
from rich.table import Table
from rich.text import Text

from murvel.patterns import pattern
from murvel.reader.speech.utterance import PartKind, Utterance, separated
from murvel.text import visible

HOLE = "hole"
HOLE_TEXT = "▒ no name ▒"
"""What stands where a name is missing; it is not heard."""

Piece = tuple[str, str]
"""Text that is safe to show, and the kind of part whose style it has; "" for what separates parts."""

_MOST_BESIDE = len(HOLE_TEXT) + 2
"""The most cells that a part takes beside its text."""

_MARKS = {
    PartKind.STATE: "▪ ",
    PartKind.VALUE: "= ",
    PartKind.DESCRIPTION: "– ",
    PartKind.LIVE: "◂ ",
    PartKind.HEADER: "▫ ",
}
"""Signs beside colour for the kinds that are easily taken for text."""


def pieces(utterance: Utterance) -> list[Piece]:
    """Return an utterance as pieces; parts other than running text stand two spaces apart."""
    heard = iter(separated(utterance.parts))
    result: list[Piece] = []
    for part in utterance.parts:
        if part.is_missing_name:
            _append(result, "  ", HOLE_TEXT, HOLE)
        elif part.text:
            _, separator = next(heard)
            if "," in separator or (result and result[-1][1] == HOLE):
                separator = "  "
            _append(result, separator, _MARKS.get(part.kind, "") + visible(part.text), part.kind)
    return result


def _append(result: list[Piece], separator: str, text: str, kind: str) -> None:
    if result and separator:
        result.append((separator, ""))
    result.append((text, kind))


def surely_fits(utterance: Utterance, width: int) -> bool:
    """Whether the pieces of an utterance fit into `width` cells whatever stands between them; told without them."""
    for part in utterance.parts:
        text = part.text
        width -= len(text) + _MOST_BESIDE
        if width < 0 or not (text.isascii() and text.isprintable()):
            return False
    return True


def wrap(text: str, width: int) -> list[tuple[int, int]]:
    """Return where each line of `text` begins and ends so that none is wider than `width` cells.

    Lines break at spaces; a word that is too wide is cut.
    """
    width = max(width, 1)
    if len(text) <= width and (text.isascii() or cell_len(text) <= width):
        return [(0, len(text))]
    measure = len if text.isascii() else cell_len
    lines: list[tuple[int, int]] = []
    start = 0
    while start < len(text):
        end = min(len(text), start + width)
        while end > start + 1 and measure(text[start:end]) > width:
            end -= 1
        if end < len(text) and text[end] != " ":
            space = text.rfind(" ", start + 1, end)
            end = space if space > start else end
        lines.append((start, end))
        start = end
        while start < len(text) and text[start] == " ":
            start += 1
    return lines or [(0, 0)]


def in_lines(text: Text, width: int) -> Text:
    """Return text in lines no wider than `width` cells; what no-break spaces hold together stays together."""
    lines = Text("\n", no_wrap=True).join(text[start:end] for start, end in wrap(text.plain, width))
    lines.no_wrap = True
    return lines


def slice_pieces(all_pieces: Iterable[Piece], start: int, end: int) -> list[Piece]:
    """Return the part of pieces between two offsets of their joined text."""
    result: list[Piece] = []
    offset = 0
    for text, kind in all_pieces:
        low, high = max(start - offset, 0), min(end - offset, len(text))
        if low < high:
            result.append((text[low:high], kind))
        offset += len(text)
        if offset >= end:
            break
    return result


def facts_table(facts: Iterable[tuple[str, Text]], label_style: str, label_width: int) -> Table:
    """Return labels with their values beside them; a value goes on below itself, not below its label."""
    table = Table.grid(padding=(0, 1, 0, 0), expand=True)
    table.add_column(width=label_width, style=label_style, no_wrap=True)
    table.add_column(ratio=1, overflow="fold")
    for label, value in facts:
        table.add_row(Text(label), value)
    return table


class Ends(NamedTuple):
    """One line with a text at its beginning and one at its end; the first is cut where there is no room for both."""

    first: Text
    last: Text

    def __rich_console__(self, console: Console, options: ConsoleOptions) -> RenderResult:
        """Fill the width there is; one cell stays free at the end."""
        room = max(options.max_width - self.last.cell_len - 2, 0)
        line = self.first.copy()
        line.truncate(room, overflow="ellipsis", pad=True)
        line.no_wrap = True
        yield line.append(" ").append_text(self.last)


def styled(all_pieces: Iterable[Piece], styles: dict[str, str]) -> Text:
    """Return pieces as rich text, with a style for each kind."""
    text = Text()
    for piece, kind in all_pieces:
        text.append(piece, styles.get(kind, ""))
    return text


_COLOUR = pattern(r"#[0-9a-f]{6}\b")


def with_swatches(text: str, style: str) -> Text:
    """Return a text with a block of each colour that is named in it, before the name."""
    shown, done = Text(), 0
    for found in _COLOUR.finditer(text):
        shown.append(text[done : found.start()], style)
        shown.append("██\u00a0", found.group())
        shown.append(found.group(), style)
        done = found.end()
    shown.append(text[done:], style)
    return shown
