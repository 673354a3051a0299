"""The drills of what keys change: parts of composite widgets, ranges, toggles."""

from __future__ import annotations

from murvel.checks.engine.check import FAILS, NEEDS_EARS
from murvel.drills import faults
from murvel.drills.found import Drilled
from murvel.drills.promises import PARTS, PROMISES
from murvel.drills.walker import Walker, is_said
from murvel.stage.inputs import Keystroke
from murvel.tree.node import Node

_OPPOSITE = {
    Keystroke.DOWN: Keystroke.UP, Keystroke.UP: Keystroke.DOWN, Keystroke.LEFT: Keystroke.RIGHT,
    Keystroke.RIGHT: Keystroke.LEFT,
}  # fmt: skip
_STATES = ("checked", "pressed", "selected", "expanded")


def drill_composite(walker: Walker, key: int, drilled: Drilled) -> None:
    """Does an arrow lead on, and does Tab leave it?"""
    node = walker.node(key)
    if node is None:
        return
    stops = walker.stops_in(key)
    if not stops:
        drilled.fault(faults.NOT_REACHED, certainty=NEEDS_EARS)  # it may only show something
        return
    walker.come_to(key)
    parts = _count_of_parts(walker, node)
    if parts > 1 and not _leads_on(walker, key, node.role):
        reached = f"{len(stops)} of its {parts} parts are Tab stops"
        certainty = NEEDS_EARS if len(stops) >= parts else FAILS
        drilled.fault(faults.NO_ARROWS, f"{_section(node.role)}; {reached}", certainty)
    _judge_leaving(walker, key, drilled)


def _within(walker: Walker, node: Node) -> list[Node]:
    return walker.session.tree.nodes[node.id + 1 : node.end]


def _count_of_parts(walker: Walker, node: Node) -> int:
    return sum(each.role in PARTS for each in _within(walker, node))


def _leads_on(walker: Walker, key: int, role: str) -> bool:
    for stroke in PROMISES[role].strokes:
        before = _standing(walker, key)
        walker.press(stroke)
        if _standing(walker, key) != before:
            return True
    return False


def _standing(walker: Walker, key: int) -> tuple[object, ...]:
    """Where the keys stand in a widget, and what is chosen in it."""
    node = walker.node(key)
    chosen = (
        tuple(
            walker.stage.key_of(each.element)
            for each in _within(walker, node)
            if each.states.get("selected") is True or each.states.get("checked") is True
        )
        if node is not None
        else ()
    )
    return walker.place, chosen


def _judge_leaving(walker: Walker, key: int, drilled: Drilled) -> None:
    """Does Tab leave it, does Shift+Tab come back, and leave it at the other end?"""
    if not _leaves(walker):
        drilled.fault(faults.TRAP)
        return
    if walker.is_at(key) or walker.focus is None:
        return  # each part is a stop, or it was the last one of the page
    walker.tab(is_back=True)
    if not walker.is_at(key):
        drilled.fault(faults.BACK_ELSEWHERE)
    elif not _leaves(walker, is_back=True):
        drilled.fault(faults.TRAP, "with Shift+Tab")


def _leaves(walker: Walker, *, is_back: bool = False) -> bool:
    start = walker.focus
    for _ in range(3):
        walker.tab(is_back=is_back)
        if walker.focus != start:
            return True
    return start is None


def drill_range(walker: Walker, key: int, drilled: Drilled) -> None:
    """Does an arrow change the value, and is that heard? The value is put back."""
    node = walker.node(key)
    if node is None:
        return
    walker.come_to(key)
    if not walker.is_at(key):
        drilled.fault(faults.NOT_REACHED)
        return
    before = node.value
    for stroke in PROMISES[node.role].strokes:
        heard = walker.press(stroke)
        now = walker.node(key)
        if now is not None and now.value != before:
            if not is_said(heard):
                drilled.fault(faults.SILENT)
            walker.press(_OPPOSITE[stroke])
            again = walker.node(key)
            drilled.is_restored = again is not None and again.value == before
            return
    drilled.fault(faults.NO_ARROWS, _section(node.role))


def drill_toggle(walker: Walker, key: int, drilled: Drilled) -> None:
    """Does Space change the state, and is that heard? The state is put back."""
    walker.come_to(key)
    if not walker.is_at(key):
        drilled.fault(faults.NOT_REACHED)
        return
    before = _state(walker, key)
    for stroke in (Keystroke.SPACE, Keystroke.ENTER):
        exposed = walker.exposed()
        heard = walker.press(stroke)
        if _state(walker, key) != before:
            if not is_said(heard):
                drilled.fault(faults.SILENT)
            if not walker.is_at(key):
                walker.reach(key)
            walker.press(stroke)
            drilled.is_restored = _state(walker, key) == before
            return
        if walker.exposed() != exposed:
            drilled.fault(faults.STATE_STUCK)
            walker.press(stroke)
            return
    walker.click(key)
    if _state(walker, key) != before:
        drilled.fault(faults.POINTER_ONLY, certainty=FAILS)
        walker.click(key)
        drilled.is_restored = _state(walker, key) == before
    else:
        node = walker.node(key)
        if node is not None and node.role == "button":  # as one for bold text, while no text is selected
            detail = "neither keys nor a click change it; it may need something else first"
            drilled.fault(faults.STATE_STUCK, detail, NEEDS_EARS)
        else:
            drilled.fault(faults.STATE_STUCK, "neither keys nor a click change it")


def _state(walker: Walker, key: int) -> tuple[object, ...]:
    node = walker.node(key)
    return tuple(node.states.get(name) for name in _STATES) if node is not None else ()


def _section(role: str) -> str:
    return f"WAI-ARIA 1.2 {PROMISES[role].section}"
