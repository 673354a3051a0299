"""The application: views, actions, and keeping the place."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from functools import partial
from pathlib import Path
from time import monotonic
from typing import ClassVar

from textual import events
from textual.app import App, ComposeResult, SystemCommand
from textual.binding import BindingType
from textual.screen import Screen
from textual.widget import Widget
from textual.widgets import ContentSwitcher

from murvel.casebook.defect import Defect
from murvel.casebook.errors import CasebookError
from murvel.reader import acting
from murvel.reader.commands import command
from murvel.reader.kinds import LEADS, Kind
from murvel.reader.moves import Direction, Heard, Mode
from murvel.reader.timing import FASTEST, SLOWEST
from murvel.reader.voice import Voice
from murvel.reader.voice_files import all_voices
from murvel.report.charts import CHARTS
from murvel.report.drawing import draw
from murvel.report.errors import ReportError
from murvel.report.formats import ChartKind
from murvel.survey.entry import Entry
from murvel.tui.actions import ACTIONS, Where, bindings
from murvel.tui.dialogs.ask import AskLine
from murvel.tui.dialogs.defect_form import DefectForm
from murvel.tui.dialogs.dialog import AllActions
from murvel.tui.dialogs.help import Help
from murvel.tui.dialogs.jump import JumpLetters
from murvel.tui.dialogs.looking import Looking
from murvel.tui.dialogs.notes import Notes
from murvel.tui.dialogs.said_as import SaidAs
from murvel.tui.page_keys import command_for
from murvel.tui.reading_on import ReadingOn
from murvel.tui.theme import DARK, LIGHT
from murvel.tui.widgets.defects import DefectsView
from murvel.tui.widgets.ears import EarsView
from murvel.tui.widgets.heard import HeardLog
from murvel.tui.widgets.keyboard import KeyboardView
from murvel.tui.widgets.lines import KeyLine, MessageLine, TopLine
from murvel.tui.widgets.listen import ListenView
from murvel.tui.widgets.live import LiveView
from murvel.tui.widgets.readout import ReadoutView
from murvel.tui.widgets.survey import SurveyView
from murvel.tui.widgets.view import Document, GoTo, View
from murvel.work.work import Work

_KEEP_PLACE_EVERY = 2.0
"""Seconds between two times at which the cursor's place is kept, where it has moved."""

_MANY = 10_000
"""Objects of a page from which on surveying it takes a while."""

_PASS_TIME_EVERY = 0.25
"""Seconds between two times at which the page is told that time passed."""

_VIEWS = {
    "listen": Where.LISTEN,
    "survey": Where.SURVEY,
    "keyboard": Where.KEYBOARD,
    "live": Where.LIVE,
    "defects": Where.DEFECTS,
}


