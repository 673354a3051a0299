"""The application: it opens pages, keeps their screens, and has the actions that hold everywhere."""

from __future__ import annotations

import asyncio
import os
import signal
import traceback
from collections import Counter
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import replace
from functools import partial
from pathlib import PurePath
from threading import Timer
from typing import ClassVar

from rich.text import Text
from textual import events
from textual.app import App, ScreenStackError
from textual.binding import BindingType
from textual.css.query import NoMatches
from textual.filter import LineFilter

from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import Catalogue
from murvel.errors import MurvelError
from murvel.files.replacing import write_text
from murvel.retest.answer import Answer, PageRetest
from murvel.text import counted, visible
from murvel.tui.actions import Action, bindings
from murvel.tui.dialogs.actions import AllActions, Group
from murvel.tui.dialogs.help import Help
from murvel.tui.dialogs.open_page import OpenPage
from murvel.tui.dialogs.retest_results import Retesting
from murvel.tui.key_queue import KeyQueue
from murvel.tui.opening_screen import OpeningScreen
from murvel.tui.page_screen import PageScreen
from murvel.tui.registry import APP_ACTIONS
from murvel.tui.settings import Settings
from murvel.tui.terminal_gate import TerminalGate
from murvel.tui.theme import THEMES
from murvel.tui.views.view import Happened, ToPage, ToRetest
from murvel.work.opening import Opening, WantedPage
from murvel.work.retest_casebook import accept, retest_page
from murvel.work.work import Work

_FROM_PAGE = frozenset({"open", "all_actions", "help"})
"""Actions that open a dialog over a page."""

_LAST_SECONDS = 2.0
"""Seconds that the application may take to end when the system asks for it."""

_FAULT = "fault.txt"
"""The file that holds the details of the last fault."""

_COPIED = "copied.txt"
"""The file that holds what was copied last, for terminals that do not give it to the clipboard."""


_STYLES: list[str | PurePath] = ["styles/frame.tcss", "styles/views.tcss", "styles/dialogs.tcss"]


