"""Commands that read a page out: as it is heard, as a tree, as a chart.

What only one command needs is imported inside it: reading a page should not wait for a database to load.
"""

from __future__ import annotations

import sys
from collections.abc import Sequence
from dataclasses import replace
from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING

import click

from murvel.cli.app import (
    PAGE_HELP,
    Form,
    app,
    force_flag,
    form_option,
    page_argument,
    voice_folder,
    voice_of,
    voice_option,
    widths_option,
)
from murvel.cli.opening import Asked, opens_pages
from murvel.cli.output import Exit, print_error, print_json, print_lines
from murvel.cli.parameters import argument, flag, option
from murvel.loading.errors import PageError
from murvel.loading.setup import BrowserSetup
from murvel.reader.readout.kinds import LISTS
from murvel.report.formats import ChartKind
from murvel.text import visible

if TYPE_CHECKING:
    from murvel.reader.session import ReadingSession
    from murvel.tree.model import Tree

List = StrEnum("List", {name: name for name in LISTS})  # type: ignore[misc]
_CHARTS_HELP = " ".join(f"{kind}: {kind.about}." for kind in ChartKind)


@app.command("read")
@page_argument
@option("--list", "list_", about="Print one list of the page instead, as headings or links.", kind=List, metavar="KIND")
@form_option
@voice_option
@opens_pages
def read(page: str, list_: List | None, form: Form, voice: str | None, *, asked: Asked) -> None:
    """Print what is heard, line by line."""
    from murvel.browser.open_in_browser import opened_tree
    from murvel.reader.session import ReadingSession

    with opened_tree(page, asked.setup()) as built:
        found = _read_out(ReadingSession(built, asked.voice(voice)), list_, form, asked)
    if not found:
        raise click.exceptions.Exit(Exit.NOTHING_FOUND)


def _read_out(session: ReadingSession, list_: List | None, form: Form, asked: Asked) -> int:
    """Print a page, or one list of it; return how many entries there were."""
    asked.tell(session.tree.document.problems)
    if form is Form.JSON:
        from murvel.report.data.pages import list_data, reading_data

        data = reading_data(session) if list_ is None else list_data(session, list_.value)
        print_json(data)
        return len(data["items" if list_ is None else "entries"])
    if list_ is None:
        print_lines([session.arrive().text])
        return print_lines(session.spoken.lines())
    return print_lines(_list_lines(session, list_.value))


@app.command("chart")
@argument("kind", "KIND", _CHARTS_HELP, ChartKind)
@page_argument
@option("-o", "--output", "output", about="Draw the chart into an .svg or .pdf file.", kind=Path, metavar="FILE")
@force_flag
@option("--do", "moves", about="Make a move first, as in murvel listen (repeatable).", metavar="MOVE", is_many=True)
@form_option
@voice_option
@opens_pages
def chart(
    kind: ChartKind,
    page: str,
    output: Path | None,
    force: bool,
    moves: tuple[str, ...],
    form: Form,
    voice: str | None,
    *,
    asked: Asked,
) -> None:
    """Chart a page as text, JSON, SVG or PDF."""
    from murvel.report.charts import CHARTS, Subject
    from murvel.work.sessions import opened_session

    with opened_session(page, asked.setup(), asked.voice(voice)) as session:
        _work(session, moves or [])
        asked.tell(session.tree.document.problems)
        shown, subject = CHARTS[kind], Subject(session, asked.catalogue())
        if output is not None and str(output) != "-":
            from murvel.report.drawing import draw

            draw(shown.drawing(subject), output, force=force)
        elif form is Form.JSON:
            print_json(shown.data(subject))
        else:
            print_lines(shown.lines(subject))


def _work(session: ReadingSession, moves: Sequence[str]) -> None:
    """Arrive on a page and make moves, each heard out before the next."""
    from murvel.reader import acting
    from murvel.reader.moves.commands import command

    session.arrive()
    acting.load(session)
    for words in moves:
        command(session, words)
        acting.hear_out(session)


@app.command("voices")
@argument("name", "NAME-OR-FILE", "Show one voice, or check a file.", is_optional=True)
@form_option
def voices(name: str | None, form: Form) -> None:
    """List the voices, or show one."""
    from murvel.cli.voice_lines import voice_lines
    from murvel.reader.speech.voice_files import all_voices
    from murvel.report.data.pages import voices_data

    known, problems = ([voice_of(name)], []) if name is not None else all_voices(voice_folder())
    if form is Form.JSON:
        print_json(voices_data(known))
    elif name is not None:
        print_lines(voice_lines(known[0]))
    else:
        print_lines(f"{visible(each.name):<16}{visible(each.about)}" for each in known)
        print_lines([f"Your own voices are files in {voice_folder()}, one each."])
    for problem in problems:
        print_error(problem)


