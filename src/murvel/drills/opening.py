"""The drill of what opens something: disclosures, menus, dialogs, lists of comboboxes."""

from __future__ import annotations

from collections.abc import Callable

from murvel.checks.engine.check import FAILS, NEEDS_EARS
from murvel.dom.document import Element
from murvel.drills import faults
from murvel.drills.found import Drilled, Kind
from murvel.drills.promises import PARTS
from murvel.drills.walker import Walker, is_said
from murvel.stage.inputs import Keystroke
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import DIALOGS

_MOST_TABS, _MOST_ITEMS = 30, 12
_CLOSED_BY_ESCAPE = frozenset({Kind.MENU, Kind.DIALOG, Kind.COMBOBOX})
_MAY_OPEN_BY_ARROW = frozenset({Kind.COMBOBOX, Kind.MENU})


def drill_opener(walker: Walker, key: int, drilled: Drilled) -> None:
    """Drill what opens something; it is closed again."""
    kind = drilled.widget.kind
    before = walker.exposed()
    hidden = walker.present() - before
    walker.opening = hidden if drilled.widget.is_guess else None  # what scripts add is not something that opens
    walker.come_to(key)
    if not walker.is_at(key):
        _without_keys(walker, key, drilled, before)
        return
    if walker.exposed() & hidden:
        drilled.fault(faults.OPENS_ON_FOCUS)
        walker.press(Keystroke.ESCAPE)
        before = walker.exposed()
    had_state = _expanded(walker, key)
    silent = len(walker.session.silent)
    opened = _Opened.by(walker, key, before, lambda: walker.press(Keystroke.ENTER))
    if opened is None and drilled.widget.is_guess and len(walker.session.silent) > silent:
        _tell_silent(walker, drilled, silent)
        return
    if opened is None and kind in _MAY_OPEN_BY_ARROW:
        opened = _Opened.by(walker, key, before, lambda: walker.press(Keystroke.DOWN))
    is_by_enter = opened is not None
    if opened is None:
        walker.reach(key)
        opened = _Opened.by(walker, key, before, lambda: walker.press(Keystroke.SPACE))
        if opened is None:
            _by_pointer(walker, key, drilled, before)
            return
        if _is_button(walker.node(key)):
            drilled.fault(faults.KEY_MISSING, "Enter does nothing")
    _judge_state(walker, key, drilled, opened, had_state)
    _judge_reach(walker, key, drilled, opened)
    is_closed = _close(walker, key, drilled, opened)
    if is_closed and is_by_enter and _is_button(walker.node(key)):
        walker.reach(key)
        if walker.exposed() & hidden:
            walker.press(Keystroke.ESCAPE)
        again = _Opened.by(walker, key, before, lambda: walker.press(Keystroke.SPACE))
        if again is None:
            drilled.fault(faults.KEY_MISSING, "Space does nothing")
        else:
            is_closed = _put_away(walker, key, again)
    drilled.is_restored = is_closed


class _Opened:
    """What opened: the keys of its elements, and whether the focus went into it."""

    def __init__(self, appeared: set[int], heard: str, *, has_focus: bool) -> None:
        self.appeared = appeared
        self.heard = heard
        self.has_focus = has_focus

    @classmethod
    def by(cls, walker: Walker, key: int, before: set[int], act: Callable[[], str]) -> _Opened | None:
        """Return what opens by a key; None if nothing does."""
        state = _expanded(walker, key)
        heard = act()
        appeared = walker.exposed() - before
        if walker.opening is not None:
            appeared &= walker.opening
        has_flipped = state is False and _expanded(walker, key) is True
        modal = walker.session.tree.document.modal
        if not appeared and not has_flipped and modal is None:
            return None
        return cls(appeared, heard, has_focus=walker.focus in appeared and walker.focus != key)

    def is_there(self, walker: Walker) -> bool:
        """Whether it is still open."""
        return bool(self.appeared & walker.exposed())


def _expanded(walker: Walker, key: int) -> bool | None:
    node = walker.node(key)
    found = node.states.get("expanded") if node is not None else None
    return found if isinstance(found, bool) else None


def _is_button(node: Node | None) -> bool:
    return node is not None and node.role in ("button", "disclosure")


