"""Running drills: the widgets of a page one after the other, each on a page of its own."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import replace
from types import MappingProxyType

from murvel.checks.engine.check import Finding
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.lead import Lead
from murvel.checks.engine.record import Record, record_of
from murvel.dom.document import Element
from murvel.dom.places import Paths
from murvel.drills.errors import DrillError, NotReachedError
from murvel.drills.found import Drilled, Kind, Widget
from murvel.drills.keys import drill_composite, drill_range, drill_toggle
from murvel.drills.opening import drill_opener
from murvel.drills.routes import drill_route
from murvel.drills.showing import drill_form, drill_tip
from murvel.drills.slides import drill_carousel
from murvel.drills.walker import Walked, Walker
from murvel.drills.widgets import widgets_of
from murvel.reader.acting import load
from murvel.reader.moves.commands import repeated
from murvel.reader.session import ReadingSession

_DRILLS: Mapping[Kind, Callable[[Walker, int, Drilled], None]] = MappingProxyType(
    {
        **dict.fromkeys((Kind.DISCLOSURE, Kind.MENU, Kind.DIALOG, Kind.COMBOBOX), drill_opener),
        Kind.COMPOSITE: drill_composite,
        Kind.RANGE: drill_range,
        Kind.TOGGLE: drill_toggle,
        Kind.TIP: drill_tip,
        Kind.CAROUSEL: drill_carousel,
        Kind.ROUTE: drill_route,
        Kind.FORM: drill_form,
    }
)
assert set(_DRILLS) == set(Kind), "a kind has no drill"

_LONGEST_WALK = 12
"""Moves that a record names; of a longer walk the last ones."""


def widgets(session: ReadingSession, only: Iterable[Kind] = ()) -> list[Widget]:
    """Return the widgets of the page of a session that can be drilled, in reading order.

    Args:
        session: the session.
        only: the kinds that are wanted; all but forms if there are none: a form that is sent may leave the page.
    """
    return split(session, only)[0]


def split(session: ReadingSession, only: Iterable[Kind] = ()) -> tuple[list[Widget], list[Widget]]:
    """Return the widgets of a page that are drilled, and those that are not.

    Args:
        session, only: as in `widgets`.
    """
    wanted = set(only) or set(Kind) - {Kind.FORM}
    found = list(widgets_of(Facts(session)))
    return [each for each in found if each.kind in wanted], [each for each in found if each.kind not in wanted]


def drill(session: ReadingSession, widget: Widget, tell: Callable[[Walked], None] = lambda _: None) -> Drilled:
    """Drill one widget of the page of a session, which is worked by it.

    Args:
        session: the reading of the page, with a stage.
        widget: the widget.
        tell: is called with each step as it is done; what it raises ends the drill.

    Raises:
        DrillError: there is no page behind the tree, or the widget is not on it.
    """
    stage = session.stage
    if stage is None:
        raise DrillError("Keys do nothing on this page", "drill the page itself, not a tree or a capture of it.")
    element = _by_path(session).get(widget.path)
    key = stage.key_of(element) if element is not None else None
    if key is None:
        raise DrillError(f"The page has no widget at {widget.path} any more", "drill the page again.")
    drilled = Drilled(widget)
    walker = Walker(session, stage, tell, drilled.walk)
    mode = session.mode
    try:
        _DRILLS[widget.kind](walker, key, drilled)
    except NotReachedError as error:
        drilled.not_reached = str(error)
    session.mode = mode
    return drilled


def drill_page(open_page: Callable[[], ReadingSession], only: Iterable[Kind] = ()) -> Iterator[Drilled]:
    """Drill the widgets of a page, each on the page as it arrives; yield what came of each.

    Args:
        open_page: opens the page; what it returns is closed after use.
        only: the kinds that are wanted.
    """
    with_page = open_page()
    found = widgets(with_page, only)
    _close(with_page)
    for widget in found:
        session = open_page()
        session.arrive()
        load(session)
        try:
            yield drill(session, widget)
        finally:
            _close(session)


def _close(session: ReadingSession) -> None:
    if session.stage is not None:
        session.stage.close()


def leads_of(page: Facts, drilled: Drilled) -> Iterator[tuple[Lead, list[Walked]]]:
    """Yield what a drill found, each as a lead with the walk that led to it; nothing if the widget is not there.

    Args:
        page: the page.
        drilled: what came of the drill.
    """
    element = _by_path(page.session).get(drilled.widget.path)
    for fault in drilled.faults if element is not None else ():
        assert element is not None
        walk = drilled.walk[: fault.at]
        finding = Finding(element, fault.detail, fault.certainty, walk[-1].heard if walk else "")
        yield Lead(fault.check, finding, page.node_around(element), page), walk


def records_of(session: ReadingSession, drilled: Iterable[Drilled]) -> list[Record]:
    """Return what drills found as plain data, as checks give theirs; the moves are the walk.

    Args:
        session: the page as it arrives.
        drilled: what came of the drills.
    """
    page = Facts(session)
    found = (each for one in drilled for each in leads_of(page, one))
    return [replace(record_of(lead), moves=tuple(walk_lines(walk))) for lead, walk in found]


def walk_lines(walk: list[Walked]) -> list[str]:
    """Return a walk as the words of its moves, the same in a row once with how often."""
    lines: list[tuple[str, int]] = []
    for step in walk[-_LONGEST_WALK:]:
        if lines and lines[-1][0] == step.move:
            lines[-1] = (step.move, lines[-1][1] + 1)
        else:
            lines.append((step.move, 1))
    return [repeated(words, times) for words, times in lines]


def _by_path(session: ReadingSession) -> dict[str, Element]:
    document = session.tree.document
    paths = Paths()
    elements = (document.root, *document.root.descendants())
    return {paths.of(each): each for each in elements if isinstance(each, Element)}
