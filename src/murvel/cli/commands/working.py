"""Commands that work with a casebook: the application, the line mode, the report.

What only one command needs is imported inside it: reading a page should not wait for a database to load.
"""

from __future__ import annotations

import gc
import os
import sys
from dataclasses import replace
from datetime import date
from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING

import click

from murvel.cli.app import (
    PAGE_HELP,
    app,
    config_folder,
    data_folder,
    force_flag,
    output_option,
    page_argument,
    state_folder,
    voice_folder,
    voice_option,
)
from murvel.cli.opening import Asked, opens_pages
from murvel.cli.output import Exit, print_lines, write_out
from murvel.cli.parameters import argument, flag, option
from murvel.loading.addresses import STANDARD_INPUT
from murvel.loading.errors import PageError
from murvel.loading.setup import DEFAULT_SETUP, BrowserSetup, Setup
from murvel.report.formats import Format, format_of

if TYPE_CHECKING:
    from murvel.checks.engine.catalogue import Catalogue
    from murvel.reader.speech.voice import Voice


class DemoPage(StrEnum):
    """The demo's pages."""

    WELCOME = "welcome"
    PLOTS = "plots"
    WAITING = "waiting"
    ROTA = "rota"
    HARVEST = "harvest"
    NOTICES = "notices"
    RULES = "rules"
    MEMBERS = "members"
    DESK = "desk"
    POCKET = "pocket"


@app.command("open")
@argument("page", "PAGE", f"{PAGE_HELP} A casebook opens its last page.")
@option(
    "--casebook",
    "casebook",
    about="Document in FILE, which is made where it does not exist.",
    kind=Path,
    metavar="FILE",
)
@opens_pages
def open_page(page: str, casebook: Path | None, *, asked: Asked) -> None:
    """Open a page in the full-screen application."""
    from murvel.casebook.file import SUFFIX, is_casebook
    from murvel.work.work import last_page

    path, width = Path(page), None
    if casebook is None and is_casebook(path):
        casebook = path
        last = last_page(path)
        page, width = last.address, last.width
    book = casebook or data_folder() / f"casebook{SUFFIX}"
    _run_application(page, book, asked.catalogue(), asked.setup(width), asked.voice())


@app.command("demo")
@argument("page", "PAGE", "One of the pages; pocket is a screen of an app.", DemoPage, is_optional=True)
@flag("--repaired", "repaired", about="Open the repaired page.")
@flag("--browser", "browser", about="Open it in a real Chromium: the desk, a page with scripts, by default.")
def demo(page: DemoPage | None, repaired: bool, browser: bool) -> None:
    """Open the demo, Fernhollow Allotments."""
    from murvel.checks.engine.catalogue import built_in
    from murvel.demo import site
    from murvel.demo.tour import tour
    from murvel.work.sessions import opened_session

    setup = replace(DEFAULT_SETUP, browser=BrowserSetup()) if browser else DEFAULT_SETUP
    if not _has_terminal() and page is None and not repaired and not browser:
        print_lines(tour(date.today()))
        return
    folder = data_folder() / "demo"
    site.install(folder)
    first = DemoPage.DESK if browser else DemoPage.WELCOME
    address = str(site.page_path(folder, (page or first).value, repaired=repaired))
    if _has_terminal():
        _run_application(address, site.casebook_path(folder), built_in(), setup)
    else:
        with opened_session(address, setup) as session:
            print_lines([session.arrive().text, *session.spoken.lines()])


@app.command("listen")
@page_argument
@option(
    "--casebook",
    "casebook",
    about="Document in FILE, which is made where it does not exist.",
    kind=Path,
    metavar="FILE",
)
@voice_option
@opens_pages
def listen(page: str, casebook: Path | None, voice: str | None, *, asked: Asked) -> None:
    """Read and work a page line by line."""
    from murvel.casebook.file import SUFFIX
    from murvel.cli.listening import Listening
    from murvel.work.work import open_work

    book = casebook or data_folder() / f"casebook{SUFFIX}"
    work = open_work(page, book, asked.catalogue(), asked.setup(), asked.voice(voice))
    with work.casebook:
        if page == STANDARD_INPUT:
            take_keys_from_terminal()
        gc.enable()
        listening = Listening(work, voice_folder(), sys.stdin.isatty(), asked.setup())
        print_lines(listening.arrive())
        asked.tell(work.session.tree.document.problems)
        try:
            for line in listening.lines():
                if not print_lines(listening.answer(line)) and listening.is_over:
                    break
        finally:
            work.close()


@app.command("report")
@argument("casebook", "CASEBOOK", "The casebook.", Path)
@option("--format", "form", about="Write HTML or Markdown. By default the ending of FILE says it.", kind=Format)
@output_option
@force_flag
def report(casebook: Path, form: Format | None, output: Path | None, force: bool) -> None:
    """Report the documented defects."""
    from murvel.casebook.store import Casebook
    from murvel.report.errors import ReportError
    from murvel.report.write import render

    wanted_form = format_of(Format, form, output)
    with Casebook(casebook, read_only=True) as book:
        text = render(book, wanted_form, date.today())
    write_out(text, output, "report", ReportError, force=force)