def _tell_silent(walker: Walker, drilled: Drilled, known: int) -> None:
    """Something is shown by a key and not said: a message, or another part of the page."""
    change = walker.session.silent[known][1]
    drilled.fault(faults.SILENT, f"“{change.text}”" if change.text else change.kind.value, NEEDS_EARS)
    drilled.is_restored = False


def _without_keys(walker: Walker, key: int, drilled: Drilled, before: set[int]) -> None:
    """What Tab does not come to: does a click work it?"""
    if not drilled.widget.is_guess:
        drilled.fault(faults.NOT_REACHED)
    _by_pointer(walker, key, drilled, before)


def _by_pointer(walker: Walker, key: int, drilled: Drilled, before: set[int]) -> None:
    opened = _Opened.by(walker, key, before, lambda: walker.click(key))
    if opened is not None:
        drilled.fault(faults.POINTER_ONLY, certainty=FAILS)
        drilled.is_restored = _put_away(walker, key, opened)
    elif not drilled.widget.is_guess and all(each.check is not faults.NOT_REACHED for each in drilled.faults):
        drilled.fault(faults.NOTHING_OPENS)


def _judge_state(walker: Walker, key: int, drilled: Drilled, opened: _Opened, had_state: bool | None) -> None:
    """Is it said that it opens something, and that it is open now?"""
    is_dialog = drilled.widget.kind is Kind.DIALOG or opened.has_focus
    if had_state is None and not is_dialog:
        drilled.fault(faults.STATE_UNSAID)
    if had_state is False and _expanded(walker, key) is False and not walker.session.tree.document.modal:
        drilled.fault(faults.STATE_STUCK, "aria-expanded is still false")
    if not is_said(opened.heard) and not opened.has_focus and had_state is not None:
        drilled.fault(faults.SILENT, certainty=NEEDS_EARS)


def _judge_reach(walker: Walker, key: int, drilled: Drilled, opened: _Opened) -> None:
    """Is what opened reached next, by the focus, by arrows where a menu or list opened, or by Tab?"""
    kind = drilled.widget.kind
    inside = _stops_inside(walker, opened)
    if opened.has_focus:
        _judge_inside(walker, key, drilled, opened)
        return
    if kind in _MAY_OPEN_BY_ARROW and opened.appeared:
        _judge_arrow(walker, key, drilled, opened)
        return
    if inside:
        walker.tab()
        if walker.focus not in opened.appeared:
            drilled.fault(faults.NOT_NEXT, "the focus stays behind the dialog" if kind is Kind.DIALOG else "")
        elif opened.is_there(walker):
            walker.tab(is_back=True)
            if not walker.is_at(key):
                drilled.fault(faults.BACK_ELSEWHERE)
            walker.tab()  # it is closed from within
    elif opened.appeared and not _is_read_next(walker, key, opened):
        drilled.fault(faults.NOT_NEXT, "reading comes to something else first", NEEDS_EARS)


def _judge_inside(walker: Walker, key: int, drilled: Drilled, opened: _Opened) -> None:
    """With the focus in what opened: do arrows work in a menu; does a modal dialog keep the focus?"""
    if drilled.widget.kind in (Kind.MENU, Kind.COMBOBOX):
        _judge_arrow(walker, key, drilled, opened)
        _judge_levels(walker, drilled, opened)
        return
    dialog = _dialog_around(walker)
    if dialog is None or dialog.states.get("modal") is not True:
        return
    inside = walker.stage.key_of(dialog.element)
    for _ in range(min(len(walker.session.tree.tab_order) + 2, _MOST_TABS)):
        walker.tab()
        element = walker.element(walker.focus) if walker.focus is not None else None
        around = walker.element(inside) if inside is not None else None
        if element is None or around is None:
            return  # out of the page, as browsers let it go from showModal(), or the dialog has closed
        if not around.contains(element):
            drilled.fault(faults.DIALOG_LEAKS)
            return


def _judge_arrow(walker: Walker, key: int, drilled: Drilled, opened: _Opened) -> None:
    """Does Down lead on in what opened?"""
    place, active = walker.place, walker.active_of(key)
    walker.press(Keystroke.DOWN)
    if walker.place != place or _count_of_items(walker, opened) == 1:
        return
    if walker.active_of(key) != active:
        drilled.fault(faults.SILENT, "an arrow changes what another element than the one with the focus says is active")
    else:
        drilled.fault(faults.NO_ARROWS)