class MurvelApp(App[None]):
    """Murvel's full-screen application over one piece of work."""

    CSS = "ContentSwitcher { height: 1fr; }"
    TITLE = "Murvel"
    ENABLE_COMMAND_PALETTE = True
    BINDINGS: ClassVar[list[BindingType]] = [*bindings(Where.ANYWHERE)]

    def __init__(self, work: Work, voice_folder: Path | None = None) -> None:
        super().__init__()
        self.work = work
        self.voice_folder = voice_folder
        self._reading = ReadingOn(self, work.session, partial(self.action_command, "next"))
        self._ears = False
        self._view = Where.LISTEN
        self._defect_count = len(work.defects())
        for theme in list(self.available_themes):
            self.unregister_theme(theme)
        self.register_theme(DARK)
        self.register_theme(LIGHT)
        self.theme = DARK.name

    def compose(self) -> ComposeResult:
        """Top line, the view, bottom lines."""
        yield TopLine()
        with ContentSwitcher(initial="listen"):
            yield ListenView(self.work, id="listen")
            yield EarsView(self.work.session, id="ears")
            yield SurveyView(self.work, id="survey")
            yield KeyboardView(self.work, id="keyboard")
            yield LiveView(self.work.session, id="live")
            yield DefectsView(self.work, id="defects")
        yield MessageLine()
        yield KeyLine()

    def on_mount(self) -> None:
        """Arrive on the page."""
        self.work.arrive()
        self.theme_changed_signal.subscribe(self, lambda _: self._show_lines())
        self.query_one(ReadoutView).focus()
        self.set_interval(_KEEP_PLACE_EVERY, self._keep_place)
        self._since = monotonic()
        if self.work.session.stage is not None:
            self.set_interval(_PASS_TIME_EVERY, self._pass_time)
        self.call_after_refresh(self._show)
        problems = self.work.problems
        if problems:
            more = f" (and {len(problems) - 1} more)" if len(problems) > 1 else ""
            self._say(problems[0] + more)

    def on_resize(self) -> None:
        """Fit the top line to the new width."""
        self.call_after_refresh(self._show_lines)

    # Showing

    def _show(self) -> None:
        self.query_one(ListenView).show_now()
        if self._view is Where.LIVE:
            self.query_one(LiveView).show_now()
        if self._ears:
            self.query_one(EarsView).show_session()
        self._show_lines()

    def _show_lines(self) -> None:
        self.query_one(TopLine).show_work(self.work, self._view, self._defect_count)
        self.query_one(KeyLine).show_view(self._view, self.work.session.mode)

    def _say(self, message: str, *, error: bool = False) -> None:
        self.query_one(MessageLine).say(message, error=error)

    def _show_view(self, view: Where) -> None:
        self._view = view
        self._ears = False
        self.query_one(ContentSwitcher).current = next(name for name, each in _VIEWS.items() if each is view)
        shown = self._views()[view]
        shown.show_now()
        self.set_focus(shown.for_keys)  # at once, so that no key goes to the view before
        self._show_lines()

    def _views(self) -> dict[Where, View]:
        return {
            Where.LISTEN: self.query_one(ListenView),
            Where.SURVEY: self.query_one(SurveyView),
            Where.KEYBOARD: self.query_one(KeyboardView),
            Where.LIVE: self.query_one(LiveView),
            Where.DEFECTS: self.query_one(DefectsView),
        }

    # Moves

    def _moved(self) -> None:
        self._say("")
        self._show()

    def action_command(self, words: str) -> None:
        """Do a move that is asked for in words."""
        self._pass_time()
        command(self.work.session, words)
        self._moved()

    # The page at work

    def _pass_time(self) -> None:
        """Tell the page that time passed, and show what is heard of it."""
        now = monotonic()
        heard = acting.wait(self.work.session, now - self._since)
        self._since = now
        if heard:
            self._show()

    def action_step_time(self, seconds: float) -> None:
        """Let time pass on the page at once."""
        acting.wait(self.work.session, seconds)
        self._show()

    def action_export_timeline(self, form: str) -> None:
        """Draw the timeline into a file beside the casebook, as "svg" or "pdf"."""
        self._export(ChartKind.TIMELINE, form)

    def action_export_path(self, form: str) -> None:
        """Draw the way of Tab into a file beside the casebook, as "svg" or "pdf"."""
        self._export(ChartKind.PATH, form)

    def _export(self, chart: ChartKind, form: str) -> None:
        path = self.work.casebook.path.with_name(f"{self.work.casebook.path.stem}-{chart}.{form}")
        try:
            draw(CHARTS[chart].drawing(self.work.session), path)
        except ReportError as error:
            self._say(str(error), error=True)
            return
        self._say(f"The {chart} is drawn in {path}.")

    def _key_for_page(self, event: events.Key) -> str | None:
        """The command that a key means in focus mode, where keys go to the page; None where it is the reader's."""
        listening = self.query_one(EarsView if self._ears else ReadoutView)
        is_for_page = self.work.session.mode is Mode.FOCUS and listening.has_focus
        return command_for(event) if is_for_page else None

    def action_next_voice(self) -> None:
        """Go on in the next voice."""
        voices, problems = self.voices()
        at = next((at for at, voice in enumerate(voices) if voice.name == self.work.session.voice.name), -1)
        self._change_voice(voices[(at + 1) % len(voices)])
        if problems:
            self._say(problems[0], error=True)

    def voices(self) -> tuple[list[Voice], list[str]]:
        """Return the built-in voices and the person's own, read anew, with what is wrong with their files."""
        return all_voices(self.voice_folder)

    def action_rate(self, by: int) -> None:
        """Read faster or slower."""
        voice = self.work.session.voice
        rate = min(max(voice.rate + by, SLOWEST), FASTEST)
        reading = self._reading.is_on
        self._change_voice(replace(voice, rate=rate))
        self._say(f"{rate} words a minute.")
        if reading:
            self._reading.go_on()

    def _change_voice(self, voice: Voice) -> None:
        self.work.session.change_voice(voice)
        self._moved()

    def action_said_as(self) -> None:
        """Show what is at the cursor in all voices."""
        self.push_screen(SaidAs(self.work.session.said_as(self.voices()[0])))

    # Ears only

    def action_ears(self) -> None:
        """Hide the page, or show it again, and where the listener was at each note."""
        self._ears = not self._ears
        self.query_one(ContentSwitcher).current = "ears" if self._ears else "listen"
        self.query_one(EarsView if self._ears else ReadoutView).focus()
        self._show()
        if self._ears:
            self._say("The page is hidden. o notes what puzzles you, E shows the page again.")
        elif self.work.session.notes:
            self.push_screen(Notes(self.work.session))

    def action_note(self) -> None:
        """Note that what was heard last is puzzling."""
        self._say(f"Note {self.work.session.note()} is kept.")
        if self._ears:
            self.query_one(EarsView).show_session()

    # Reading on

    def action_read_on(self) -> None:
        """Read on at the voice's rate, or stop."""
        if self._reading.is_on:
            self._stop_reading()
        else:
            self._say("Reading on. Any key stops; + and - change the rate.")
            self._reading.go_on()

    def _stop_reading(self) -> None:
        self._reading.stop()
        self._say("")

    async def on_event(self, event: events.Event) -> None:
        """Stop reading on at any key but those that change the rate."""
        if self._reading.is_on and isinstance(event, events.Key) and event.key not in ("plus", "minus", "a"):
            self._stop_reading()
        if isinstance(event, events.Key) and self._view is Where.LISTEN and self.screen is self.screen_stack[0]:
            words = self._key_for_page(event)
            if words is not None:
                event.stop()
                self.action_command(words)
                return
        await super().on_event(event)

    def action_jump(self, direction: str) -> None:
        """Ask for a kind and jump to it."""
        way = Direction(direction)
        self.push_screen(JumpLetters(way), partial(self._asked_to_jump, way))

    def _asked_to_jump(self, direction: Direction, kind: Kind | None) -> None:
        if kind is LEADS:
            self._when_surveyed(partial(self._jump, direction, kind))
        elif kind is not None:
            self._jump(direction, kind)

    def _jump(self, direction: Direction, kind: Kind) -> None:
        verb = "jump" if direction is Direction.FORWARD else "back"
        self.action_command(f"{verb} {kind.id}")

    def action_find(self) -> None:
        """Ask for text and find it."""
        self.push_screen(AskLine("Find in what is heard:", "words, then Enter; n and N find them again"), self._find)

    def _find(self, text: str | None) -> None:
        if text is not None:
            self.action_command(f"find {text}")

    def action_screenful(self, by: int) -> None:
        """Go on or back by a screenful of items."""
        item = self.work.session.item
        if item is not None:
            self._go_to_item(item.index + by * self.query_one(ReadoutView).screenful())

    def on_readout_view_chosen(self, message: ReadoutView.Chosen) -> None:
        """Go to the item that was clicked."""
        self._go_to_item(message.item)

    def _go_to_item(self, index: int) -> None:
        self.action_command(f"item {max(index, 0) + 1}")

    def action_pick_heard(self) -> None:
        """Give the keys to Heard, to pick an entry; Escape gives them back."""
        self.query_one(HeardLog).focus()
        self._say("Pick an announcement with the arrows; d documents it, Esc goes back to reading.")

    def action_escape(self) -> None:
        """Give the keys back to the readout; from there, Escape goes to the page."""
        if self._ears or self.query_one(ReadoutView).has_focus:
            self.action_command("escape")
        else:
            self.query_one(ReadoutView).focus()
            self._say("")

    def action_copy_heard(self) -> None:
        """Copy the last announcement to the clipboard."""
        if self.work.session.log:
            self.copy_to_clipboard(self.work.session.log[-1].utterance.text)
            self._say("Copied what was heard last.")

    # Defects

    def action_document(self) -> None:
        """Open the form on the last announcement, or on the one picked in Heard."""
        entry: Heard | None = None
        heard = self.query_one(HeardLog)
        if heard.has_focus:
            entry = heard.picked()
        draft = self.work.evidence(entry)
        if draft is None:
            self._say("Nothing was heard yet, so there is nothing to document.", error=True)
            return
        self.push_screen(DefectForm(draft, self.work.document), self._documented)

    def _documented(self, kept: Defect | None) -> None:
        if kept is not None:
            self._say(f"Defect {kept.id} is kept in {self.work.casebook.path.name}. Key 5 shows it, u takes it back.")
            self._defects_changed(kept.id)

    # The survey

    def on_go_to(self, message: GoTo) -> None:
        """Go to a place on the page that a view names."""
        self.work.go_to_element(message.element, message.move)
        self._show_view(Where.LISTEN)
        self._moved()
        self._say(message.then)

    def on_document(self, message: Document) -> None:
        """Open the form on what a view found."""
        self.push_screen(DefectForm(message.draft, self.work.document), self._documented)

    def on_survey_view_said(self, message: SurveyView.Said) -> None:
        """Tell the person something."""
        self._say(message.words, error=message.error)

    def action_back_to_entry(self) -> None:
        """Show the survey where one left it."""
        self._show_view(Where.SURVEY)

    def on_defects_view_go_to(self, message: DefectsView.GoTo) -> None:
        """Go to a defect's place in the page."""
        problem = self.work.go_to(message.defect)
        if problem is not None:
            self._say(problem, error=True)
            return
        self._show_view(Where.LISTEN)
        self._moved()

    def on_defects_view_edit(self, message: DefectsView.Edit) -> None:
        """Open the form on a documented defect."""
        keep = partial(self.work.edit, message.defect)
        self.push_screen(DefectForm(message.defect, keep), self._edited)

    def _edited(self, kept: Defect | None) -> None:
        if kept is not None:
            self._say(f"Defect {kept.id} is changed. u takes it back.")
            self._defects_changed(kept.id)

    def on_defects_view_delete(self, message: DefectsView.Delete) -> None:
        """Delete a defect; it can be taken back."""
        try:
            self.work.delete(message.defect)
        except CasebookError as error:
            self._say(str(error), error=True)
            return
        self._say(f"Defect {message.defect.id} is deleted. u takes it back.")
        self._defects_changed()

    def action_undo(self) -> None:
        """Take back the last change of a defect or verdict."""
        try:
            change = self.work.undo()
        except CasebookError as error:
            self._say(str(error), error=True)
            return
        if change is None:
            self._say("There is nothing to take back.")
            return
        self._say(f"Taken back: {change.words}.")
        if isinstance(change.about, Entry):
            if self._view is Where.SURVEY:
                self.query_one(SurveyView).show_entry(change.about)
        else:
            self._defects_changed(change.about.id if change.about is not None else None)

    def _defects_changed(self, pick: int | None = None) -> None:
        defects = self.work.defects()
        self._defect_count = len(defects)
        self.query_one(DefectsView).show_defects(defects, pick)
        self._show_lines()

    # The rest

    def action_view(self, name: str) -> None:
        """Show a view."""
        view = _VIEWS[name]
        self._say("")
        if view in (Where.SURVEY, Where.KEYBOARD):
            self._when_surveyed(partial(self._show_view, view))
        else:
            self._show_view(view)

    def _when_surveyed(self, then: Callable[[], None]) -> None:
        """Do something that needs the survey; on a large page that takes a while, which is shown and can be stopped."""
        nodes = len(self.work.session.tree.nodes)
        if self.work.is_surveyed or nodes <= _MANY:
            then()
            return

        def looked(is_done: bool | None) -> None:
            if is_done:
                then()
            else:
                self._say("Stopped before the whole page was looked through.")

        self.push_screen(Looking(f"Looking through {nodes:,} objects of the page", self.work.look_through()), looked)

    def action_turn_light(self) -> None:
        """Change between the dark and the light theme."""
        self.theme = LIGHT.name if self.theme == DARK.name else DARK.name

    def action_help(self) -> None:
        """Show all keys."""
        self.push_screen(Help())

    def _keep_place(self) -> None:
        try:
            self.work.leave()
        except CasebookError as error:
            self._say(str(error), error=True)

    def action_leave(self) -> None:
        """Keep the place and quit."""
        self._keep_place()
        self.exit()

    def get_system_commands(self, screen: Screen[object]) -> Iterable[SystemCommand]:
        """Give the palette every action, each with its key."""
        views = {where: view for where, view in self._views().items() if isinstance(view, Widget)}
        for action in ACTIONS:
            if action.id != "command_palette":
                run = partial(self.run_action, action.target, views.get(action.where))
                yield SystemCommand(f"{action.words}   {action.shown}", action.where.value, run)

    def action_command_palette(self) -> None:
        """Show all actions, to be searched."""
        if not isinstance(self.screen, AllActions):
            self.push_screen(AllActions(placeholder="search: words of an action", id="--command-palette"))