def _has_terminal() -> bool:
    return sys.stdin.isatty() and sys.stdout.isatty()


def _run_application(
    address: str, casebook: Path, catalogue: Catalogue, setup: Setup, voice: Voice | None = None
) -> None:
    if not sys.stdout.isatty() or not (sys.stdin.isatty() or address == STANDARD_INPUT):
        raise PageError("There is no terminal to open the application in", "use murvel read PAGE for plain lines.")
    if os.environ.get("TERM", "dumb") in ("dumb", "unknown"):
        raise PageError("This terminal cannot show a full screen", "use murvel listen PAGE, the line mode.")
    import asyncio

    from murvel.casebook.store import Casebook
    from murvel.tui.app import MurvelApp
    from murvel.tui.registry import ALL_ACTIONS
    from murvel.tui.remembered import read_remembered
    from murvel.tui.settings import NAME, Settings, read_keymap, read_texts
    from murvel.work.opening import Opening

    file = config_folder() / NAME
    remembered = read_remembered(state_folder() / "remembered.json")
    settings = Settings(read_keymap(file, ALL_ACTIONS), voice_folder(), file, remembered, read_texts(file))
    opening = Opening(address, setup, voice=voice)
    if address == STANDARD_INPUT and setup.browser is None:
        from murvel.loading.fetch import fetch

        opening.source = fetch(address, setup)
        take_keys_from_terminal()
    gc.enable()
    with Casebook(casebook) as book:
        application = MurvelApp(book, opening, catalogue, settings)
        application.run(loop=asyncio.new_event_loop())
    if application.is_opening:
        sys.stdout.flush()
        os._exit(application.return_code or Exit.DONE)  # Python would wait for the thread until the fetch times out
    if application.return_code:
        raise click.exceptions.Exit(max(Exit.ERROR, application.return_code))


@app.command("man")
@flag("--markdown", "markdown", about="Print the commands as a Markdown document.")
def man(markdown: bool) -> None:
    """Print the manual page, for man -l -."""
    from murvel.cli.manual import manual_lines, reference_lines

    sys.stdout.writelines(f"{line}\n" for line in (reference_lines() if markdown else manual_lines()))


class Shell(StrEnum):
    """Shells in which words of commands are completed."""

    BASH = "bash"
    ZSH = "zsh"
    FISH = "fish"


@app.command("completion")
@argument("shell", "SHELL", "The shell: bash, zsh or fish.", Shell)
def completion(shell: Shell) -> None:
    """Print what sets up completion in a shell, for its start file."""
    from click.shell_completion import get_completion_class

    kind = get_completion_class(shell.value)
    assert kind is not None, "Click knows these shells"
    sys.stdout.write(kind(app, {}, "murvel", "_MURVEL_COMPLETE").source())


@app.command("keys")
@flag("--markdown", "markdown", about="Print the usual keys as a Markdown document.")
def keys(markdown: bool) -> None:
    """List the keys of the application."""
    from murvel.tui.key_list import key_lines, keys_markdown
    from murvel.tui.registry import ALL_ACTIONS
    from murvel.tui.settings import NAME, read_keymap

    if markdown:
        sys.stdout.writelines(f"{line}\n" for line in keys_markdown())
    else:
        file = config_folder() / NAME
        print_lines(key_lines(read_keymap(file, ALL_ACTIONS), file))


def take_keys_from_terminal() -> None:
    """Standard input was the page; the keys come from the terminal itself."""
    try:
        os.dup2(os.open("/dev/tty", os.O_RDONLY), sys.stdin.fileno())
    except OSError as error:
        raise PageError("There is no terminal to take keys from", "save the page to a file and open that.") from error


class TakePart(StrEnum):
    """What can be had of a take."""

    TREE = "tree"
    SOURCE = "source"
    CAPTURE = "capture"


@app.command("takes")
@argument("casebook", "CASEBOOK", "A casebook.", Path)
@argument("take", "TAKE", "Print one take, by its number in the list.", int, is_optional=True)
@option("--part", "part", about="Print its tree, its source, or the capture.", kind=TakePart, default=TakePart.TREE)
def takes(casebook: Path, take: int | None, part: TakePart) -> None:
    """List the takes of a casebook, or print one."""
    from murvel.casebook.errors import CasebookError
    from murvel.casebook.store import Casebook

    with Casebook(casebook, read_only=True) as book:
        if take is None:
            lines = (
                f"{each.id:>4}  take {each.number} of {each.address}, {each.taken[:16].replace('T', ' ')}"
                + ("" if each.is_kept else ", not kept")
                for each in book.takes()
            )
            if not print_lines(lines):
                raise click.exceptions.Exit(Exit.NOTHING_FOUND)
            return
        content = book.content(take)
        if content is None:
            raise CasebookError(f"{casebook} does not hold what take {take} was made of", "murvel takes lists them.")
        text = {TakePart.TREE: content.tree, TakePart.SOURCE: content.source, TakePart.CAPTURE: content.capture}[part]
        if not text:
            raise CasebookError(f"Take {take} was not opened in a browser", "--part tree prints its tree.")
        sys.stdout.write(text)