def _count_of_items(walker: Walker, opened: _Opened) -> int:
    """How many parts there are in what opened, or stops where it says nothing of parts."""
    nodes = [each for each in walker.session.tree.nodes if walker.stage.key_of(each.element) in opened.appeared]
    return sum(each.role in PARTS for each in nodes) or len(_stops_inside(walker, opened))


def _judge_levels(walker: Walker, drilled: Drilled, opened: _Opened) -> None:
    """Does an item open a menu of its own, and does Escape close that one alone?"""
    for _ in range(_MOST_ITEMS):
        item = walker.focus
        node = walker.node(item) if item is not None else None
        if item is None or node is None or item not in opened.appeared:
            return
        if node.element.attributes.get("aria-haspopup", "").lower() in ("menu", "true"):
            break
        walker.press(Keystroke.DOWN)
        if walker.focus == item:
            return
    else:
        return
    before = walker.exposed()
    inner = _Opened.by(walker, item, before, lambda: walker.press(Keystroke.RIGHT))
    if inner is None:
        inner = _Opened.by(walker, item, before, lambda: walker.press(Keystroke.ENTER))
    if inner is None:
        drilled.fault(faults.NOTHING_OPENS, walker.session.tree.words_of(node))
        return
    walker.press(Keystroke.ESCAPE)
    if not opened.is_there(walker):
        drilled.fault(faults.CLOSES_ALL)
        walker.press(Keystroke.ENTER)  # the rest of the drill begins with an open menu
    elif inner.is_there(walker):
        drilled.fault(faults.NOT_CLOSED, "the inner menu")
    elif walker.focus != item:
        drilled.fault(faults.FOCUS_LOST, "after the inner menu")


def _dialog_around(walker: Walker) -> Node | None:
    node = walker.node(walker.focus) if walker.focus is not None else None
    around = (node, *node.ancestors()) if node is not None else ()
    return next((each for each in around if each.role in ("dialog", "alertdialog")), None)


def _stops_inside(walker: Walker, opened: _Opened) -> list[Element]:
    return [each for each in walker.session.tree.tab_order if walker.stage.key_of(each) in opened.appeared]


def _is_read_next(walker: Walker, key: int, opened: _Opened) -> bool:
    """Whether reading on from a widget comes to what opened."""
    session, node = walker.session, walker.node(key)
    here = session.readout.first_object(node) if node is not None else None
    if node is None or here is None:
        return True
    objects = session.readout.objects
    after = next((each for each in objects[here.index + 1 :] if not node.contains(each.node)), None)
    if after is None:
        return False
    around = (after.node.element, *after.node.element.ancestors())
    return any(walker.stage.key_of(each) in opened.appeared for each in around)


def _close(walker: Walker, key: int, drilled: Drilled, opened: _Opened) -> bool:
    """Close it with Escape, and judge what comes of that; return whether it is closed in the end."""
    if not opened.is_there(walker):
        if drilled.widget.kind is not Kind.DISCLOSURE:
            _judge_focus(walker, key, drilled)
        return True
    walker.press(Keystroke.ESCAPE)
    if not opened.is_there(walker):
        _judge_focus(walker, key, drilled)
        return True
    if drilled.widget.kind in _CLOSED_BY_ESCAPE or _is_dialog(walker, opened):
        drilled.fault(faults.NOT_CLOSED)
    return _put_away(walker, key, opened)


def _is_dialog(walker: Walker, opened: _Opened) -> bool:
    nodes = (each for each in walker.session.tree.nodes if each.role in DIALOGS)
    return any(walker.stage.key_of(each.element) in opened.appeared for each in nodes)


def _judge_focus(walker: Walker, key: int, drilled: Drilled) -> None:
    if not walker.is_at(key):
        node = walker.node(walker.focus) if walker.focus is not None else None
        words = f"it is on {walker.session.tree.words_of(node)}" if node is not None else "nothing has it"
        drilled.fault(faults.FOCUS_LOST, words)


def _put_away(walker: Walker, key: int, opened: _Opened) -> bool:
    """Close what is open in whatever way; return whether that worked."""
    if opened.is_there(walker):
        walker.press(Keystroke.ESCAPE)
    if opened.is_there(walker):
        walker.reach(key)
        if walker.is_at(key):
            walker.press(Keystroke.ENTER)
    if opened.is_there(walker):
        walker.click(key)
    return not opened.is_there(walker)
