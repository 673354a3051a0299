"""The readout on the screen: rails, times and what is heard. Only visible lines are made."""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

from rich.segment import Segment
from rich.style import Style
from textual import events
from textual.geometry import Size
from textual.message import Message
from textual.reactive import var
from textual.scroll_view import ScrollView
from textual.strip import Strip

from murvel.reader.readout.items import Container, Item
from murvel.reader.readout.readout import RAIL_ROLES
from murvel.reader.session import ReadingSession
from murvel.reader.speech.speaker import entered_containers
from murvel.reader.speech.timing import clock
from murvel.reader.speech.utterance import PartKind, Utterance
from murvel.text import visible
from murvel.tui.widgets.direction import in_sight
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.wording import Piece, pieces, slice_pieces, surely_fits, wrap

MAX_RAILS = 8
"""How many rails are drawn beside each other; those further in are left out."""

_MARK_WIDTH = 3
_TIME_WIDTH = 6
_KEPT_STRIPS = 2000
_AROUND = 3
"""How many rows above and below the cursor's item are kept in view, where there is room."""


class ReadoutView(ScrollView, can_focus=True, inherit_bindings=False):
    """The column of what is heard, with the cursor's item and the focus marked.

    A row is a line of an item, or the opening of a rail. Rows are found by number in two flat lists, so that a page of
    20,000 items costs no more to draw than the screen is high.
    """

    moment: var[int] = var(-1, init=False)
    """How often something has happened to the work."""

    class Chosen(Message):
        """An item was clicked, or clicked twice."""

        def __init__(self, item: int, *, is_double: bool) -> None:
            self.item = item
            self.is_double = is_double
            super().__init__()

    def __init__(self, session: ReadingSession) -> None:
        super().__init__()
        self.session = session
        self._utterances: list[Utterance] = []
        self._lines: dict[int, _Line] = {}
        """What is shown of utterances that were wrapped or drawn already, by their identity."""
        self._rails: list[list[Container]] = []
        self._opened: list[list[Container]] = []
        self._rows: list[tuple[int, int]] = []
        """(item, line) of each row; a negative line -1-n is the opening of the item's nth rail."""
        self._first_row: list[int] = []
        """The row of each item's first line."""
        self._styles: dict[str, Style] = {}
        self._made_for = 0
        self._marked: set[int] = set()
        """The items that were drawn with a mark."""
        self._strips: dict[int, Strip] = {}
        """Rows without a mark that were drawn already."""
        self._sought: re.Pattern[str] | None = None
        """The text that was looked for, None if the last jump was to a kind."""
        self._taken = session.spoken
        self._take()

    def _take(self) -> None:
        """Take what the session reads now: it is another readout after the page or the voice was changed."""
        before, self._taken = self._taken, self.session.spoken
        if self._utterances and self._taken.says_the_same_as(before):
            self._strips.clear()
            self.refresh()  # only the times are others
            return
        said = self._taken.utterances
        staying = set(map(id, said))
        self._lines = {key: line for key, line in self._lines.items() if key in staying}
        self._utterances = said
        self._rails = _rails_by_item(self.session)
        self._opened = _openings(self.session)
        self._marked = set()
        if self._made_for:
            self._make_rows(self._made_for)
            self.refresh()

    # What the view shows

    def watch_moment(self) -> None:
        """Show where the session stands now."""
        if self._taken is not self.session.spoken:
            self._take()
        sought = _pattern(self.session.last_jump)
        if sought != self._sought:
            self._sought = sought
            self._strips.clear()
            self.refresh()
        item = self.session.item
        if not self._first_row:
            return
        marked = self._marks()
        for changed in marked | self._marked:
            self.refresh_lines(self._first_row[changed], self._height(changed))
        self._marked = marked
        if item is not None:
            row, height = self._first_row[item.index], self._height(item.index)
            above = len(self._opened[item.index])
            top, room = self.scroll_offset.y, self.size.height
            around = min(_AROUND, max(0, (room - above - height) // 2))
            if row - above - around < top or row + height + around > top + room:
                # A third of the screen stays above, so that not every move scrolls.
                self.scroll_to(y=row - max(above, min(room // 3, room - height)), animate=False, force=True)

    def _marks(self) -> set[int]:
        """Return the items that bear a mark now: those of the cursor and of the focus."""
        return {each.index for each in (self.session.item, self._focus_item()) if each is not None}

    def _focus_item(self) -> Item | None:
        focus = self.session.focus
        first = self.session.readout.first_object(focus) if focus is not None else None
        return first.item if first is not None else None

    def screenful(self) -> int:
        """Return how many items a screenful holds around the cursor."""
        return max(1, self.size.height - 4)

    # How it is drawn

    def on_mount(self) -> None:
        """Follow the theme."""
        self.app.theme_changed_signal.subscribe(self, lambda _: self._restyle())
        self._restyle()

    def _restyle(self) -> None:
        self._styles = {name: Style.parse(style) for name, style in part_styles(self.app).items()}
        self._styles["ground"] = self.rich_style
        self._strips.clear()
        self.refresh()

    def on_resize(self, event: events.Resize) -> None:
        """Wrap again where the width has changed."""
        width = self.scrollable_content_region.width
        if width:
            if width != self._made_for:
                self._make_rows(width)
            self.watch_moment()

    def _make_rows(self, width: int) -> None:
        self._made_for = width
        self._strips.clear()
        rows: list[tuple[int, int]] = []
        first_row = []
        for item, opened in enumerate(self._opened):
            if opened:
                rows.extend([(item, -1 - number) for number in range(len(opened))])
            first_row.append(len(rows))
            height = self._height(item)
            if height == 1:
                rows.append((item, 0))
            else:
                rows.extend([(item, line) for line in range(height)])
        self._rows, self._first_row = rows, first_row
        self._marked = self._marks()
        self.virtual_size = Size(width, len(rows) + 1)

    def _height(self, item: int) -> int:
        """How many rows an item has; of most it is known without working out what they show."""
        return 1 if surely_fits(self._utterances[item], self._room(item)) else len(self._wrapped(item))

    def _wrapped(self, item: int) -> list[tuple[int, int]]:
        return wrap(self._line_of(item).text, self._room(item))

    def _room(self, item: int) -> int:
        return self._made_for - 1 - self._margin(item)

    def _line_of(self, item: int) -> _Line:
        utterance = self._utterances[item]
        known = self._lines.get(id(utterance))
        if known is None:
            known = self._lines[id(utterance)] = _Line.of(utterance)
        return known

    def _margin(self, item: int) -> int:
        return _MARK_WIDTH + _TIME_WIDTH + 2 * min(len(self._rails[item]), MAX_RAILS)

    def render_line(self, y: int) -> Strip:
        """Return one line of the visible part."""
        row = y + self.scroll_offset.y
        width = self.scrollable_content_region.width
        if width and width != self._made_for:
            self._make_rows(width)  # the first picture comes before the widget knows its size
        if not 0 <= row < len(self._rows):
            return Strip.blank(width, self._styles.get("ground"))
        item, line = self._rows[row]
        marked = line >= 0 and item in self._marked
        if not marked and row in self._strips:
            return self._strips[row]
        segments = self._opening(item, -1 - line) if line < 0 else self._item_line(item, line)
        ground = self._styles["ground"]
        if marked and self._is_cursor(item):
            ground += self._styles["cursor"]
        strip = Strip(segments).adjust_cell_length(width).apply_style(ground)
        if not marked:
            if len(self._strips) >= _KEPT_STRIPS:
                self._strips.clear()
            self._strips[row] = strip
        return strip

    def _is_cursor(self, item: int) -> bool:
        return self.session.item is not None and self.session.item.index == item

    def _opening(self, item: int, number: int) -> list[Segment]:
        opened = self._opened[item][number]
        chain = self._rails[item]
        depth = chain.index(opened)
        segments = [Segment(" " * (_MARK_WIDTH + _TIME_WIDTH))]
        for outer in chain[: min(depth, MAX_RAILS)]:
            segments.append(Segment("│ ", self._rail_style(outer)))
        style = self._rail_style(opened)
        if depth < MAX_RAILS:
            segments.append(Segment("╭╴", style))
        segments.append(Segment(visible(self.session.speaker.context(opened.node)), style))
        return segments

    def _item_line(self, item: int, line: int) -> list[Segment]:
        styles = self._styles
        lines = self._wrapped(item)
        segments = [
            self._mark(item, line),
            Segment(self._time(item) if line == 0 else " " * _TIME_WIDTH, styles["faint"]),
        ]
        last_line = line == len(lines) - 1
        for rail in self._rails[item][:MAX_RAILS]:
            closes = last_line and rail.last == item
            segments.append(Segment("╰ " if closes else "│ ", self._rail_style(rail)))
        start, end = lines[line]
        for text, kind, is_found in self._with_found(item, start, end):
            style = styles.get(kind)
            text = in_sight(text)
            segments.append(Segment(text, (style or Style()) + styles["found"] if is_found else style))
        return segments

    def _with_found(self, item: int, start: int, end: int) -> Iterator[tuple[str, str, bool]]:
        """Yield the pieces of a line, parted where text that was looked for begins and ends."""
        shown = self._line_of(item)
        found = [each.span() for each in self._sought.finditer(shown.text)] if self._sought is not None else []
        edges = [start, *sorted({edge for span in found for edge in span if start < edge < end}), end]
        for left, right in pairwise(edges):
            is_found = any(first <= left < last for first, last in found)
            for text, kind in slice_pieces(shown.pieces, left, right):
                yield text, kind, is_found

    def _mark(self, item: int, line: int) -> Segment:
        if line or item not in self._marked:
            return Segment(" " * _MARK_WIDTH)
        focus = self._focus_item()
        has_focus = focus is not None and focus.index == item
        text = ("►" if self._is_cursor(item) else " ") + ("◆" if has_focus else " ") + " "
        return Segment(text, self._styles["mark"])

    def _time(self, item: int) -> str:
        return f"{clock(self.session.spoken.start(item)):>{_TIME_WIDTH - 1}} "

    def _rail_style(self, rail: Container) -> Style:
        return self._styles["rail-landmark" if rail.node.is_landmark else "rail-group"]

    # The mouse

    def on_click(self, event: events.Click) -> None:
        """Go to the item that was clicked."""
        row = event.y + self.scroll_offset.y
        if 0 <= row < len(self._rows):
            self.post_message(self.Chosen(self._rows[row][0], is_double=event.chain == 2))


def _pattern(sought: object) -> re.Pattern[str] | None:
    """Return what finds the text that was looked for, capitals or not."""
    words = sought.split() if isinstance(sought, str) else []
    return re.compile(r"\s+".join(map(re.escape, words)), re.IGNORECASE) if words else None


class _Line(NamedTuple):
    """An item's line as pieces and as text; contexts stand where rails open, and not again there."""

    pieces: list[Piece]
    text: str

    @classmethod
    def of(cls, utterance: Utterance) -> _Line:
        shown = pieces(Utterance(tuple(part for part in utterance.parts if part.kind is not PartKind.CONTEXT)))
        return cls(shown, "".join(text for text, _ in shown))


def _rails_by_item(session: ReadingSession) -> list[list[Container]]:
    """The rails beside each item, the outermost first; items with the same container share one list."""
    known: dict[Container | None, list[Container]] = {None: []}
    rails = []
    for item in session.readout.items:
        container = item.container
        if container is not None and container not in known:
            known[container] = [each for each in container.chain() if each.node.role in RAIL_ROLES]
        rails.append(known[container])
    return rails


def _openings(session: ReadingSession) -> list[list[Container]]:
    """The rails that open before each item."""
    openings: list[list[Container]] = []
    before: Container | None = None
    for item in session.readout.items:
        container = item.container
        entered = entered_containers(before, container) if container is not before else []
        openings.append([each for each in entered if each.node.role in RAIL_ROLES])
        before = item.objects[-1].container
    return openings
