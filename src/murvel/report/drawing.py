"""Drawings as SVG or PDF: readable in black and white, with title and description inside an SVG."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Protocol
from xml.sax.saxutils import escape

from murvel.files.outputs import must_be_replaceable
from murvel.files.replacing import write_bytes
from murvel.report.errors import ReportError
from murvel.text import visible

if TYPE_CHECKING:
    from matplotlib.figure import Figure

SUFFIXES = (".svg", ".pdf")

_HATCHES = ("", "////", "....", "xxxx", "\\\\\\\\")
_GREYS = ("0.25", "0.55", "0.7", "0.8", "0.9")
_LONGEST_LABEL = 48


class Drawing(Protocol):
    """What can be drawn: a figure, with a title and a description for those who hear it."""

    @property
    def title(self) -> str:
        """What is drawn."""

    @property
    def description(self) -> str:
        """The same in words."""

    def figure(self) -> Figure:
        """Return it drawn."""


@dataclass(frozen=True, slots=True)
class Bars:
    """Horizontal bars in groups.

    Attributes:
        title, description: what is drawn, for those who see it and those who hear it.
        axis: what the length of a bar means.
        labels: a label for each group, from the top.
        series: for each series its name and a length for each group, None if there is no bar.
        starts: where the bars of each group begin, at nought unless said otherwise.
    """

    title: str
    description: str
    axis: str
    labels: Sequence[str]
    series: Sequence[tuple[str, Sequence[float | None]]]
    starts: Sequence[float] | None = None

    def figure(self) -> Figure:
        """Return the bars drawn."""
        return _bar_figure(self)


def draw(drawing: Drawing, path: Path, *, force: bool = False) -> None:
    """Draw into a file; with `force` also into one that Murvel did not write.

    Raises:
        ReportError: the file cannot be written or is not ours, its name ends in neither .svg nor .pdf, or the extra is
            not there.
    """
    if path.suffix.lower() not in SUFFIXES:
        raise ReportError(f"A drawing is an .svg or a .pdf file, not {visible(path.name)}.")
    try:
        import matplotlib  # only here: it takes long to load, and most commands draw nothing
    except ImportError as error:
        raise ReportError("Drawing needs the extra “charts”", "pip install 'murvel[charts]' installs it.") from error

    matplotlib.rcParams["svg.hashsalt"] = "murvel"
    matplotlib.rcParams["svg.fonttype"] = "none"
    must_be_replaceable(path, ReportError, force=force)
    figure = drawing.figure()
    drawn = io.BytesIO()  # the library does not end well where its file cannot be written
    metadata = {"Title": visible(drawing.title), "Creator": "Murvel"}
    figure.savefig(drawn, format=path.suffix.lower()[1:], metadata=metadata)
    data = drawn.getvalue()
    write_bytes(_described(data, drawing) if path.suffix.lower() == ".svg" else data, path, "drawing", ReportError)


def _bar_figure(bars: Bars) -> Figure:
    from matplotlib.figure import Figure

    count, groups = max(1, len(bars.series)), max(1, len(bars.labels))
    figure = Figure(figsize=(9, 1.6 + 0.18 * count * groups + 0.12 * groups), layout="constrained")
    axes = figure.add_subplot()
    height = 0.8 / count
    for number, (name, lengths) in enumerate(bars.series):
        places = [group + (number - (count - 1) / 2) * height for group, each in enumerate(lengths) if each is not None]
        widths = [each for each in lengths if each is not None]
        starts = bars.starts if bars.starts is not None else [0.0] * len(lengths)
        axes.barh(
            places,
            widths,
            left=[start for start, each in zip(starts, lengths, strict=True) if each is not None],
            height=height * 0.9,
            label=name,
            color=_GREYS[number % len(_GREYS)],
            hatch=_HATCHES[number % len(_HATCHES)],
            edgecolor="black",
            linewidth=0.5,
        )
    axes.set_yticks(range(len(bars.labels)), [short(each) for each in bars.labels], parse_math=False)
    axes.set_ylim(groups - 0.4, -0.6)
    axes.set_xlabel(bars.axis)
    axes.set_title(short(bars.title), loc="left", parse_math=False)
    axes.spines[["top", "right"]].set_visible(False)
    if len(bars.series) > 1:
        axes.legend(frameon=False, loc="lower right")
    return figure


def short(text: str) -> str:
    """Return text of a page as a label: nothing in it that is not seen, and not long."""
    text = visible(text)
    return text if len(text) <= _LONGEST_LABEL else text[: _LONGEST_LABEL - 1] + "…"


def _described(data: bytes, drawing: Drawing) -> bytes:
    """Put title and description first into an SVG, and say that it is an image (SVG-AAM 1.0 §8)."""
    markup = data.decode("utf-8")
    start = markup.index(">", markup.index("<svg")) + 1
    texts = f"<title>{escape(visible(drawing.title))}</title>\n<desc>{escape(visible(drawing.description))}</desc>\n"
    opening = markup[:start].replace("<svg", '<svg role="img"', 1)
    return f"{opening}\n{texts}{markup[start:]}".encode()
