"""The command that re-tests what a casebook documents."""

from __future__ import annotations

from pathlib import Path

import click

from murvel.cli.app import app, force_flag, output_option
from murvel.cli.opening import Asked, opens_pages
from murvel.cli.output import Exit, print_error, write_out
from murvel.cli.parameters import argument, flag, option
from murvel.report.formats import RetestFormat, format_of


@app.command("retest")
@argument("casebook", "CASEBOOK", "The casebook; takes are kept in it.", Path)
@argument(
    "pages",
    "PAGE...",
    "Only these pages of it, by their addresses or the ends of them.",
    is_optional=True,
    is_many=True,
)
@option("--from", "old", about="With --to: pages whose addresses begin with OLD have moved.", metavar="OLD", default="")
@option("--to", "new", about="Their addresses begin with NEW now, as on another server.", metavar="NEW", default="")
@flag("--confirm", "confirm", about="Accept what is sure, so that the statuses of these defects change.")
@option("--format", "form", about="Print text or JSON. By default the ending of FILE says it.", kind=RetestFormat)
@output_option
@force_flag
@opens_pages
def retest(
    casebook: Path,
    pages: tuple[str, ...],
    old: str,
    new: str,
    confirm: bool,
    form: RetestFormat | None,
    output: Path | None,
    force: bool,
    *,
    asked: Asked,
) -> None:
    """Take pages anew, and say which defects are repaired. Exit status 1: not all are."""
    from murvel.casebook.store import Casebook
    from murvel.cli.progress import progress
    from murvel.cli.retest_pages import chosen, moved
    from murvel.report.errors import ReportError
    from murvel.report.retest import render_retest
    from murvel.retest.answer import Proposal
    from murvel.work.retest_casebook import accept, retest_page, settle

    wanted_form = format_of(RetestFormat, form, output)
    where = moved(old, new)
    catalogue = asked.catalogue()
    results = []
    with Casebook(casebook) as book:
        wanted = chosen(book, pages or [])
        with progress("re-testing") as tell:
            for done, page in enumerate(wanted):
                tell(done, len(wanted))
                results.append(retest_page(book, page, where(page.address), catalogue, asked.setup(page.width)))
        settle(results)
        write_out(render_retest(results, wanted_form), output, "report", ReportError, force=force)
        if confirm:
            changed = accept(book, [each for page in results for each in page.answers if each.is_sure], "re-tested")
            words = ", ".join(f"defect {each.defect.id} is {each.next_status}" for each in changed)
            print_error(words or "no status has changed")
    if any(page.failure is not None for page in results):
        raise click.exceptions.Exit(Exit.ERROR)
    if any(each.proposal is not Proposal.CONFIRMED or each.elsewhere for page in results for each in page.answers):
        raise click.exceptions.Exit(Exit.FAILS)
