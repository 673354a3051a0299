"""The drill of links that change the view without a new page, as routers do: is the new view heard?"""

from __future__ import annotations

from murvel.drills import faults
from murvel.drills.found import Drilled
from murvel.drills.walker import Walker, is_said
from murvel.stage.inputs import Keystroke

_MOMENT = 1.5
"""Seconds that a view has to come."""


def drill_route(walker: Walker, key: int, drilled: Drilled) -> None:
    """Does the title change with the address; is the new view announced, or does it get the focus?"""
    document, root = walker.session.tree.document, walker.stage.key_of(walker.session.tree.document.root)
    title, address = document.title, document.address
    walker.come_to(key)
    if not walker.is_at(key):
        drilled.fault(faults.NOT_REACHED)
        return
    before, focus = walker.exposed(), walker.focus
    heard = [walker.press(Keystroke.ENTER), walker.wait(_MOMENT)]
    drilled.is_restored = False
    document = walker.session.tree.document
    if root is None or walker.element(root) is None or document.address == address:
        return  # another page has come, or it leads nowhere else
    appeared = walker.exposed() - before
    if document.title == title:
        drilled.fault(faults.TITLE_STAYS, f"“{title}”" if title else "the page has no title")
    is_moved = walker.focus is not None and walker.focus != focus
    if appeared and not is_moved and not any(is_said(each) for each in heard):
        drilled.fault(faults.VIEW_UNSAID, "the focus is lost" if walker.focus is None else "")
