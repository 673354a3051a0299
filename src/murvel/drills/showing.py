"""The drills of what shows by itself: tips, and the errors of a form."""

from __future__ import annotations

from murvel.checks.engine.check import NEEDS_EARS
from murvel.dom.html.forms import form_of
from murvel.dom.html.inputs import control_type
from murvel.drills import faults
from murvel.drills.found import Drilled
from murvel.drills.walker import Walker, is_said
from murvel.stage.inputs import Keystroke


def drill_tip(walker: Walker, key: int, drilled: Drilled) -> None:
    """Does what a pointer shows show with the focus too, and can it be put away?"""
    before = walker.exposed()
    is_shown_by_pointer = False
    if walker.stage.is_live:
        walker.hover(key)
        shown_by_pointer = walker.exposed() - before
        is_shown_by_pointer = bool(shown_by_pointer)
        if is_shown_by_pointer:
            walker.hover(min(shown_by_pointer))
            if not walker.exposed() - before:
                drilled.fault(faults.TIP_GOES)
                walker.hover(key)
            walker.press(Keystroke.ESCAPE)
            if walker.exposed() - before:
                drilled.fault(faults.TIP_STAYS, "after the pointer")
            walker.hover_away()
        elif drilled.widget.is_guess:
            return
    walker.come_to(key)
    if not walker.is_at(key):
        drilled.fault(faults.NOT_REACHED if not is_shown_by_pointer else faults.HOVER_ONLY)
        return
    shown = walker.exposed() - before
    if is_shown_by_pointer and not shown:
        drilled.fault(faults.HOVER_ONLY)
    elif shown:
        walker.press(Keystroke.ESCAPE)
        if shown & walker.exposed():
            drilled.fault(faults.TIP_STAYS, "after the focus")


def drill_form(walker: Walker, key: int, drilled: Drilled) -> None:
    """Is it heard what is wrong with a form that is sent with nothing in it? The page does not stay as it was."""
    form = walker.element(key)
    page = walker.session.tree
    button = next(
        (
            node
            for node in page.nodes
            if node.role == "button"
            and form_of(page.document, node.element) is form
            and control_type(node.element) in ("submit", "image")
        ),
        None,
    )
    send = walker.stage.key_of(button.element) if button is not None else None
    drilled.is_restored = False
    if send is None:
        return
    walker.come_to(send)
    before, silent = walker.exposed(), len(walker.session.silent)
    heard = walker.press(Keystroke.ENTER)
    if walker.focus != send or is_said(heard):
        return
    appeared = bool(walker.exposed() - before) or len(walker.session.silent) > silent
    if appeared:
        drilled.fault(faults.ERROR_UNSAID)
    elif walker.element(send) is not None:
        drilled.fault(faults.SILENT, "nothing is said of what came of sending it", NEEDS_EARS)
