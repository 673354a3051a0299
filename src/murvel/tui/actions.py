"""Every action with its keys and words, as one table: bindings, key line, help and palette are made from it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from textual.binding import Binding, BindingType


class Where(StrEnum):
    """Where an action's keys work."""

    ANYWHERE = "Anywhere"
    LISTEN = "Listen"
    SURVEY = "Survey"
    KEYBOARD = "Keyboard"
    LIVE = "Live"
    DEFECTS = "Defects"


@dataclass(frozen=True, slots=True)
class Action:
    """An action.

    Attributes:
        id: what does it, as Textual writes actions: a method of the application, or of the view.
        keys: Textual's names of its keys, the main one first.
        shown: how the main key is written for people.
        words: what it does.
        brief: a word or two for the key line; empty where it does not stand there.
        where: where its keys work.
        is_of_view: whether the view does it itself, not the application.
    """

    id: str
    keys: str
    shown: str
    words: str
    where: Where
    brief: str = ""
    is_of_view: bool = False

    @property
    def target(self) -> str:
        """The action with the object that does it: the view, where it is the view's own, else the application."""
        return self.id if self.is_of_view else f"app.{self.id}"


ACTIONS: tuple[Action, ...] = (
    Action("command('next')", "down,j", "↓ j", "Read the next item", Where.LISTEN, "next"),
    Action("command('previous')", "up,k", "↑ k", "Read the previous item", Where.LISTEN, "previous"),
    Action(
        "jump('forward')",
        "right_square_bracket",
        "]",
        "Jump forward by kind: then a letter",
        Where.LISTEN,
        "jump on",
    ),
    Action(
        "jump('back')",
        "left_square_bracket",
        "[",
        "Jump back by kind: then a letter",
        Where.LISTEN,
        "jump back",
    ),
    Action("command('again')", "n", "n", "Repeat the last jump or search, forward", Where.LISTEN, "again"),
    Action("command('again back')", "N", "N", "Repeat the last jump or search, back", Where.LISTEN),
    Action("command('tab')", "tab", "Tab", "Move the focus to the next tab stop", Where.LISTEN, "next stop"),
    Action("command('shift+tab')", "shift+tab", "Shift+Tab", "Move the focus to the previous tab stop", Where.LISTEN),
    Action("command('enter')", "enter", "Enter", "Press Enter: activate what is here", Where.LISTEN, "activate"),
    Action("command('space')", "space", "Space", "Press Space on what is here", Where.LISTEN),
    Action("escape", "escape", "Esc", "Leave focus mode, or close what is open on the page", Where.LISTEN),
    Action("command('mode')", "m", "m", "Browse or focus mode: who gets the keys", Where.LISTEN),
    Action("find", "slash", "/", "Find text in what is heard", Where.LISTEN, "find"),
    Action("command('where')", "w", "w", "Say where the cursor is", Where.LISTEN, "where am I"),
    Action("command('first')", "home,g", "Home g", "Go to the first item", Where.LISTEN),
    Action("command('last')", "end,G", "End G", "Go to the last item", Where.LISTEN),
    Action("screenful(1)", "pagedown", "PgDn", "Go down a screenful", Where.LISTEN),
    Action("screenful(-1)", "pageup", "PgUp", "Go up a screenful", Where.LISTEN),
    Action("command('object')", "right,l", "→ l", "Read the next object: text, a link, a control", Where.LISTEN),
    Action("command('object back')", "left", "←", "Read the previous object", Where.LISTEN),
    Action("command('word')", "ctrl+right", "Ctrl+→", "Read the next word", Where.LISTEN),
    Action("command('word back')", "ctrl+left", "Ctrl+←", "Read the previous word", Where.LISTEN),
    Action("command('character')", "full_stop", ".", "Read the next character", Where.LISTEN),
    Action("command('character back')", "comma", ",", "Read the previous character", Where.LISTEN),
    Action("command('spell')", "p", "p", "Spell the word, with a word for each letter", Where.LISTEN),
    Action("command('same')", "s", "s", "Go to the next of the same role", Where.LISTEN),
    Action("command('same back')", "S", "S", "Go to the previous of the same role", Where.LISTEN),
    Action("command('different')", "f", "f", "Go to the next of another role", Where.LISTEN),
    Action("command('different back')", "F", "F", "Go to the previous of another role", Where.LISTEN),
    Action("command('beside')", "right_curly_bracket", "}", "Go beside, past what is in this", Where.LISTEN),
    Action("command('beside back')", "left_curly_bracket", "{", "Go back beside", Where.LISTEN),
    Action("command('into')", "greater_than_sign", ">", "Go into the container", Where.LISTEN),
    Action("command('out')", "less_than_sign", "<", "Go out to the container around", Where.LISTEN),
    Action("command('past')", "e", "e", "Go past the end of the list, table or landmark", Where.LISTEN),
    Action("command('cell right')", "shift+right", "Shift+→", "Go to the cell on the right", Where.LISTEN),
    Action("command('cell left')", "shift+left", "Shift+←", "Go to the cell on the left", Where.LISTEN),
    Action("command('cell down')", "shift+down", "Shift+↓", "Go to the cell below", Where.LISTEN),
    Action("command('cell up')", "shift+up", "Shift+↑", "Go to the cell above", Where.LISTEN),
    Action("command('row start')", "shift+home", "Shift+Home", "Go to the row's first cell", Where.LISTEN),
    Action("command('row end')", "shift+end", "Shift+End", "Go to the row's last cell", Where.LISTEN),
    Action("command('read row')", "R", "R", "Read the row of the table", Where.LISTEN),
    Action("command('read column')", "C", "C", "Read the column of the table", Where.LISTEN),
    Action("read_on", "a", "a", "Read on from here, until a key is pressed", Where.LISTEN, "read on"),
    Action("rate(20)", "plus", "+", "Read faster", Where.LISTEN),
    Action("rate(-20)", "minus", "-", "Read slower", Where.LISTEN),
    Action("next_voice", "v", "v", "Hear the page in the next voice", Where.LISTEN, "voice"),
    Action("said_as", "V", "V", "Show how each voice says what is here", Where.LISTEN),
    Action("ears", "E", "E", "Ears only: hide the page, or show it again", Where.LISTEN),
    Action("note", "o,f2", "o F2", "Note that this puzzles you", Where.LISTEN),
    Action("document", "d", "d", "Document a defect in the announcement", Where.LISTEN, "document"),
    Action("pick_heard", "h", "h", "Pick an earlier announcement in Heard", Where.LISTEN),
    Action("copy_heard", "y", "y", "Copy the last announcement", Where.LISTEN),
    Action("back_to_entry", "b,backspace", "b", "Back to the entry of the survey one came from", Where.LISTEN),
    Action("judge('pass')", "p", "p", "The entry passes", Where.SURVEY, "pass", True),
    Action("judge('fail')", "f", "f", "The entry fails", Where.SURVEY, "fail", True),
    Action("judge('needs context')", "c", "c", "The entry needs more context", Where.SURVEY, "needs context", True),
    Action("next_open", "n", "n", "The next entry that is not judged", Where.SURVEY, "next open", True),
    Action("slice(1)", "right,l,tab", "→", "The next list", Where.SURVEY, "next list", True),
    Action("slice(-1)", "left,h,shift+tab", "←", "The list before", Where.SURVEY, "", True),
    Action("go_to_entry", "enter", "Enter", "Go to the entry's place on the page", Where.SURVEY, "go there", True),
    Action("document_entry", "d", "d", "Document a defect about the entry", Where.SURVEY, "document", True),
    Action("note", "m", "m", "Write a note to the entry", Where.SURVEY, "note", True),
    Action("filter", "slash", "/", "Show only entries with some words", Where.SURVEY, "filter", True),
    Action("which", "w", "w", "All, not judged, with leads, or of one verdict", Where.SURVEY, "which", True),
    Action("hidden", "H", "H", "Show hidden entries too, or not", Where.SURVEY, "", True),
    Action("go_to_stop", "enter", "Enter", "Go to the stop's place on the page", Where.KEYBOARD, "go there", True),
    Action("document_stop", "d", "d", "Document a defect about the stop", Where.KEYBOARD, "document", True),
    Action(
        "next_lead", "n", "n", "The next stop with a lead, or that is not in order", Where.KEYBOARD, "next lead", True
    ),
    Action("export_path('svg')", "x", "x", "Draw the path into an SVG file", Where.KEYBOARD, "draw it"),
    Action("export_path('pdf')", "X", "X", "Draw the path into a PDF file", Where.KEYBOARD),
    Action("go_to_defect", "enter", "Enter", "Go to the place in the page", Where.DEFECTS, "go to place", True),
    Action("edit_defect", "e", "e", "Edit the defect", Where.DEFECTS, "edit", True),
    Action("delete_defect", "x,delete", "x Del", "Delete the defect", Where.DEFECTS, "delete", True),
    Action("step_time(1)", "t", "t", "Let a second pass on the page", Where.LIVE, "one second on"),
    Action("step_time(5)", "T", "T", "Let five seconds pass", Where.LIVE, "five seconds on"),
    Action("replay", "p", "p", "Play what was spoken once more, or stop there", Where.LIVE, "replay", True),
    Action("step_replay(1)", "right", "→", "A second on in the replay", Where.LIVE, "", True),
    Action("step_replay(-1)", "left", "←", "A second back in the replay", Where.LIVE, "", True),
    Action("end_replay", "escape", "Esc", "From the replay to the present", Where.LIVE, "", True),
    Action("export_timeline('svg')", "x", "x", "Draw the timeline into an SVG file", Where.LIVE, "draw it"),
    Action("export_timeline('pdf')", "X", "X", "Draw the timeline into a PDF file", Where.LIVE),
    Action("undo", "u", "u", "Take back the last change of a defect or verdict", Where.ANYWHERE, "undo"),
    Action("view('listen')", "1", "1", "Listen: the page as it is heard", Where.ANYWHERE),
    Action("view('survey')", "2", "2", "Survey: the page as lists, to be judged", Where.ANYWHERE),
    Action("view('keyboard')", "3", "3", "Keyboard: where Tab goes, and where it does not", Where.ANYWHERE),
    Action("view('live')", "4", "4", "Live: regions, what was spoken when, what never was", Where.ANYWHERE),
    Action("view('defects')", "5", "5", "Defects: what is documented", Where.ANYWHERE),
    Action("turn_light", "L", "L", "Change between the dark and the light theme", Where.ANYWHERE),
    Action("command_palette", "ctrl+p", "Ctrl+P", "All actions, to be searched", Where.ANYWHERE),
    Action("help", "question_mark,f1", "?", "This help", Where.ANYWHERE, "help"),
    Action("leave", "q,ctrl+q", "q", "Keep the place and quit", Where.ANYWHERE, "quit"),
)

assert len({(action.id, action.where) for action in ACTIONS}) == len(ACTIONS), "an action stands twice"


def bindings(where: Where) -> list[BindingType]:
    """Return Textual's bindings for the actions of one place."""
    return [
        Binding(action.keys, action.target, action.words, show=False, id=action.id)
        for action in ACTIONS
        if action.where is where
    ]


def key_line(where: Where) -> list[tuple[str, str]]:
    """Return the keys that matter in a view, with a word or two for each."""
    return [
        (action.shown.split(" ")[0], action.brief)
        for action in ACTIONS
        if action.brief and action.where in (where, Where.ANYWHERE)
    ]