def _list_lines(session: ReadingSession, name: str) -> list[str]:
    from murvel.reader.readout.lists import entries
    from murvel.reader.speech.timing import clock

    lines = []
    for entry in entries(session, name):
        time = "" if entry.time is None else clock(entry.time)
        position = "" if entry.position is None else f"  [line {entry.position.line}, column {entry.position.column}]"
        lines.append(f"{time:>6}  {entry.utterance.text}{position}")
    return lines


@app.command("tree")
@argument("pages", "PAGE...", f"{PAGE_HELP} With -o, also folders.", is_many=True)
@form_option
@option(
    "-o",
    "--output",
    "output",
    about="Write the JSON trees to DIR, in the layout of the pages.",
    kind=Path,
    metavar="DIR",
)
@flag("--compare-browser", "compare", about="Print where Chromium's own tree differs, and nothing else.")
@force_flag
@opens_pages
def tree(pages: tuple[str, ...], form: Form, output: Path | None, compare: bool, force: bool, *, asked: Asked) -> None:
    """Print the accessibility tree of a page."""
    if output is not None:
        from murvel.cli.many import write_trees
        from murvel.cli.progress import progress

        with progress("reading") as tell:
            well = write_trees(pages, output, asked, tell, force=force)
        if not well:
            raise click.exceptions.Exit(Exit.ERROR)
        return
    if len(pages) > 1:
        raise PageError("Several pages are written, not printed", "name a folder for their trees with -o.")
    from murvel.browser.open_in_browser import opened_tree
    from murvel.tree.exchange.write import to_json, to_text

    with opened_tree(pages[0], asked.setup()) as built:
        asked.tell(built.document.problems)
        if compare:
            _print_comparison(built)
        elif form is Form.TEXT:
            print_lines(to_text(built))
        else:
            for piece in to_json(built):
                sys.stdout.write(piece)


def _print_comparison(built: Tree) -> None:
    """Print where a browser's own tree differs from ours, and how many facts were compared."""
    if built.opinion is None:
        raise PageError("Nothing is known of a browser's own tree", "add --browser, or give a capture.")
    found = built.opinion.on(built)
    for each in found.differences:
        print_lines([f"{each.xpath}", f"    Chromium says {each.words}; Murvel says {each.own_words}"])
    print_lines([f"{len(found.differences)} differences among {sum(found.compared.values())} facts."])


@app.command("capture")
@argument("pages", "PAGE...", f"{PAGE_HELP} Also folders.", is_many=True)
@option("-o", "--output", "output", about="Write the captures to DIR.", kind=Path, metavar="DIR", is_required=True)
@widths_option
@force_flag
@opens_pages
def capture(pages: tuple[str, ...], output: Path, widths: tuple[int, ...], force: bool, *, asked: Asked) -> None:
    """Keep pages as a real browser shows them, in files."""
    from murvel.cli.many import write_captures
    from murvel.cli.progress import progress

    with progress("capturing") as tell:
        in_browser = asked if asked.browser is not None else replace(asked, browser=BrowserSetup())
        wanted = widths or [asked.setup().width]
        well = write_captures(pages, wanted, output, in_browser, tell, force=force)
    if not well:
        raise click.exceptions.Exit(Exit.ERROR)


@app.command("explain")
@page_argument
@argument("where", "XPATH-OR-CSS", "An absolute XPath, or a CSS selector.")
@form_option
@opens_pages
def explain_element(page: str, where: str, form: Form, *, asked: Asked) -> None:
    """Explain role, name and exposure of elements."""
    from murvel.browser.open_in_browser import opened_tree
    from murvel.cli.explaining import explanation_lines
    from murvel.page.select import select
    from murvel.tree.names.explain import explain

    with opened_tree(page, asked.setup()) as tree:
        if not tree.has_source:
            raise PageError("A tree as JSON has no elements to explain", "give the page itself.")
        asked.tell(tree.document.problems)
        elements = select(tree.document, tree.styles, where)
        explained = [explain(tree, element) for element in elements]
        if form is Form.JSON:
            from murvel.report.data.pages import explanation_data

            print_json([explanation_data(tree, each) for each in explained])
            return
        for number, each in enumerate(explained):
            if number:
                print_lines([""])
            print_lines(explanation_lines(tree, each))
