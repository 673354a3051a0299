"""Commands that judge pages: lists, checks.

What only one command needs is imported inside it: reading a page should not wait for a database to load.
"""

from __future__ import annotations

import sys
from pathlib import Path

import click

from murvel.checks.engine.failing import FailOn
from murvel.checks.tables.criteria import Level
from murvel.cli.app import PAGE_HELP, Form, app, force_flag, form_option, output_option, page_argument, widths_option
from murvel.cli.opening import Asked, opens_pages
from murvel.cli.output import Exit, print_error, print_json, print_lines, write_out
from murvel.cli.parameters import argument, flag, option
from murvel.drills.found import Kind
from murvel.loading.errors import PageError
from murvel.report.formats import LeadFormat, format_of
from murvel.survey.choice import Choice, Which
from murvel.survey.entry import OPEN, Entry, EntryKey, Judgement, Slice
from murvel.text import visible

_pages_argument = argument("pages", "PAGE...", f"{PAGE_HELP} Folders of pages are walked.", is_many=True)
_lead_format_option = option(
    "--format",
    "form",
    about="Print text, JSON, SARIF 2.1.0, JUnit XML or CSV. By default the ending of FILE says it.",
    kind=LeadFormat,
)


@app.command("survey")
@page_argument
@argument("list_", "LIST", "Show one list, as links. Without it, count all lists.", Slice, is_optional=True)
@option(
    "--which",
    "which",
    about="Show only some entries, by what was noticed or said of them.",
    kind=Which,
    default=Which.ALL,
)
@option("--with", "words", about="Show only entries with these words.", metavar="WORDS", default="")
@flag("--hidden", "hidden", about="Show what is hidden from listeners, and judge what is hidden now.")
@option("--casebook", "casebook", about="Take verdicts and notes from a casebook.", kind=Path, metavar="FILE")
@form_option
@opens_pages
def survey(
    page: str,
    list_: Slice | None,
    which: Which,
    words: str,
    hidden: bool,
    casebook: Path | None,
    form: Form,
    *,
    asked: Asked,
) -> None:
    """Survey a page: headings, links, fields and other lists."""
    from murvel.casebook.store import Casebook
    from murvel.report.survey_lines import slice_lines, survey_lines
    from murvel.survey.eyes import EYES
    from murvel.survey.survey import survey_of
    from murvel.survey.verdicts import placed
    from murvel.work.sessions import opened_session

    with opened_session(page, asked.setup(), asked.voice()) as session:
        if session.stage is not None and (list_ is None or list_ in EYES):
            session.stage.look()
        found = survey_of(session, asked.catalogue(), with_hidden=hidden)
    asked.tell(found.page.document.problems)
    said: dict[EntryKey, Judgement] = {}
    if casebook is not None:
        document = found.page.document
        with Casebook(casebook, read_only=True) as book:
            for kept in book.pages():
                if (kept.address, kept.width) == (document.address, document.width):
                    said = placed(book.judgements(kept), found)

    def judged(entry: Entry) -> Judgement:
        return said.get(entry.key, OPEN)

    choice = Choice(which, words, hidden)
    if form is Form.JSON:
        from murvel.report.data.pages import survey_data

        print_json(survey_data(found, [list_] if list_ is not None else list(Slice), choice, judged))
        return
    slices = [list_] if list_ is not None else list(Slice) if choice != Choice() else []
    print_lines(line for each in slices for line in slice_lines(found, each, choice, judged))
    if not slices:
        print_lines(survey_lines(found, judged))


