"""The screen of an open page: the top line, the view in front, the bottom lines; it passes time and keeps the place."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from threading import Lock
from typing import ClassVar

from textual import work as background
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.reactive import var
from textual.screen import Screen
from textual.widgets import ContentSwitcher

from murvel.casebook.defect import Defect
from murvel.casebook.errors import CasebookError
from murvel.reader.speech.timing import clock
from murvel.report.charts import CHARTS, Subject
from murvel.report.drawing import draw
from murvel.report.errors import ReportError
from murvel.report.formats import ChartKind
from murvel.stage.stage import Stage
from murvel.survey.entry import EntryKey
from murvel.text import counted
from murvel.tui.actions import ANYWHERE, Action, Keymap, bindings, keys_of
from murvel.tui.dialogs.actions import Group
from murvel.tui.dialogs.ask import AskLine
from murvel.tui.dialogs.defect_form import DefectForm
from murvel.tui.dialogs.looking import MANY, Looking
from murvel.tui.dialogs.problems import Problems
from murvel.tui.dialogs.two_colours import TwoColours
from murvel.tui.dialogs.walking import Walking
from murvel.tui.registry import APP_ACTIONS, NUMBERED, PAGE_ACTIONS, VIEW_ACTIONS, VIEWS
from murvel.tui.views.view import Happened, NeedsSurvey, ToDocument, ToFront, ToPage, View
from murvel.tui.widgets.lines import KeyHint, KeyLine, MessageLine, Tab, TopLine
from murvel.walks.addresses import address_of
from murvel.walks.errors import WalkError
from murvel.walks.parsing import SUFFIXES, read_walk
from murvel.walks.walk import Walk
from murvel.work.opening import WantedPage
from murvel.work.work import Work

_KEEP_PLACE_EVERY = 2.0
"""Seconds between two times at which the cursor's place is kept, where it has moved."""

_PASS_TIME_EVERY = 0.25
"""Seconds between two times at which the page learns that time passed."""

_STAY_LAST = frozenset({"help", "quit"})
"""Actions that the key line always shows, at its end."""


