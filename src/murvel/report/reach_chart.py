"""The chart "cost to reach", as a drawing and as lines of text."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.reader.moves.reach import Reach, Strategy, Ways, important, stretches
from murvel.reader.session import ReadingSession
from murvel.report.drawing import Bars
from murvel.text import visible
from murvel.tree.roles.aria_roles import BUTTONS, LINKS

_BAR_WIDTH = 40


_MOST_DRAWN = 150


def reach_bars(session: ReadingSession) -> Bars:
    """Return the chart of a page: seconds to the main content, headings, fields, links and buttons, by strategy.

    Where those are very many, links and buttons are left to the chart as text.
    """
    ways = Ways(session)
    nodes = important(session)
    if len(nodes) > _MOST_DRAWN:
        nodes = [node for node in nodes if node.role not in LINKS | BUTTONS]
    reaches = [ways.to(node) for node in nodes]
    title = session.tree.document.title or session.tree.document.address
    series = [
        (strategy.value, [each.costs[strategy].seconds if strategy in each.costs else None for each in reaches])
        for strategy in Strategy
        if any(strategy in each.costs for each in reaches)
    ]
    return Bars(
        f"Cost to reach: {title}",
        "; ".join(_sentence(session, each) for each in reaches) or "Nothing on this page is a heading or a field.",
        f"seconds of listening in the voice “{session.voice.title}”, {session.voice.rate} words a minute",
        [_label(session, each) for each in reaches],
        series,
    )


def reach_lines(session: ReadingSession) -> Iterator[str]:
    """Yield the chart as lines: what is reached, the quickest way with its presses and seconds, and a bar of these."""
    ways = Ways(session)
    reaches = [ways.to(node) for node in important(session)]
    most = max((each.best[1].seconds for each in reaches if each.best), default=0.0)
    for each in reaches:
        best = each.best
        if best is None:
            continue
        strategy, cost = best
        bar = "█" * max(1, round(cost.seconds / most * _BAR_WIDTH)) if most else "█"
        yield f"{cost.seconds:>6.1f} s  {cost.presses:>3} keys by {strategy.value:<10}{bar}  {_label(session, each)}"
        others = [
            f"{way.value} {other.seconds:.1f} s, {other.presses} keys"
            for way, other in each.costs.items()
            if way is not strategy
        ]
        if others:
            yield f"{'':>10}else {'; '.join(others)}"
    found = stretches(session)
    yield f"Longest run of links before the main content: {found.links_before_main}."
    yield f"Longest stretch without a heading: {found.without_heading:.0f} s."


def _label(session: ReadingSession, each: Reach) -> str:
    return visible(session.speaker.say_alone(each.node).text)


def _sentence(session: ReadingSession, each: Reach) -> str:
    best = each.best
    if best is None:
        return f"{_label(session, each)} cannot be reached"
    return f"{_label(session, each)}: {best[1].seconds:.0f} seconds by {best[0].value}"