@app.command("check")
@_pages_argument
@_lead_format_option
@output_option
@force_flag
@option("--only", "only", about="Run only a check or topic (repeatable).", metavar="CHECK", is_many=True)
@option("--skip", "skip", about="Skip a check or topic (repeatable).", metavar="CHECK", is_many=True)
@option("--level", "level", about="Run only checks up to a level of WCAG.", kind=Level)
@flag("--hidden", "hidden", about="Judge closed menus, dialogs and panels, too, as they are when shown.")
@flag("--summary", "summary", about="Print a table of topics, and each fault once with how often it stands.")
@option("--fail-on", "fail_on", about="Choose which leads make the exit status 1 (default: fails).", kind=FailOn)
@option(
    "--config",
    "config",
    about="Read FILE instead of the nearest murvel.toml or pyproject.toml.",
    kind=Path,
    metavar="FILE",
)
@option("--baseline", "baseline", about="Leave out the leads that FILE records.", kind=Path, metavar="FILE")
@option(
    "--write-baseline",
    "write_known",
    about="Record the current leads in FILE and exit with 0; with --baseline, only those that it has.",
    kind=Path,
    metavar="FILE",
)
@flag("--strict-baseline", "strict_known", about="Fail where leads of the baseline do not occur any more.")
@widths_option
@opens_pages
def check(
    pages: tuple[str, ...],
    form: LeadFormat | None,
    output: Path | None,
    force: bool,
    only: tuple[str, ...],
    skip: tuple[str, ...],
    level: Level | None,
    hidden: bool,
    summary: bool,
    fail_on: FailOn | None,
    config: Path | None,
    baseline: Path | None,
    write_known: Path | None,
    strict_known: bool,
    widths: tuple[int, ...],
    *,
    asked: Asked,
) -> None:
    """Check pages. Exit status 1: something fails."""
    from murvel.checks.engine.baseline import Baseline, read_baseline, write_baseline
    from murvel.checks.engine.config import Config
    from murvel.cli.checking import Job, check_pages, gone_lines, is_failure, unjudged_lines
    from murvel.cli.pages import at_widths, pages_in
    from murvel.cli.progress import progress
    from murvel.files.outputs import must_be_replaceable
    from murvel.report.errors import ReportError
    from murvel.report.leads import render_leads

    wanted_form = format_of(LeadFormat, form, output)
    settings, catalogue = asked.settings or Config(), asked.catalogue()
    checks = catalogue.chosen(only or settings.only, skip or settings.skip, level or settings.level)
    known_file = baseline or settings.baseline
    known = read_baseline(known_file) if known_file is not None else Baseline()
    wanted = widths or [settings.width]
    named = list(at_widths(pages_in(pages), wanted))
    if not named:
        raise PageError("There is no page among what was named", "give pages, or folders that hold some.")
    with progress("checking") as tell:
        job = Job(tuple(each.id for each in checks), settings.checks, asked.setup(wanted[0]), hidden, asked.voice())
        done = check_pages(named, job, tell)
    results = [result for result in done.results if result is not None]
    for result in results:
        if write_known is None:
            known.leave_out_known(result)
        elif known_file is not None:
            known.keep_known(result)
        if result.failure is not None:
            print_error(result.failure)
        asked.tell(result.problems, visible(result.name) if len(named) > 1 else "")
    if write_known is not None:
        must_be_replaceable(write_known, ReportError, force=force)
        write_baseline(write_known, results)
    else:
        text = render_leads(results, wanted_form, catalogue, only_summary=summary)
        write_out(text, output, "report", ReportError, force=force)
    in_browser = asked.setup().browser is not None
    gone = known.gone({each.id for each in checks if in_browser or not each.needs_browser})
    for line in (*gone_lines(gone), *unjudged_lines(checks, results, in_browser=in_browser)):
        print_error(line)
    if done.is_stopped:
        print_error(f"stopped; {len(results)} of {len(named)} pages were checked.")
        raise click.exceptions.Exit(Exit.STOPPED)
    if any(result.is_incomplete for result in results) or (asked.strict and asked.incomplete):
        raise click.exceptions.Exit(Exit.ERROR)
    if write_known is None and ((strict_known and gone) or is_failure(results, fail_on or settings.fail_on)):
        raise click.exceptions.Exit(Exit.FAILS)


@app.command("drill")
@_pages_argument
@option(
    "--only",
    "only",
    about="Drill only widgets of a kind, as menu (repeatable).",
    kind=Kind,
    metavar="KIND",
    is_many=True,
)
@flag("--walk", "walk", about="Print each key, with what was heard.")
@_lead_format_option
@output_option
@force_flag
@option(
    "--fail-on", "fail_on", about="Choose which findings make the exit status 1.", kind=FailOn, default=FailOn.FAILS
)
@opens_pages
def drill(
    pages: tuple[str, ...],
    only: tuple[Kind, ...],
    walk: bool,
    form: LeadFormat | None,
    output: Path | None,
    force: bool,
    fail_on: FailOn,
    *,
    asked: Asked,
) -> None:
    """Work widgets by keyboard as a tester does. Exit status 1: something fails; 3: no widget was drilled."""
    from murvel.cli.checking import is_failure
    from murvel.cli.drilling import drilled_page, summary_lines, walk_lines_of
    from murvel.cli.pages import pages_in
    from murvel.cli.progress import progress
    from murvel.drills.faults import drill_catalogue
    from murvel.report.errors import ReportError
    from murvel.report.leads import render_leads

    wanted_form = format_of(LeadFormat, form, output)
    named = list(pages_in(pages))
    if not named:
        raise PageError("There is no page among what was named", "give pages, or folders that hold some.")
    done = []
    with progress("drilling") as tell:
        for number, page in enumerate(named):
            tell(number, len(named))
            done.append(drilled_page(page, asked.setup(), only or [], asked.voice()))
    results = [each.result for each in done]
    for result in results:
        if result.failure is not None:
            print_error(result.failure)
        asked.tell(result.problems, visible(result.name) if len(named) > 1 else "")
    if walk:
        print_lines(line for each in done for one in each.drilled for line in walk_lines_of(one))
    else:
        write_out(render_leads(results, wanted_form, drill_catalogue()), output, "report", ReportError, force=force)
    for line in summary_lines(done):
        print_error(line)
    if any(result.failure is not None for result in results):
        raise click.exceptions.Exit(Exit.ERROR)
    if is_failure(results, fail_on):
        raise click.exceptions.Exit(Exit.FAILS)
    if all(one.not_reached for each in done for one in each.drilled):
        raise click.exceptions.Exit(Exit.NOTHING_FOUND)


@app.command("checks")
@argument("name", "CHECK", "Show one check, or those of a topic.", is_optional=True)
@form_option
@flag("--markdown", "markdown", about="Print all of them as a Markdown document.")
def checks(name: str | None, form: Form, markdown: bool) -> None:
    """List the checks, or show one."""
    from murvel.checks.engine.catalogue import built_in
    from murvel.cli.configured import catalogue_of, settings_of
    from murvel.report.check_list import check_lines, checks_markdown, one_check_lines
    from murvel.report.data.pages import checks_data

    if markdown:
        sys.stdout.write(checks_markdown(built_in()))
        return
    catalogue = catalogue_of(settings_of())
    if form is Form.JSON:
        print_json(checks_data(catalogue, catalogue.chosen([name] if name is not None else [])))
    elif name is not None:
        for number, each in enumerate(catalogue.chosen([name])):
            if number:
                print_lines([""])
            print_lines(one_check_lines(each))
    else:
        print_lines(check_lines(catalogue))
