"""The commands of `murvel`.

What only one command needs is imported inside it: reading a page should not wait for a database to load.
"""

from __future__ import annotations

import os
import sys
from datetime import date
from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer
from typer.exceptions import TyperException

from murvel.casebook.errors import CasebookError
from murvel.checks.config import FailOn
from murvel.checks.errors import CheckError
from murvel.cli.explaining import explanation_lines
from murvel.cli.output import Exit, prepare_streams, print_error, print_lines, reader_went_away
from murvel.page.errors import PageError
from murvel.page.open import DEFAULT_WIDTH, open_document
from murvel.page.select import select
from murvel.page.sources import STANDARD_INPUT
from murvel.page.text import visible
from murvel.reader.errors import ReaderError
from murvel.reader.lists import LISTS, entries
from murvel.reader.session import ReadingSession
from murvel.reader.timing import clock
from murvel.reader.voice import Voice
from murvel.report.charts import CHARTS
from murvel.report.errors import ReportError
from murvel.report.formats import Format, LeadFormat
from murvel.stage.errors import StageError
from murvel.tree.build import build_tree
from murvel.tree.explain import explain
from murvel.tree.open import open_tree
from murvel.tree.write import to_json, to_text

app = typer.Typer(
    name="murvel",
    help="Hear a page as a screen reader would announce it, document what is wrong, and report it.",
    add_completion=False,
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
)

_PAGE_HELP = "A file, a folder with an index.html, - for standard input, or an http(s) address; also a tree as JSON."

PageArgument = Annotated[str, typer.Argument(metavar="PAGE", help=_PAGE_HELP)]
WidthOption = Annotated[
    int,
    typer.Option("--width", min=200, max=10000, help="The viewport's width in CSS pixels, for media queries."),
]

VoiceOption = Annotated[
    str | None, typer.Option("--voice", metavar="NAME", help="The voice to read in, by name, or a file of your own.")
]

List = StrEnum("List", {name: name for name in LISTS})  # type: ignore[misc]
ChartKind = StrEnum("ChartKind", {name: name for name in CHARTS})  # type: ignore[misc]
_CHARTS_HELP = "; ".join(f"{name}: {chart.about}" for name, chart in CHARTS.items())


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
    POCKET = "pocket"


class Level(StrEnum):
    """The levels of WCAG."""

    A = "A"
    AA = "AA"
    AAA = "AAA"


class TreeFormat(StrEnum):
    """The forms a tree is printed in."""

    JSON = "json"
    TEXT = "text"


@app.command("open")
def open_page(
    page: Annotated[str, typer.Argument(metavar="PAGE", help=f"{_PAGE_HELP} Or a casebook: its last page.")],
    casebook: Annotated[
        Path | None,
        typer.Option("--casebook", metavar="FILE", help="The casebook to document in; made if it is not there."),
    ] = None,
    width: WidthOption = DEFAULT_WIDTH,
) -> None:
    """Open a page in the full-screen application."""
    from murvel.casebook.store import SUFFIX, is_casebook
    from murvel.casebook.work import last_page

    path = Path(page)
    if casebook is None and is_casebook(path):
        casebook = path
        last = last_page(path)
        page, width = last.address, last.width
    _run_application(page, casebook or _data_folder() / f"casebook{SUFFIX}", width)


@app.command("demo")
def demo(
    page: Annotated[
        DemoPage, typer.Argument(metavar="PAGE", help=f"{', '.join(DemoPage)}; pocket is a screen of an app.")
    ] = DemoPage.WELCOME,
    repaired: Annotated[bool, typer.Option("--repaired", help="The page as repaired, not as found.")] = False,
) -> None:
    """Open the demo, Fernhollow Allotments; without a terminal, show the same as plain text."""
    from murvel.demo import site
    from murvel.demo.tour import tour

    if not _has_terminal():
        print_lines(tour(date.today()))
        return
    folder = _data_folder() / "demo"
    site.install(folder)
    _run_application(
        str(site.page_path(folder, page.value, repaired=repaired)), site.casebook_path(folder), DEFAULT_WIDTH
    )