class PageScreen(Screen[None]):
    """The views over one piece of work.

    Args:
        work: the open page with its casebook.
        keymap: the keys a person chose.
        words: what the person is told at first.
        walk: the walk that is made on the page in the open, None for none.
    """

    BINDINGS: ClassVar[list[BindingType]] = bindings(PAGE_ACTIONS)

    moment: var[int] = var(0, init=False)
    """How often something has happened to the work; views draw when it changes."""
    front: var[str] = var("", init=False)
    """The name of the view in front."""

    def __init__(self, work: Work, keymap: Keymap, words: str = "", walk: Walk | None = None) -> None:
        super().__init__()
        self._walk = walk
        self.work = work
        self._keymap = keymap
        self._words = words
        self._drawing = Lock()  # one drawing after the other

    def compose(self) -> ComposeResult:
        """Top line, the views, bottom lines."""
        yield TopLine()
        with ContentSwitcher(initial=VIEWS[0].NAME):
            for view in VIEWS:
                yield view(self.work).data_bind(moment=PageScreen.moment)
        yield MessageLine()
        yield KeyLine()

    def on_mount(self) -> None:
        """Begin as soon as the views are there, which is now unless much is going on."""
        self._begin()

    def _begin(self) -> None:
        """Show the first view, and begin to pass time and to keep the place; nothing if one has quit meanwhile."""
        if not self.is_running or not self.is_attached:
            return
        if not all(view.children for view in self.query(View)):
            self.call_after_refresh(self._begin)
            return
        self.front = VIEWS[0].NAME
        self.set_interval(_KEEP_PLACE_EVERY, self.keep_place)
        self.set_interval(_PASS_TIME_EVERY, self._pass_time)
        self.app.theme_changed_signal.subscribe(self, lambda _: self._show())
        problems = self.work.problems
        if problems:
            key = keys_of(next(each for each in PAGE_ACTIONS if each.name == "problems"), self._keymap)[0]
            self._say(f"{counted(len(problems), 'problem', 'problems')} ({key} shows all): {problems[0]}", error=True)
        else:
            self._say(self._words)
        draft = self.work.draft
        if self._walk is not None:
            self.app.push_screen(Walking(self._walk, self.work, self._show))
        elif draft is not None:
            self._go_on_with(draft)

    # What is shown

    @property
    def view(self) -> View:
        """The view in front."""
        return self.query_one(f"#{self.front}", View)

    @property
    def takes_typing(self) -> bool:
        """Whether letters are typed into the page."""
        return bool(self.front) and self.view.takes_typing

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        """Let nothing be done before the views are there, and digits be typed into the page where that takes them."""
        return bool(self.front) and not (action == "front" and self.takes_typing)

    def _show(self) -> None:
        """Let everything be drawn as it is now."""
        self.moment += 1

    def _say(self, words: str, *, error: bool = False) -> None:
        self.query_one(MessageLine).say(words, error=error)

    def watch_moment(self) -> None:
        """Draw the lines."""
        if self.front:
            self._show_lines()

    def watch_front(self) -> None:
        """Bring the view to the front, and give it the keys at once, so that no key goes to the one before."""
        self.query_one(ContentSwitcher).current = self.front
        for view in self.query(View):
            view.is_in_front = self.front == view.NAME
        self.set_focus(self.view.for_keys)
        self._show_lines()

    def _show_lines(self) -> None:
        session = self.work.session
        top = self.query_one(TopLine)
        top.title = self.work.page.title or self.work.page.address
        top.facts = (
            *(() if type(self.view) in NUMBERED else (self.view.TITLE.lower(),)),
            *_stage_words(session.stage),
            *(("walk",) if self.work.is_walking else ()),
            f"{session.mode.value} mode",
            f"{clock(session.time)} of {clock(session.spoken.total)}",
            session.voice.title,
            f"take {self.work.take.number}",
        )
        top.tabs = tuple(
            Tab(view.NAME, keys_of(action, self._keymap)[0], view.TITLE + self._count_of(view))
            for view, action in zip(NUMBERED, VIEW_ACTIONS, strict=True)
        )
        top.front = self.front
        self.query_one(KeyLine).hints = self._hints()

    def _count_of(self, view: type[View]) -> str:
        count = self.query_one(view).count
        return f" ({count})" if count is not None else ""

    def _hints(self) -> tuple[KeyHint, ...]:
        own = self.view.key_hints()
        if own is not None:
            return tuple(KeyHint(key, words, is_last=key == "Esc") for key, words in own)
        return tuple(
            KeyHint(keys_of(action, self._keymap)[0], action.brief, action.run, action.name in _STAY_LAST)
            for action in (*self.view.ACTIONS, *PAGE_ACTIONS, *APP_ACTIONS)
            if action.brief
        )

    def groups(self) -> list[Group]:
        """Return all actions, those of the view in front first."""
        views = sorted(VIEWS, key=lambda view: self.front != view.NAME)
        every = [Group(view.TITLE, tuple(each for each in view.ACTIONS if each.place == view.NAME)) for view in views]
        return [every[0], Group(ANYWHERE.capitalize(), (*PAGE_ACTIONS, *APP_ACTIONS)), *every[1:]]

    async def run(self, action: Action) -> None:
        """Do an action in its own view, which comes to the front for it."""
        if action.place == ANYWHERE:
            await self.app.run_action(action.run, self)
        elif any(each.id == action.id for each in self.view.ACTIONS):
            await self.app.run_action(action.run, self.view)
        else:
            self._bring(action.place, lambda: self.call_later(self.run, action))

    # What views ask for

    def on_happened(self, message: Happened) -> None:
        """Show what happened, and tell the person."""
        self._show()
        self._say(message.words, error=message.error)

    def on_to_front(self, message: ToFront) -> None:
        """Bring a view to the front."""
        self._show()
        self._bring(message.view, lambda: self._say(message.words))

    def on_needs_survey(self, message: NeedsSurvey) -> None:
        """Do something that needs the survey."""
        self._when_surveyed(message.then)

    def on_to_document(self, message: ToDocument) -> None:
        """Open the form on a defect."""
        self.app.push_screen(DefectForm(message.draft, self.work), self._documented)

    def _go_on_with(self, draft: Defect) -> None:
        """Open the form on a defect that was being written when the application ended."""
        self.app.push_screen(DefectForm(draft, self.work, is_draft=True), self._documented)

    def _documented(self, kept: Defect | None) -> None:
        if kept is not None:
            self._stand_at(kept.id)
            self._say(f"Defect {kept.id} is kept in {self.work.casebook.path.name}. Key 5 shows it, u takes it back.")

    def _stand_at(self, about: int | EntryKey | None) -> None:
        """Show what happened, and let views stand at what it was about."""
        for view in self.query(View):
            view.stand_at(about)
        self._show()

    def on_top_line_chosen(self, message: TopLine.Chosen) -> None:
        """Show the view that was clicked."""
        self.action_front(message.view)

    async def on_key_line_chosen(self, message: KeyLine.Chosen) -> None:
        """Do what the clicked key does."""
        await self.app.run_action(message.run, self.view)

    # Actions

    def action_front(self, name: str) -> None:
        """Bring a view to the front."""
        self._say("")
        self._bring(name)

    def _bring(self, name: str, then: Callable[[], object] = lambda: None) -> None:
        """Bring a view to the front, surveyed where it needs that, and then do something."""

        def bring() -> None:
            self.front = name
            then()

        view = self.query_one(f"#{name}", View)
        if view.NEEDS_SURVEY:
            self._when_surveyed(bring, with_path=view.NEEDS_PATH)
        else:
            bring()

    def _when_surveyed(self, then: Callable[[], None], *, with_path: bool = False) -> None:
        """Do something that needs the survey, and perhaps the Tab order; on a large page that takes a while, which is
        shown and can be stopped."""
        nodes = len(self.work.session.tree.nodes)
        is_known = self.work.is_path_known if with_path else self.work.is_surveyed
        if is_known or nodes <= MANY:
            then()
            return

        def looked(is_done: bool | None) -> None:
            if is_done:
                then()
            else:
                self._say("Stopped before the whole page was looked through.")

        self.app.push_screen(
            Looking(f"Looking through {nodes:,} objects of the page", self.work.look_through(with_path=with_path)),
            looked,
        )

    def action_problems(self) -> None:
        """Show what could not be read of the page."""
        problems = self.work.problems
        if problems:
            self.app.push_screen(Problems(problems))
        else:
            self._say("All of the page could be read.")

    def action_walk(self) -> None:
        """Begin to keep what is done as a walk, or write what was done since then into a file."""
        if not self.work.is_walking:
            self.work.begin_walk()
            key = keys_of(next(each for each in PAGE_ACTIONS if each.name == "walk"), self._keymap)[0]
            self._say(f"The walk begins here; {key} ends it and writes it into a file.")
            self._show_lines()
            return
        try:
            self._say(f"The walk is written: {self.work.end_walk()}")
        except WalkError as error:
            self._say(str(error), error=True)
        self._show_lines()

    def action_replay(self) -> None:
        """Ask for a walk, and make it on its page in the open, which is opened anew for it."""
        beside = self.work.casebook.path.parent
        files = [each for each in beside.glob("*") if each.name.endswith(SUFFIXES)]
        newest = max(files, key=lambda each: each.stat().st_mtime, default=None)

        def given(path: str | None) -> None:
            if not path:
                return
            file = Path(path).expanduser()
            try:
                walk = read_walk(file, self.work.catalogue)
            except WalkError as error:
                self._say(str(error), error=True)
                return
            self.post_message(
                ToPage(WantedPage(address_of(walk.page, file), walk.width or self.work.page.width, walk=walk))
            )

        self.app.push_screen(AskLine("Walk:", "the path of its file", str(newest or "")), given)

    def action_contrast(self) -> None:
        """Measure two colours by hand; those of what one stands at are there already, where they are known."""
        pair = self.view.colours
        self.app.push_screen(TwoColours(pair.colour.hex, pair.behind.hex) if pair is not None else TwoColours())

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
        self._stand_at(change.defect if change.defect is not None else change.entry)
        self._say(f"Taken back: {change.words}.")

    @background(thread=True, group="draw", exit_on_error=False)
    def action_draw(self, chart: str, form: str) -> None:
        """Draw a chart into a file beside the casebook, as "svg" or "pdf"."""
        kind = ChartKind(chart)
        book = self.work.casebook.path
        path = book.with_name(f"{book.stem}-{kind}.{form}")
        self.app.call_from_thread(self._say, f"Drawing the {kind} …")
        try:
            with self._drawing:
                draw(CHARTS[kind].drawing(Subject(self.work.session, self.work.catalogue)), path)
        except ReportError as error:
            self.app.call_from_thread(self._say, str(error), error=True)
        else:
            self.app.call_from_thread(self._say, f"The {kind} is drawn in {path}.")

    # Time

    def _pass_time(self) -> None:
        """Tell the page that time passed, and show what is heard of it; not while a dialog works on the page."""
        stage = self.work.session.stage
        was_busy = stage is not None and stage.is_busy
        if self.is_current and self.work.catch_up():
            self._show()
        elif stage is not None and stage.is_busy != was_busy:
            self._show_lines()

    def on_unmount(self) -> None:
        """Let go of what the page runs on."""
        if self.work.session.stage is not None:
            self.work.session.stage.close()

    def keep_place(self) -> None:
        """Keep where reading stands."""
        try:
            self.work.leave()
        except CasebookError as error:
            self._say(str(error), error=True)


def _stage_words(stage: Stage | None) -> tuple[str, ...]:
    """What the top line says of the stage: whether it is a browser, and whether its page is busy."""
    if stage is None or not stage.is_live:
        return ()
    return ("browser, busy" if stage.is_busy else "browser",)
