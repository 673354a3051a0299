"""What the views have in common in which a page is read: every move, and what can be done with what was heard."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace
from functools import partial
from typing import ClassVar

from textual import events
from textual.binding import BindingType

from murvel.loading.errors import PageError
from murvel.reader.moves.commands import command
from murvel.reader.moves.finding import places_of
from murvel.reader.moves.moves import Direction, Heard, Mode
from murvel.reader.readout.kinds import LEADS, Kind
from murvel.reader.speech.timing import FASTEST, SLOWEST
from murvel.reader.speech.voice import Voice, next_language
from murvel.stage.seen import Pair
from murvel.survey.eyes import colours_of
from murvel.tui.actions import Action, bindings
from murvel.tui.dialogs.ask import AskLine
from murvel.tui.dialogs.jump import JumpLetters
from murvel.tui.dialogs.looking import MANY, Looking
from murvel.tui.dialogs.said_as import SaidAs
from murvel.tui.keys import command_for
from murvel.tui.reading_on import ReadingOn
from murvel.tui.views.view import Happened, NeedsSurvey, ToDocument, ToPage, View
from murvel.work.links import page_behind_link
from murvel.work.opening import WantedPage

_KEYS_WHILE_READING_ON = frozenset({"plus", "minus", "a"})
"""Keys that change how it is read on; any other key stops it."""

_FOCUS_HINTS = [
    ("Typing", "goes to the page"),
    ("↓ ↑", "change the value"),
    ("Enter", "to the page"),
    ("Tab", "next stop"),
    ("Esc", "back to browse mode"),
]


_OPENED_BY_LETTERS = frozenset({"jump", "find", "document", "note", "said_as", "notes"})
"""Actions with letters for keys that open a dialog."""


def _action(name: str, run: str, keys: str, words: str, brief: str = "") -> Action:
    return Action("listen", name, run, keys, words, brief, run.partition("(")[0] in _OPENED_BY_LETTERS)


def _move(name: str, words: str, keys: str, about: str, brief: str = "") -> Action:
    return _action(name, f"command('{words}')", keys, about, brief)


READING_ACTIONS: tuple[Action, ...] = (
    _move("next", "next", "down,j", "Read the next item", "next"),
    _move("previous", "previous", "up,k", "Read the previous item"),
    _action("jump", "jump('forward')", "right_square_bracket", "Jump forward by kind: then a letter", "jump on"),
    _action("jump-back", "jump('back')", "left_square_bracket", "Jump back by kind: then a letter", "jump back"),
    _move("tab", "tab", "tab", "Move the focus to the next tab stop", "next stop"),
    _move("enter", "enter", "enter", "Press Enter: activate what is here", "activate"),
    _action("document", "document", "d", "Document a defect in the announcement", "document"),
    _action("find", "find", "slash", "Find text in what is heard", "find"),
    _move("where", "where", "w", "Say where the cursor is", "where am I"),
    _action("read-on", "read_on", "a", "Read on from here, until a key is pressed", "read on"),
    _move("again", "again", "n", "Repeat the last jump or search, forward", "again"),
    _move("again-back", "again back", "N", "Repeat the last jump or search, back"),
    _action("voice", "next_voice", "v", "Hear the page in the next voice", "voice"),
    _move("tab-back", "shift+tab", "shift+tab", "Move the focus to the previous tab stop"),
    _move("space", "space", "space", "Press Space on what is here"),
    _action("escape", "escape", "escape", "Close what is open on the page, else leave focus mode"),
    _move("mode", "mode", "m", "Browse or focus mode: who gets the keys"),
    _move("first", "first", "home,g", "Go to the first item"),
    _move("last", "last", "end,G", "Go to the last item"),
    _action("page-down", "screenful(1)", "pagedown", "Go down a screenful"),
    _action("page-up", "screenful(-1)", "pageup", "Go up a screenful"),
    _move("object", "object", "right,l", "Read the next object: text, a link, a control"),
    _move("object-back", "object back", "left", "Read the previous object"),
    _move("word", "word", "ctrl+right", "Read the next word"),
    _move("word-back", "word back", "ctrl+left", "Read the previous word"),
    _move("character", "character", "full_stop", "Read the next character"),
    _move("character-back", "character back", "comma", "Read the previous character"),
    _move("spell", "spell", "p", "Spell the word, with a word for each letter"),
    _move("this-role", "this role", "z", "Go to the next with this role"),
    _move("this-role-back", "this role back", "Z", "Go to the previous with this role"),
    _move("other-role", "other role", "x", "Go to the next with another role"),
    _move("other-role-back", "other role back", "X", "Go to the previous with another role"),
    _move("beside", "beside", "right_curly_bracket", "Go beside, past what is in this"),
    _move("beside-back", "beside back", "left_curly_bracket", "Go back beside"),
    _move("into", "into", "greater_than_sign", "Go into the container"),
    _move("out", "out", "less_than_sign", "Go out to the container around"),
    _move("past", "past", "e", "Go past the end of the list, table or landmark"),
    _move("cell-right", "cell right", "shift+right", "Go to the cell on the right"),
    _move("cell-left", "cell left", "shift+left", "Go to the cell on the left"),
    _move("cell-down", "cell down", "shift+down", "Go to the cell below"),
    _move("cell-up", "cell up", "shift+up", "Go to the cell above"),
    _move("row-start", "row start", "shift+home", "Go to the row's first cell"),
    _move("row-end", "row end", "shift+end", "Go to the row's last cell"),
    _move("read-row", "read row", "R", "Read the row of the table"),
    _move("read-column", "read column", "C", "Read the column of the table"),
    _action("faster", "rate(20)", "plus", "Read faster"),
    _action("slower", "rate(-20)", "minus", "Read slower"),
    _action("language", "next_language", "Y", "Say roles and states in the next language: English, the page's, others"),
    _action("voices", "said_as", "V", "Show how each voice says what is here"),
    _action("follow", "follow", "O", "Open the page that the link at the cursor leads to"),
    _action("copy", "copy", "y", "Copy the last announcement"),
)


class ReadingView(View):
    """A view in which the page is read."""

    BINDINGS: ClassVar[list[BindingType]] = bindings(READING_ACTIONS)

    def on_mount(self) -> None:
        """Be ready to read on."""
        self._reading_on = ReadingOn(self.app, self.work.session, partial(self._do, "next"))

    @property
    def colours(self) -> Pair | None:
        """The colours of what the cursor is at."""
        node = self.work.session.node
        return colours_of(self.work.session, node.element) if node is not None else None

    def key_hints(self) -> list[tuple[str, str]] | None:
        """Tell how to get the keys back, where they go to the page."""
        return _FOCUS_HINTS if self.work.session.mode is Mode.FOCUS else None

    # Keys

    @property
    def takes_typing(self) -> bool:
        """Whether letters are typed into the page now."""
        return self.work.session.mode is Mode.FOCUS and self.for_keys.has_focus

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        """Let letters that open a dialog be typed into the page where that takes them."""
        return action not in _OPENED_BY_LETTERS or not self.takes_typing

    def on_key(self, event: events.Key) -> None:
        """Stop reading on; in focus mode, give the key to the page."""
        if self._reading_on.is_on and event.key not in _KEYS_WHILE_READING_ON:
            self._reading_on.stop()
            self.post_message(Happened())
        if self.takes_typing:
            words = command_for(event)
            if words is not None:
                event.stop()
                event.prevent_default()
                self.action_command(words)

    # Moves

    def _do(self, words: str) -> None:
        self.work.catch_up()
        command(self.work.session, words)
        self.post_message(Happened(self.work.session.log[-1].notice))

    def action_command(self, words: str) -> None:
        """Make a move that is asked for in words; at a link, tell how its page is opened."""
        self._do(words)
        if words == "enter" and self.work.session.mode is Mode.BROWSE:
            with suppress(PageError):
                self.post_message(Happened(f"O opens {page_behind_link(self.work.session)}."))

    def action_jump(self, direction: str) -> None:
        """Ask for a kind and jump to it."""
        way = Direction(direction)

        def jump(kind: Kind | None) -> None:
            if kind is None:
                return
            words = f"{'jump' if way is Direction.FORWARD else 'back'} {kind.id}"
            if kind is LEADS:
                self.post_message(NeedsSurvey(partial(self._do, words)))
            else:
                self._do(words)

        self.app.push_screen(JumpLetters(way), jump)

    def action_find(self) -> None:
        """Ask for text and find it."""

        def count(text: str) -> str:
            places = len(places_of(self.work.session, text))
            return f"{places} found" if text.strip() else ""

        def find(text: str | None) -> None:
            if text is not None:
                self._do(f"find {text}")

        self.app.push_screen(AskLine("Find in what is heard:", "words", tell=count), find)

    def action_escape(self) -> None:
        """Press Escape on the page."""
        self._do("escape")

    def screenful(self) -> int:
        """Return how many items a screenful holds."""
        return 10

    def action_screenful(self, by: int) -> None:
        """Go on or back by a screenful of items."""
        item = self.work.session.item
        if item is not None:
            self.go_to_item(item.index + by * self.screenful())

    def go_to_item(self, index: int) -> None:
        """Read an item by its number in the readout."""
        self._do(f"item {max(index, 0) + 1}")

    def action_follow(self) -> None:
        """Ask for the page that the link at the cursor leads to."""
        try:
            address = page_behind_link(self.work.session)
        except PageError as error:
            self.post_message(Happened(str(error), error=True))
            return
        self.post_message(ToPage(WantedPage(address, self.work.page.width)))

    # Reading on

    def action_read_on(self) -> None:
        """Read on at the voice's rate, or stop."""
        if self._reading_on.is_on:
            self._reading_on.stop()
            self.post_message(Happened())
        else:
            self.post_message(Happened("Reading on. Any key stops; + and - change the rate."))
            self._reading_on.go_on()

    # Voices

    def action_next_voice(self) -> None:
        """Go on in the next voice."""
        voices, problems = self.work.voices()
        now = self.work.session.voice
        at = next((at for at, voice in enumerate(voices) if voice.name == now.name), -1)
        following = voices[(at + 1) % len(voices)]
        told = Happened(problems[0] if problems else "", error=bool(problems))
        self._go_on_in(following if following.words else replace(following, language=now.language), told)

    def action_next_language(self) -> None:
        """Say roles, states and the like in the next language."""
        self._go_on_in(next_language(self.work.session.voice), Happened())

    def _go_on_in(self, voice: Voice, told: Happened) -> None:
        """Go on in another voice; what it says of a large page is worked out first, which is shown and can be
        stopped."""
        session = self.work.session
        spoken = session.in_voice(voice)

        def go_on(is_done: bool | None) -> None:
            if is_done:
                session.change_voice(voice, spoken)
            self.post_message(told if is_done else Happened(f"Stopped; the voice is still {session.voice.title}."))

        if len(session.tree.nodes) <= MANY:
            go_on(True)
        else:
            items = len(session.readout.items)
            self.app.push_screen(Looking(f"Working out how {items:,} items are heard", spoken.work_out()), go_on)

    def action_rate(self, by: int) -> None:
        """Read faster or slower."""
        voice = self.work.session.voice
        rate = min(max(voice.rate + by, SLOWEST), FASTEST)
        self.work.session.change_voice(replace(voice, rate=rate))
        self.post_message(Happened(f"{rate} words a minute."))
        if self._reading_on.is_on:
            self._reading_on.go_on()

    def action_said_as(self) -> None:
        """Show what is at the cursor in all voices."""
        voices, problems = self.work.voices()
        self.app.push_screen(SaidAs(self.work.session.said_as(voices)))
        if problems:
            self.post_message(Happened(problems[0], error=True))

    # What was heard

    @property
    def picked(self) -> Heard | None:
        """The announcement that is picked, None for the last one."""
        return None

    def action_document(self) -> None:
        """Ask for a defect about an announcement."""
        draft = self.work.evidence(self.picked)
        if draft is None:
            self.post_message(Happened("Nothing was heard yet, so there is nothing to document.", error=True))
        else:
            self.post_message(ToDocument(draft))

    def action_copy(self) -> None:
        """Copy an announcement."""
        entry = self.picked or next(reversed(self.work.session.log), None)
        if entry is not None:
            self.app.copy_to_clipboard(entry.utterance.text)
