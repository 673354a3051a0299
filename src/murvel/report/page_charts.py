"""Charts of a whole page: its leads by topic, its headings as an outline, its landmarks as a map."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Certainty, Topic
from murvel.checks.engine.run import leads_of
from murvel.reader.session import ReadingSession
from murvel.reader.speech.timing import clock
from murvel.report.drawing import Bars, short
from murvel.survey.entry import Entry, Slice
from murvel.survey.survey import list_of
from murvel.text import visible

if TYPE_CHECKING:
    from matplotlib.figure import Figure

_BAR_WIDTH = 40
_LABEL_HEIGHT = 0.12
"""What a label of a map needs, in inches: where there is less, it is left out, and stands in the description."""


def _title(session: ReadingSession) -> str:
    return session.tree.document.title or session.tree.document.address


def lead_counts(session: ReadingSession, catalogue: Catalogue) -> dict[str, Counter[Certainty]]:
    """Return how many leads there are of each topic and certainty."""
    topics = [*Topic, *(check.topic for check in catalogue)]
    counts: dict[str, Counter[Certainty]] = {str(topic): Counter() for topic in topics}
    for lead in leads_of(session, catalogue):
        counts[lead.check.topic][lead.certainty] += 1
    return counts


def leads_lines(session: ReadingSession, catalogue: Catalogue) -> Iterator[str]:
    """Yield how many leads there are of each topic, with a bar: full for what fails, light for what needs-ears."""
    counts = lead_counts(session, catalogue)
    most = max((sum(each.values()) for each in counts.values()), default=0) or 1
    for topic, each in counts.items():
        fails, ears = each[Certainty.FAILS], each[Certainty.NEEDS_EARS]
        scale = min(1.0, _BAR_WIDTH / most)
        bar = "█" * round(fails * scale) + "░" * round(ears * scale)
        yield f"{topic:<10} {fails:>4} fail {ears:>4} need ears  {bar}"


def leads_bars(session: ReadingSession, catalogue: Catalogue) -> Bars:
    """Return the leads by topic and certainty, ready to be drawn."""
    counts = lead_counts(session, catalogue)
    said = "; ".join(
        f"{topic}: {each[Certainty.FAILS]} fail, {each[Certainty.NEEDS_EARS]} need ears"
        for topic, each in counts.items()
    )
    series = [
        (certainty.value, [float(each[certainty]) or None for each in counts.values()]) for certainty in Certainty
    ]
    return Bars(f"Leads: {_title(session)}", said, "leads", list(counts), series)


def heading_lines(session: ReadingSession) -> Iterator[str]:
    """Yield the outline, a heading a line."""
    yield from map(_line, _heard(session, Slice.HEADINGS))


def landmark_lines(session: ReadingSession) -> Iterator[str]:
    """Yield the landmarks, nested, and what is outside of them."""
    yield from map(_line, _heard(session, Slice.LANDMARKS))


def _line(entry: Entry) -> str:
    remark = f"  ({entry.remark})" if entry.remark else ""
    return visible(f"{clock(entry.time or 0):>6} {'  ' * entry.depth}{entry.utterance.text}{remark}")


def _heard(session: ReadingSession, slice_: Slice) -> list[Entry]:
    return [entry for entry in list_of(session, slice_) if entry.is_heard]


@dataclass(frozen=True, slots=True)
class MapBlock:
    """A rectangle of a map, in seconds of listening from the top, with how deep it stands and its words."""

    start: float
    end: float
    depth: int
    words: str
    is_broken: bool = False


@dataclass(frozen=True, slots=True)
class Map:
    """Blocks under and in each other, down the page in listening time."""

    title: str
    description: str
    blocks: tuple[MapBlock, ...]

    def figure(self) -> Figure:
        """Return the map drawn; what is broken is hatched, and what is too near to the one before has no label."""
        from matplotlib.figure import Figure
        from matplotlib.patches import Rectangle

        height = max(3.0, min(0.24 * len(self.blocks) + 1.5, 14))
        figure = Figure(figsize=(9, height), layout="constrained")
        axes = figure.add_subplot()
        total = max((block.end for block in self.blocks), default=1.0)
        deepest = max((block.depth for block in self.blocks), default=0)
        least = _LABEL_HEIGHT * total / height
        labelled: dict[int, float] = {}
        for at, block in enumerate(self.blocks):
            axes.add_patch(
                Rectangle(
                    (block.depth, block.start), deepest + 4 - block.depth, max(block.end - block.start, total / 400),
                    facecolor=str(max(0.75, 0.97 - 0.04 * block.depth)), edgecolor="black",
                    linewidth=0.7 if block.end - block.start >= least / 2 else 0.1,
                    hatch="////" if block.is_broken else None, zorder=block.depth,
                )
            )  # fmt: skip
            if block.start - labelled.get(block.depth, -total) < least:
                continue  # it would stand over the one before
            labelled[block.depth] = block.start
            axes.annotate(
                short(block.words), (block.depth, block.start), xytext=(4, -8), textcoords="offset points", fontsize=7,
                parse_math=False, zorder=100 + at, bbox={"facecolor": "white", "edgecolor": "none", "pad": 0.6},
            )  # fmt: skip
        axes.set_xlim(0, deepest + 4)
        axes.set_ylim(total, 0)
        axes.set_xticks([])
        axes.set_ylabel("seconds of listening")
        axes.set_title(short(self.title), loc="left", parse_math=False)
        axes.spines[["top", "right", "bottom"]].set_visible(False)
        return figure


def heading_map(session: ReadingSession) -> Map:
    """Return the outline, ready to be drawn: each heading reaches to the next of its level or above."""
    entries = _heard(session, Slice.HEADINGS)
    blocks = []
    for at, entry in enumerate(entries):
        end = next((each.time for each in entries[at + 1 :] if each.depth <= entry.depth), session.spoken.total)
        words = f"{entry.utterance.text} ({entry.remark})" if entry.remark else entry.utterance.text
        blocks.append(MapBlock(entry.time or 0.0, end or 0.0, entry.depth, words, bool(entry.remark)))
    return Map(f"Headings: {_title(session)}", "; ".join(map(_line, entries)) or "No headings.", tuple(blocks))


def landmark_map(session: ReadingSession) -> Map:
    """Return the landmarks, ready to be drawn, each as long as it takes to hear it; what is outside is hatched."""
    entries = _heard(session, Slice.LANDMARKS)
    blocks = []
    for entry in entries:
        last = session.readout.last_object(entry.node) if entry.node is not None else None
        if last is not None and entry.time is not None:
            end = session.spoken.start(last.item.index + 1)
            words = f"{entry.utterance.text} ({entry.remark})" if entry.remark else entry.utterance.text
            blocks.append(MapBlock(entry.time, end, entry.depth, words, bool(entry.remark)))
    return Map(f"Landmarks: {_title(session)}", "; ".join(map(_line, entries)) or "No landmarks.", tuple(blocks))
