"""Commands about walks: make them again, write what is heard into them."""

from __future__ import annotations

from pathlib import Path

import click

from murvel.cli.app import app, force_flag, output_option, voice_folder
from murvel.cli.opening import Asked, opens_pages
from murvel.cli.output import Exit, write_out
from murvel.cli.parameters import argument, flag, option
from murvel.report.formats import WalkFormat, format_of


@app.command("walk")
@argument("files", "FILE...", "Walks. Of folders, all files that end in .walk.yaml are taken.", Path, is_many=True)
@option("--page", "page", about="Walk on this page in place of the one in the file.", metavar="PAGE", default="")
@option(
    "--format",
    "form",
    about="Print text, JSON or JUnit XML. By default the ending of FILE says it.",
    kind=WalkFormat,
)
@flag("--update", "update", about="Write what is heard now into the files, and print the difference.")
@output_option
@force_flag
@opens_pages
def walk(
    files: tuple[Path, ...],
    page: str,
    form: WalkFormat | None,
    update: bool,
    output: Path | None,
    force: bool,
    *,
    asked: Asked,
) -> None:
    """Make walks again. Exit status 1: something is not as expected."""
    from murvel.cli.pool import work_on
    from murvel.cli.progress import progress
    from murvel.cli.walking import WalkJob, died, made, walk_files
    from murvel.report.errors import ReportError
    from murvel.report.walks import render_walks
    from murvel.walks.errors import WalkError

    wanted_form = format_of(WalkFormat, form, output)
    own = asked.settings.checks if asked.settings is not None else ()
    given = (asked.setup(), page, voice_folder(), update, own, asked.voice())
    jobs = [WalkJob(path, *given) for path in walk_files(files)]
    if not jobs:
        raise WalkError("There is no walk among what was named", "walks end in .walk.yaml.")
    with progress("walking") as tell:
        done = work_on(jobs, made, died, tell, lambda job: 1)
    results = [each for each in done.results if each is not None]
    write_out(render_walks(results, wanted_form), output, "report", ReportError, force=force)
    if done.is_stopped:
        raise KeyboardInterrupt
    if any(result.failure is not None for result in results):
        raise click.exceptions.Exit(Exit.ERROR)
    if not all(result.is_met for result in results):
        raise click.exceptions.Exit(Exit.FAILS)
