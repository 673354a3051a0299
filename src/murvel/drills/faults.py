"""What drills find, as checks of a catalogue of their own: their texts stand here, the drills work the page."""

from __future__ import annotations

from collections.abc import Iterable

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import FAILS, NEEDS_EARS, Certainty, Check, Checks, Finding
from murvel.checks.engine.facts import Facts

_faults = Checks("drills")


def _fault(
    id: str, title: str, certainty: Certainty, *criteria: str, means: str, repair: str, expect: str, about: str
) -> Check:
    @_faults.add(id, title, certainty, *criteria, means=means, repair=repair, expect=expect, looks_at=about)
    def found_by_drill(page: Facts) -> Iterable[Finding]:
        return ()

    return _faults.all[-1]


NOT_REACHED = _fault(
    "drill-not-reached", "Tab does not come to the widget", FAILS, "2.1.1",
    means="People who use the keyboard cannot work it.",
    repair="Use a native element, or give it tabindex=\"0\" and its keys.",
    expect="{name}, {role}, at a Tab stop", about="Widgets of a page that are no Tab stop, nor a part of one.",
)  # fmt: skip
POINTER_ONLY = _fault(
    "drill-pointer-only", "A click works it, keys do not", FAILS, "2.1.1",
    means="People who use the keyboard cannot open or change it.",
    repair="Use a native button, or handle Enter and Space as well.",
    expect="after Enter or Space: what a click does", about="Keys did nothing at it, and a click did.",
)  # fmt: skip
NOTHING_OPENS = _fault(
    "drill-nothing-opens", "Nothing opens", NEEDS_EARS, "4.1.2",
    means="It promises to open something, and neither keys nor a click do it.",
    repair="Open what it controls, or take the promise away: aria-expanded, aria-haspopup.",
    expect="after Enter: what opens", about="Widgets with aria-expanded or aria-haspopup that nothing opened.",
)  # fmt: skip
KEY_MISSING = _fault(
    "drill-key-missing", "One of Enter and Space does nothing", FAILS, "2.1.1",
    means="A button takes both keys; people press the one that they are used to.",
    repair="Use a native button, or handle both keys.",
    expect="after Enter and after Space: the same", about="Buttons that one of the two keys opened.",
)  # fmt: skip
STATE_UNSAID = _fault(
    "drill-state-unsaid", "Nothing says whether it is open", FAILS, "4.1.2",
    means="Listeners do not hear that it opens something, or whether that is open.",
    repair="Set aria-expanded, and keep it up to date.",
    expect="{name}, {role}, collapsed; after Enter: expanded", about="What opened something, and has no aria-expanded.",
)  # fmt: skip
STATE_STUCK = _fault(
    "drill-state-stuck", "State stays while the widget changes", FAILS, "4.1.2",
    means="Listeners hear a state that is not so any more.",
    repair="Change the state together with what it stands for.",
    expect="after the key: the new state", about="Something opened or changed, and the state in the tree did not.",
)  # fmt: skip
SILENT = _fault(
    "drill-silent", "A key works, and nothing is heard", NEEDS_EARS, "4.1.3", "4.1.2",
    means="Listeners do not learn that anything came of their key.",
    repair="Change a state of what has the focus, move the focus, or announce it.",
    expect="after the key: what came of it", about="Something changed in sight, and nothing was announced.",
)  # fmt: skip
NOT_NEXT = _fault(
    "drill-not-next", "What opened is not reached next", FAILS, "2.4.3", "1.3.2",
    means="People who use Tab, or read on, come to something else first and do not find what opened.",
    repair="Put what opens right behind what opens it, or move the focus into it.",
    expect="after Tab: the first part of what opened", about="Tab from what was opened goes elsewhere.",
)  # fmt: skip
NO_ARROWS = _fault(
    "drill-no-arrows", "Arrows do nothing", FAILS, "2.1.1", "4.1.2",
    means="The role promises arrow keys; people press them and stay where they are.",
    repair="Move the focus, aria-activedescendant or the value with the arrows, or use a role without that promise.",
    expect="after an arrow: the next part, or the new value", about="Composite widgets and ranges, by their roles.",
)  # fmt: skip
NOT_CLOSED = _fault(
    "drill-not-closed", "Escape does not close it", NEEDS_EARS, "2.1.2", "1.4.13",
    means="People expect Escape to close menus, lists and dialogs, and have to look for another way.",
    repair="Close it on Escape, the innermost first.",
    expect="after Escape: {name}, {role}", about="Menus, lists and dialogs that were open after Escape.",
)  # fmt: skip
FOCUS_LOST = _fault(
    "drill-focus-lost", "Focus does not come back", FAILS, "2.4.3",
    means="After closing, people begin at another place of the page, often at its top.",
    repair="Give the focus back to what opened it.",
    expect="after closing: {name}, {role}", about="After closing, the focus is not where it was.",
)  # fmt: skip
OPENS_ON_FOCUS = _fault(
    "drill-opens-on-focus", "It opens by itself on focus", NEEDS_EARS, "3.2.1",
    means="People who only pass by have to go through all that opens.",
    repair="Open it on Enter, Space or a click.",
    expect="at the stop: {name}, {role}, collapsed", about="Something appeared as the focus came to it.",
)  # fmt: skip
DIALOG_LEAKS = _fault(
    "drill-dialog-leaks", "Tab leaves a modal dialog", FAILS, "2.4.3",
    means="The focus goes on behind the dialog, where nothing can be used.",
    repair="Open it with showModal(), or keep Tab within it and make the rest inert.",
    expect="after the last stop of the dialog: its first", about="Dialogs that say they are modal.",
)  # fmt: skip
TRAP = _fault(
    "drill-trap", "Tab does not leave it", FAILS, "2.1.2",
    means="People who use the keyboard are caught.",
    repair="Let Tab go on; use other keys inside a widget.",
    expect="after Tab: the next stop", about="The focus stays after three presses of Tab.",
)  # fmt: skip
HOVER_ONLY = _fault(
    "drill-hover-only", "Only a pointer shows it", FAILS, "2.1.1", "1.4.13",
    means="People without a pointer do not get it.",
    repair="Show it on focus as well.",
    expect="at the stop: the same words", about="What appeared under the pointer, and not with the focus.",
)  # fmt: skip
TIP_STAYS = _fault(
    "drill-tip-stays", "Escape does not put it away", NEEDS_EARS, "1.4.13",
    means="It covers what is under it, and people cannot put it away without moving.",
    repair="Hide it on Escape.",
    expect="after Escape: it is gone", about="What appeared on hover or focus and was there after Escape.",
)  # fmt: skip
TIP_GOES = _fault(
    "drill-tip-goes", "It goes as the pointer comes to it", FAILS, "1.4.13",
    means="People who enlarge the screen cannot move to it to read it.",
    repair="Keep it while the pointer is on it: put it inside of what shows it, or wait before hiding it.",
    expect="with the pointer on it: it stays", about="What appeared under the pointer, and went as that moved onto it.",
)  # fmt: skip
BACK_ELSEWHERE = _fault(
    "drill-back-elsewhere", "Shift+Tab does not lead back", NEEDS_EARS, "2.4.3",
    means="People who go back by keyboard come to another place than the one they came from.",
    repair="Use tabindex=\"0\" and \"-1\" only, and do not move the focus on blur or focus.",
    expect="after Tab and Shift+Tab: {name}, {role}", about="After Tab and Shift+Tab the focus is elsewhere.",
)  # fmt: skip
CLOSES_ALL = _fault(
    "drill-closes-all", "Escape closes more than the innermost", NEEDS_EARS, "2.4.3",
    means="People who only want to leave a submenu lose the whole menu.",
    repair="Close one level on each Escape, and put the focus on what opened it.",
    expect="after Escape in a submenu: the item that opened it",
    about="Menus in which an item opens another menu by Right or Enter.",
)  # fmt: skip
MOVES_ON = _fault(
    "drill-moves-on", "It moves on by itself, and nothing stops it", NEEDS_EARS, "2.2.2",
    means="Listeners lose what they were reading when it goes.",
    repair="Do not let it start by itself, or put a button that stops it before the slides.",
    expect="a button that stops it, before the slides", about="Carousels that show something else after some seconds.",
)  # fmt: skip
TITLE_STAYS = _fault(
    "drill-title-stays", "The address changes, and the title stays", NEEDS_EARS, "2.4.2",
    means="Listeners who ask for the title, or look through their tabs, hear that of another view.",
    repair="Set document.title with each view.",
    expect="after Enter: the title of the view", about="Links that give the page another address without a new page.",
)  # fmt: skip
VIEW_UNSAID = _fault(
    "drill-view-unsaid", "Another view comes, and nothing is heard", NEEDS_EARS, "4.1.3", "2.4.3",
    means="Listeners do not learn that the link did anything, and read on from the old place.",
    repair="Move the focus to the heading of the new view, or announce its name in a live region.",
    expect="after Enter: the heading of the new view",
    about="Links that change the page under another address, with the focus left where it was or lost.",
)  # fmt: skip
ERROR_UNSAID = _fault(
    "drill-error-unsaid", "Errors are shown and not said", FAILS, "3.3.1", "4.1.3",
    means="Listeners hear nothing of what is wrong with their form.",
    repair="Move the focus to the first field with an error, or put the messages into an alert that was there before.",
    expect="after sending: what is wrong", about="Forms that are sent with their required fields empty.",
)  # fmt: skip


def drill_catalogue() -> Catalogue:
    """Return what drills find."""
    return Catalogue(_faults.all)
