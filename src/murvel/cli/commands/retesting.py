"""The command that re-tests what a casebook documents."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from murvel.cli.app import ForceOption, OutputOption, app
from murvel.cli.opening import Asked, opens_pages
from murvel.cli.output import Exit, print_error, write_out
from murvel.report.formats import RetestFormat


@app.command("retest")
@opens_pages
def retest(
    casebook: Annotated[Path, typer.Argument(metavar="CASEBOOK", help="The casebook; takes are kept in it.")],
    pages: Annotated[
        list[str] | None,
        typer.Argument(metavar="PAGE...", help="Only these pages of it, by their addresses or the ends of them."),
    ] = None,
    old: Annotated[
        str, typer.Option("--from", metavar="OLD", help="With --to: pages whose addresses begin with OLD have moved.")
    ] = "",
    new: Annotated[
        str, typer.Option("--to", metavar="NEW", help="Their addresses begin with NEW now, as on another server.")
    ] = "",
    confirm: Annotated[
        bool,
        typer.Option("--confirm", help="Accept what is sure, so that the statuses of these defects change."),
    ] = False,
    form: Annotated[RetestFormat, typer.Option("--format", help="Print text or JSON.")] = RetestFormat.TEXT,
    output: OutputOption = None,
    force: ForceOption = False,
    *,
    asked: Asked,
) -> None:
    """Take pages anew, and say which defects are repaired. Exit status 1: not all are."""
    from murvel.casebook.store import Casebook
    from murvel.cli.configured import catalogue_here
    from murvel.cli.progress import Progress
    from murvel.cli.retesting import chosen, moved
    from murvel.report.errors import ReportError
    from murvel.report.retest import render_retest
    from murvel.retest.answer import Proposal
    from murvel.work.retesting import accept, retest_page, settle

    where = moved(old, new)
    catalogue = catalogue_here()
    results = []
    with Casebook(casebook) as book:
        wanted = chosen(book, pages or [])
        with Progress("re-testing") as progress:
            for done, page in enumerate(wanted):
                progress.tell(done, len(wanted))
                results.append(retest_page(book, page, where(page.address), asked.setup(page.width), catalogue))
        settle(results)
        write_out(render_retest(results, form), output, "report", ReportError, force=force)
        if confirm:
            changed = accept(book, [each for page in results for each in page.answers if each.is_sure], "re-tested")
            words = ", ".join(f"defect {each.defect.id} is {each.next_status}" for each in changed)
            print_error(words or "no status has changed")
    if any(page.failure is not None for page in results):
        raise typer.Exit(Exit.ERROR)
    if any(each.proposal is not Proposal.CONFIRMED or each.elsewhere for page in results for each in page.answers):
        raise typer.Exit(Exit.FAILS)