@app.command("read")
def read(
    page: PageArgument,
    list_: Annotated[
        List | None,
        typer.Option("--list", metavar="KIND", help=f"Print one list instead: {', '.join(LISTS)}."),
    ] = None,
    voice: VoiceOption = None,
    width: WidthOption = DEFAULT_WIDTH,
) -> None:
    """Print what is heard, line by line, each with its time; or one list of the page."""
    session = ReadingSession(open_tree(page, width), _voice(voice) if voice is not None else None)
    if list_ is None:
        print_lines([session.arrive().text])
        spoken = session.spoken
        found = print_lines(
            f"{clock(start):>6}  {utterance.text}"
            for start, utterance in zip(spoken.starts, spoken.utterances, strict=True)
        )
    else:
        found = print_lines(_list_lines(session, list_.value))
    if not found:
        raise typer.Exit(Exit.NOTHING_FOUND)


@app.command("listen")
def listen(
    page: PageArgument,
    casebook: Annotated[
        Path | None,
        typer.Option("--casebook", metavar="FILE", help="The casebook to document in; made if it is not there."),
    ] = None,
    voice: VoiceOption = None,
    width: WidthOption = DEFAULT_WIDTH,
) -> None:
    """Read and work a page line by line: one command a line, one utterance a line; `help` lists the commands."""
    from murvel.casebook.store import SUFFIX
    from murvel.casebook.work import open_work
    from murvel.cli.listening import Listening

    work = open_work(page, casebook or _data_folder() / f"casebook{SUFFIX}", width)
    with work.casebook:
        if voice is not None:
            work.session.change_voice(_voice(voice))
        if page == STANDARD_INPUT:
            _take_keys_from_terminal()
        listening = Listening(work, _voice_folder(), sys.stdin.isatty())
        print_lines(listening.arrive())
        for line in listening.lines():
            if not print_lines(listening.answer(line)) and listening.is_over:
                break
        work.leave()


@app.command("chart")
def chart(
    kind: Annotated[ChartKind, typer.Argument(metavar="KIND", help=f"{_CHARTS_HELP}.")],
    page: PageArgument,
    output: Annotated[
        Path | None,
        typer.Option("-o", "--output", metavar="FILE", help="An .svg or .pdf file; else the chart is printed as text."),
    ] = None,
    moves: Annotated[
        list[str] | None,
        typer.Option("--do", metavar="MOVE", help="A move to make first, as in murvel listen; may be given again."),
    ] = None,
    voice: VoiceOption = None,
    width: WidthOption = DEFAULT_WIDTH,
) -> None:
    """Chart a page: as text, or drawn as SVG or PDF."""
    session = _worked_session(page, width, voice, moves or [])
    shown = CHARTS[kind.value]
    if output is None:
        print_lines(shown.lines(session))
        return
    from murvel.report.drawing import draw

    draw(shown.drawing(session), output)


def _worked_session(page: str, width: int, voice: str | None, moves: list[str]) -> ReadingSession:
    """Open a page, arrive on it and make moves, each heard out before the next."""
    from murvel.reader import acting
    from murvel.reader.commands import command
    from murvel.reader.open import open_session

    session = open_session(page, width)
    if voice is not None:
        session.change_voice(_voice(voice))
    session.arrive()
    acting.load(session)
    for words in moves:
        command(session, words)
        acting.hear_out(session)
    return session


@app.command("voices")
def voices(
    name: Annotated[str | None, typer.Argument(metavar="NAME-OR-FILE", help="Show one voice, or check a file.")] = None,
) -> None:
    """List the voices, show one, or check the file of one."""
    from murvel.cli.voice_lines import voice_lines
    from murvel.reader.voice_files import all_voices

    if name is not None:
        print_lines(voice_lines(_voice(name)))
        return
    known, problems = all_voices(_voice_folder())
    print_lines(f"{visible(each.name):<16}{visible(each.about)}" for each in known)
    print_lines([f"Your own voices are files in {_voice_folder()}, one each."])
    for problem in problems:
        print_error(problem)


def _voice(name: str) -> Voice:
    from murvel.reader.voice_files import voice_named

    return voice_named(name, _voice_folder())


def _list_lines(session: ReadingSession, name: str) -> list[str]:
    lines = []
    for entry in entries(session, name):
        time = "" if entry.time is None else clock(entry.time)
        position = "" if entry.position is None else f"  [line {entry.position.line}, column {entry.position.column}]"
        lines.append(f"{time:>6}  {entry.utterance.text}{position}")
    return lines


