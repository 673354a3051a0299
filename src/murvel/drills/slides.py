"""The drill of carousels: do they move on by themselves, and is it heard what a button shows?"""

from __future__ import annotations

import re

from murvel.checks.engine.check import NEEDS_EARS
from murvel.drills import faults
from murvel.drills.found import Drilled
from murvel.drills.walker import Walker, is_said
from murvel.patterns import pattern
from murvel.stage.inputs import Keystroke
from murvel.tree.node import Node

_LONG = 6.0
"""Seconds that are waited for a carousel to move on: WCAG 2.2, 2.2.2, speaks of five."""

STOPS = pattern(r"paus|stop|anhalt|arrêt|parar|detener|ferma|zatrzym|停|一時停止", re.IGNORECASE)
"""What the button that stops it is called, in the languages of the voices."""

_BACK = pattern(r"prev|back|zurück|vorig|précéd|anterior|preced|poprz|上一|前", re.IGNORECASE)


def drill_carousel(walker: Walker, key: int, drilled: Drilled) -> None:
    """Does it move on by itself with nothing to stop it; is what its buttons show said, or next to be read?"""
    before = _shown(walker, key)
    walker.wait(_LONG)
    if _shown(walker, key) != before and not any(STOPS.search(each.name) for each in _buttons(walker, key)):
        drilled.fault(faults.MOVES_ON)
    buttons = [each for each in _buttons(walker, key) if not STOPS.search(each.name) and not _BACK.search(each.name)]
    button = walker.stage.key_of(buttons[-1].element) if buttons else None
    if button is None:
        return
    drilled.is_restored = False
    walker.come_to(button)
    if not walker.is_at(button):
        drilled.fault(faults.NOT_REACHED)
        return
    before = _shown(walker, key)
    heard = walker.press(Keystroke.ENTER)
    if _shown(walker, key) == before:
        heard = walker.wait(1.0)
    if _shown(walker, key) != before and not is_said(heard):
        drilled.fault(faults.SILENT, "another slide shows", NEEDS_EARS)


def _within(walker: Walker, key: int) -> list[Node]:
    node = walker.node(key)
    return walker.session.tree.nodes[node.id : node.end] if node is not None else []


def _shown(walker: Walker, key: int) -> list[str]:
    """The words of what is exposed in a carousel; those of its buttons may tell a state and are left out."""
    return [each.name for each in _within(walker, key) if each.name and each.role != "button"]


def _buttons(walker: Walker, key: int) -> list[Node]:
    return [each for each in _within(walker, key) if each.role == "button"]