class MurvelApp(App[None]):
    """Murvel's full-screen application over a casebook.

    Args:
        casebook: the open casebook.
        opening: the page that is opened first.
        catalogue: the checks that look through pages.
        settings: what it is started with.
    """

    CSS_PATH = _STYLES
    TITLE = "Murvel"
    ENABLE_COMMAND_PALETTE = False
    BINDINGS: ClassVar[list[BindingType]] = [*bindings(APP_ACTIONS)]

    def __init__(
        self,
        casebook: Casebook,
        opening: Opening,
        catalogue: Catalogue,
        settings: Settings | None = None,
    ) -> None:
        super().__init__()
        self.casebook = casebook
        self.settings = settings or Settings()
        self._first = opening
        self._openings: list[Opening] = []
        self._retests = 0
        """How many re-tests are under way."""
        self._catalogue = catalogue
        self._gate = TerminalGate()
        self.keys_typed = KeyQueue(self, super().on_event, self._tell_dropped)
        for name in list(self.available_themes):
            self.unregister_theme(name)
        for theme in THEMES:
            self.register_theme(theme)
        names = [theme.name for theme in THEMES]
        remembered = self.settings.remembered.theme
        self.theme = remembered if remembered in names else names[0]
        self.set_keymap(self.settings.keymap)

    async def on_event(self, event: events.Event) -> None:
        """Put keys into their queue; all else is taken as it comes."""
        if isinstance(event, events.Key | events.Paste) and not event.is_forwarded:
            self.keys_typed.put(event)
        else:
            await super().on_event(event)

    def _tell_dropped(self, count: int) -> None:
        self._say(f"Stopped, and {counted(count, 'key that waited is', 'keys that waited are')} dropped.")

    def get_line_filters(self) -> Sequence[LineFilter]:
        """Return what all that is drawn passes: the gate before the terminal comes last."""
        return [*super().get_line_filters(), self._gate]

    def on_mount(self) -> None:
        """Open the first page; end in good order where the system or the terminal asks for it."""
        for each in (signal.SIGTERM, signal.SIGHUP):
            asyncio.get_running_loop().add_signal_handler(each, self._end_by_signal, each)
        self.open_page(self._first)

    def _end_by_signal(self, number: signal.Signals) -> None:
        """Keep the place and end, as a shell expects it of a signal.

        A terminal that is gone may take no output any more; it must not keep the process.
        """
        if self.page is not None:
            self.page.keep_place()
        if not self.is_headless:
            last = Timer(_LAST_SECONDS, os._exit, [128 + number])
            last.daemon = True
            last.start()
        self.exit(return_code=128 + number)

    # Pages

    @property
    def page(self) -> PageScreen | None:
        """The screen of the page that is open, None before the first one is."""
        return next((each for each in reversed(self.screen_stack) if isinstance(each, PageScreen)), None)

    @property
    def is_opening(self) -> bool:
        """Whether a thread still opens or re-tests a page, also one that was given up: a fetch cannot be broken off."""
        return self._retests > 0 or any(each.is_under_way for each in self._openings)

    def open_page(self, opening: Opening) -> None:
        """Open a page; the one that is open stays until the other is ready."""
        if self.page is not None:
            self.page.keep_place()
        self._openings.append(opening)
        self.push_screen(OpeningScreen(opening, self.casebook, self._catalogue), partial(self._opened, opening))

    def _open_wanted(self, wanted: WantedPage) -> None:
        setup = replace(self._openings[-1].setup, width=wanted.width)
        self.open_page(Opening(wanted.address, setup, wanted.defect, wanted.walk, self._openings[-1].voice))

    def _opened(self, opening: Opening, answer: Work | MurvelError | None) -> None:
        if isinstance(answer, Work):
            self._show_page(answer, opening)
        elif self.page is None:
            problem = f"murvel: {answer}" if answer is not None else None
            self.exit(return_code=2 if answer is not None else 0, message=problem)
        else:
            words = str(answer) if answer is not None else f"{opening.address} was not opened."
            self.page.post_message(Happened(words, error=answer is not None))

    def _show_page(self, work: Work, opening: Opening) -> None:
        work.voice_folder = self.settings.voice_folder
        work.texts = self.settings.texts
        work.arrive(goes_back=opening.walk is None)
        words = (work.go_to(opening.defect) or "") if opening.defect is not None else ""
        self._remember(work)
        screen = PageScreen(work, self.settings.keymap, words, opening.walk)
        if self.page is None:
            self.push_screen(screen)
        else:
            self.switch_screen(screen)

    def _remember(self, work: Work) -> None:
        self.settings.remembered.opened(work.page.address, work.page.width)
        self._keep_remembered()

    def _keep_remembered(self) -> None:
        try:
            self.settings.remembered.keep()
        except MurvelError as error:
            self._say(str(error), error=True)

    def _say(self, words: str, *, error: bool = False) -> None:
        if self.page is not None:
            self.page.post_message(Happened(words, error=error))

    def on_to_page(self, message: ToPage) -> None:
        """Open the page that a view asks for."""
        self._open_wanted(message.wanted)

    def on_to_retest(self, message: ToRetest) -> None:
        """Re-test the page that a view asks for, and keep what the person accepts."""
        page, address = message.page, message.address
        setup = replace(self._openings[-1].setup, width=page.width)

        def answered(accepted: list[Answer] | None) -> None:
            if not accepted:
                return
            try:
                changed = accept(self.casebook, accepted, "re-tested")
            except MurvelError as error:
                self._say(str(error), error=True)
            else:
                counts = Counter(each.next_status for each in changed)
                words = ", ".join(f"{counted(count, 'defect', 'defects')} {status}" for status, count in counts.items())
                self._say(f"Re-tested: {words}. u takes it back.")

        def retest() -> PageRetest:
            self._retests += 1
            try:
                return retest_page(self.casebook, page, address, self._catalogue, setup)
            finally:
                self._retests -= 1

        self.push_screen(Retesting(page, address, retest), answered)

    # Actions

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        """Let keys that open a dialog do so from a page only, and not where they are typed into it."""
        if action in _FROM_PAGE:
            return isinstance(self.screen, PageScreen) and not self.screen.takes_typing
        return True

    def action_open(self) -> None:
        """Ask for another page and open it."""
        page = self.page
        assert page is not None, "it is asked from a page only"

        def asked(wanted: WantedPage | None) -> None:
            if wanted is not None:
                self._open_wanted(wanted)

        self.push_screen(OpenPage(self.casebook.pages(), self.settings.remembered.pages, page.work.page.width), asked)

    def action_next_theme(self) -> None:
        """Change to the next theme, and remember it."""
        names = [theme.name for theme in THEMES]
        self.theme = names[(names.index(self.theme) + 1) % len(names)]
        self.settings.remembered.theme = self.theme
        self._keep_remembered()

    def _groups(self) -> list[Group]:
        assert self.page is not None, "they are asked for from a page only"
        return self.page.groups()

    def action_all_actions(self) -> None:
        """Let the person search all actions and run one."""

        async def run(action: Action | None) -> None:
            if action is not None and self.page is not None:
                self.settings.remembered.ran(action.id)
                self._keep_remembered()
                await self.page.run(action)

        self.push_screen(AllActions(self._groups(), self.settings.keymap, self.settings.remembered.actions), run)

    def action_help(self) -> None:
        """Show all keys."""
        self.push_screen(Help(self._groups(), self.settings.keymap, str(self.settings.file)))

    def copy_to_clipboard(self, text: str) -> None:
        """Copy text: to the clipboard through the terminal, which may not take it, and therefore to a file as well."""
        text = visible(text, keep_lines=True)
        super().copy_to_clipboard(text)
        folder = self.settings.remembered.path
        if folder is None:
            self._say("Copied.")
            return
        path = folder.with_name(_COPIED)
        try:
            write_text(text + "\n", path, "copy", MurvelError)
        except MurvelError as error:
            self._say(str(error), error=True)
        else:
            self._say(f"Copied. Where your terminal does not pass it on, it is in {path}.")

    def _handle_exception(self, error: Exception) -> None:
        """Keep the work where a fault ends the application, and say where the details are.

        Textual would print the whole trace over the terminal. Two things are no faults: a key that comes when all
        screens are closed, and a screen that has not all its parts yet when the application is left.
        """
        if isinstance(error, ScreenStackError) and not self.screen_stack:
            return
        if isinstance(error, NoMatches) and self._exit:
            return
        self._return_code = 1
        if self._exception is None:
            self._exception = error
            self._exception_event.set()
        with suppress(Exception):
            if self.page is not None:
                self.page.keep_place()
        self.panic(Text(f"murvel: {self._told_of(error)}"))

    def _told_of(self, error: Exception) -> str:
        """Write the details of a fault to a file, and return what is said of it."""
        fault = f"A fault of Murvel's own ended it ({visible(type(error).__name__)}); what was documented is kept"
        details = "".join(traceback.format_exception(error))
        folder = self.settings.remembered.path
        if folder is None:
            return f"{fault}."
        path = folder.with_name(_FAULT)
        try:
            write_text(details, path, "report of the fault", MurvelError)
        except MurvelError:
            return f"{fault}, and the details cannot be written to {path}."
        return f"{fault}. The details are in {path}; please report them."

    def action_leave(self) -> None:
        """Keep the place and quit."""
        if self.page is not None:
            self.page.keep_place()
        self.exit()