@app.command("tree")
def tree(
    pages: Annotated[list[str], typer.Argument(metavar="PAGE...", help=f"{_PAGE_HELP} With -o also folders of pages.")],
    form: Annotated[TreeFormat, typer.Option("--format", help="json: the tree JSON; text: indented lines.")] = (
        TreeFormat.TEXT
    ),
    output: Annotated[
        Path | None,
        typer.Option("-o", "--output", metavar="DIR", help="Write the JSON trees of many pages there, as they lie."),
    ] = None,
    width: WidthOption = DEFAULT_WIDTH,
) -> None:
    """Print the accessibility tree of a page, or write those of many."""
    if output is not None:
        from murvel.cli.many import write_trees

        if not write_trees(pages, output, width, print_error):
            raise typer.Exit(Exit.ERROR)
        return
    if len(pages) > 1:
        raise PageError("Several pages are written, not printed; name a folder for their trees with -o.")
    built = open_tree(pages[0], width)
    if form is TreeFormat.TEXT:
        print_lines(to_text(built))
    else:
        for piece in to_json(built):
            sys.stdout.write(piece)


@app.command("explain")
def explain_element(
    page: PageArgument,
    where: Annotated[str, typer.Argument(metavar="XPATH-OR-CSS", help="An absolute XPath, or a CSS selector.")],
    width: WidthOption = DEFAULT_WIDTH,
) -> None:
    """Explain elements: role and rule, every source of the name, what hides them, where they stand in the source."""
    document = open_document(page, width)
    elements = select(document, where)
    tree = build_tree(document)
    for number, element in enumerate(elements):
        if number:
            print_lines([""])
        print_lines(explanation_lines(tree, explain(tree, element)))


@app.command("check")
def check(
    pages: Annotated[list[str], typer.Argument(metavar="PAGE...", help=f"{_PAGE_HELP} Also folders of pages.")],
    form: Annotated[LeadFormat, typer.Option("--format", help="The form of the leads.")] = LeadFormat.TEXT,
    output: Annotated[
        Path | None, typer.Option("-o", "--output", metavar="FILE", help="Where to write them; else they are printed.")
    ] = None,
    only: Annotated[
        list[str] | None, typer.Option("--only", metavar="CHECK", help="A check or topic to run; may be given again.")
    ] = None,
    skip: Annotated[
        list[str] | None, typer.Option("--skip", metavar="CHECK", help="A check or topic to leave out; again as well.")
    ] = None,
    level: Annotated[Level | None, typer.Option("--level", help="The highest level of WCAG that counts.")] = None,
    fail_on: Annotated[
        FailOn | None, typer.Option("--fail-on", help="Which leads make the exit status 1; fails by default.")
    ] = None,
    config: Annotated[
        Path | None,
        typer.Option(
            "--config", metavar="FILE", help="A murvel.toml or pyproject.toml; else the nearest one is taken."
        ),
    ] = None,
    baseline: Annotated[
        Path | None, typer.Option("--baseline", metavar="FILE", help="Known leads, of which nothing is said.")
    ] = None,
    write_known: Annotated[
        Path | None,
        typer.Option("--write-baseline", metavar="FILE", help="Write the leads as known ones, and succeed."),
    ] = None,
    width: Annotated[
        int | None, typer.Option("--width", min=200, max=10000, help="The viewport's width in CSS pixels.")
    ] = None,
) -> None:
    """Check pages: what is wrong, what is heard, how to repair it. Exit status 1: leads; 2: a page was not checked."""
    from murvel.checks.baseline import Baseline, read_baseline, write_baseline
    from murvel.checks.catalogue import chosen
    from murvel.checks.config import Config, find_config, read_config
    from murvel.cli.checking import Progress, check_pages, is_failure
    from murvel.cli.pages import pages_in
    from murvel.report.leads import render_leads
    from murvel.report.write import write

    settings = (read_config(config) or Config()) if config is not None else find_config(Path.cwd())
    checks = chosen(only or settings.only, skip or settings.skip, level.value if level else settings.level)
    known_file = baseline or settings.baseline
    known = read_baseline(known_file) if known_file is not None and write_known is None else Baseline()
    named = [page for _, page in pages_in(pages)]
    if not named:
        raise PageError("There is no page among what was named; give pages, or folders that hold some.")
    with Progress() as progress:
        results = check_pages(named, [each.id for each in checks], width or settings.width, progress.tell)
    for result in results:
        known.leave_out_known(result)
        if result.problem is not None:
            print_error(result.problem)
    if write_known is not None:
        write_baseline(write_known, results)
    elif output is not None:
        write(render_leads(results, form), output)
    else:
        sys.stdout.write(render_leads(results, form))
    if any(result.problem is not None for result in results):
        raise typer.Exit(Exit.ERROR)
    if write_known is None and is_failure(results, fail_on or settings.fail_on):
        raise typer.Exit(Exit.FOUND)


