"""The views of the application, in the order of the work. A new view is one file in `views` and one entry here."""

from __future__ import annotations

from murvel.tui.actions import ANYWHERE, Action
from murvel.tui.views.defects import DefectsView
from murvel.tui.views.ears import EarsView
from murvel.tui.views.keyboard import KeyboardView
from murvel.tui.views.listen import ListenView
from murvel.tui.views.live import LiveView
from murvel.tui.views.survey import SurveyView
from murvel.tui.views.view import View

NUMBERED: tuple[type[View], ...] = (ListenView, SurveyView, KeyboardView, LiveView, DefectsView)
"""The views in the top line; the number keys show them, in this order."""

VIEWS: tuple[type[View], ...] = (*NUMBERED, EarsView)
"""All views; those without a number are reached from others."""


def _anywhere(name: str, run: str, keys: str, words: str, brief: str = "", *, is_at_once: bool = False) -> Action:
    return Action(ANYWHERE, name, run, keys, words, brief, is_at_once)


VIEW_ACTIONS: tuple[Action, ...] = tuple(
    _anywhere(view.NAME, f"screen.front('{view.NAME}')", str(number), f"{view.TITLE}: {view.ABOUT}", is_at_once=True)
    for number, view in enumerate(NUMBERED, 1)
)

PAGE_ACTIONS: tuple[Action, ...] = (
    *VIEW_ACTIONS,
    _anywhere("undo", "screen.undo", "u", "Take back the last change of a defect or verdict", "undo"),
    _anywhere("walk", "screen.walk", "W", "Begin a walk of what is done and heard; end it into a file"),
    _anywhere("replay", "screen.replay", "ctrl+w", "Make a walk again in the open, step by step", is_at_once=True),
    _anywhere("contrast", "screen.contrast", "ctrl+r", "Measure the contrast of two colours", is_at_once=True),
    _anywhere("problems", "screen.problems", "exclamation_mark", "Show what could not be read of the page"),
)
"""What can be done in every view of a page."""

APP_ACTIONS: tuple[Action, ...] = (
    _anywhere("open", "app.open", "o", "Open another page", "open", is_at_once=True),
    _anywhere("theme", "app.next_theme", "L", "Change to the next theme: dark, light, high contrast"),
    _anywhere("actions", "app.all_actions", "ctrl+p", "Search all actions", is_at_once=True),
    _anywhere("suspend", "app.suspend_process", "ctrl+z", "Suspend Murvel; fg brings it back", is_at_once=True),
    _anywhere("help", "app.help", "question_mark,f1", "Show this help", "help", is_at_once=True),
    _anywhere("quit", "app.leave", "q,ctrl+q", "Keep the place and quit", "quit"),
)
"""What can be done whether or not a page is open."""

ALL_ACTIONS: tuple[Action, ...] = tuple(
    {action.id: action for view in VIEWS for action in (*view.ACTIONS, *PAGE_ACTIONS, *APP_ACTIONS)}.values()
)
"""Every action once."""

_IDS = [action.id for action in (*PAGE_ACTIONS, *APP_ACTIONS)]
assert len(set(_IDS)) == len(_IDS), "an action stands twice"