@app.command("checks")
def checks(
    name: Annotated[str | None, typer.Argument(metavar="CHECK", help="Show all there is to know of one.")] = None,
    markdown: Annotated[bool, typer.Option("--markdown", help="All of them as a document.")] = False,
) -> None:
    """List the checks, or show one."""
    from murvel.checks.catalogue import chosen
    from murvel.report.check_list import check_lines, checks_markdown, one_check_lines

    if name is not None:
        for number, each in enumerate(chosen([name])):
            if number:
                print_lines([""])
            print_lines(one_check_lines(each))
    elif markdown:
        sys.stdout.write(checks_markdown())
    else:
        print_lines(check_lines())


@app.command("report")
def report(
    casebook: Annotated[Path, typer.Argument(metavar="CASEBOOK", help="The casebook to report on.")],
    to: Annotated[Format, typer.Option("--to", help="The report's form.")] = Format.HTML,
    output: Annotated[
        Path | None,
        typer.Option("-o", "--output", metavar="FILE", help="Where to write it; else it is printed."),
    ] = None,
) -> None:
    """Report the documented defects, for those who repair them."""
    from murvel.casebook.store import Casebook
    from murvel.report.write import render, write

    with Casebook(casebook, read_only=True) as book:
        text = render(book, to, date.today())
    if output is None:
        sys.stdout.write(text)
    else:
        write(text, output)


def _data_folder() -> Path:
    from platformdirs import user_data_path

    return user_data_path("murvel", appauthor=False)


def _voice_folder() -> Path:
    from platformdirs import user_config_path

    return user_config_path("murvel", appauthor=False) / "voices"


def _has_terminal() -> bool:
    return sys.stdin.isatty() and sys.stdout.isatty()


def _run_application(address: str, casebook: Path, width: int) -> None:
    from murvel.casebook.work import open_work
    from murvel.tui.app import MurvelApp

    if not sys.stdout.isatty() or not (sys.stdin.isatty() or address == STANDARD_INPUT):
        raise PageError("There is no terminal to open the application in; use murvel read PAGE for plain lines.")
    work = open_work(address, casebook, width)
    if address == STANDARD_INPUT:
        _take_keys_from_terminal()
    with work.casebook:
        MurvelApp(work, _voice_folder()).run()


def _take_keys_from_terminal() -> None:
    """Standard input was the page; the keys come from the terminal itself."""
    try:
        os.dup2(os.open("/dev/tty", os.O_RDONLY), sys.stdin.fileno())
    except OSError as error:
        raise PageError("There is no terminal to take keys from; save the page to a file and open that.") from error


def run(arguments: list[str] | None = None) -> None:
    """Run a command and end the process with its exit status."""
    prepare_streams()
    status: int = Exit.DONE
    try:
        arguments = (sys.argv[1:] if arguments is None else arguments) or ["--help"]
        status = app(args=arguments, prog_name="murvel", standalone_mode=False) or Exit.DONE
        sys.stdout.flush()
    except TyperException as error:
        print_error(error.format_message().replace("Value error, ", ""))
        status = Exit.ERROR
    except (PageError, CasebookError, CheckError, ReaderError, ReportError, StageError) as error:
        print_error(str(error))
        status = Exit.ERROR
    except BrokenPipeError:
        reader_went_away()
    except OSError as error:
        print_error(f"{error.strerror or error}; the command could not finish.")
        status = Exit.ERROR
    except (typer.Abort, KeyboardInterrupt):
        print_error("stopped.")
        status = Exit.ERROR
    sys.exit(status)
