"""Commands that look after casebooks."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from murvel.cli.app import app
from murvel.cli.output import Exit, print_lines

casebooks = typer.Typer(help="Look after casebooks.", no_args_is_help=True)
app.add_typer(casebooks, name="casebook")


_MANY = {"status": "statuses"}


@casebooks.callback()
def _casebook() -> None:
    """Look after casebooks."""


@casebooks.command("check")
def check_casebook(
    casebook: Annotated[Path, typer.Argument(metavar="CASEBOOK", help="The casebook; it is not changed.")],
) -> None:
    """Say what can be read of a casebook that may be damaged. Exit status 2: not all of it."""
    from murvel.casebook.inspection import inspect
    from murvel.page.text import counted

    found = inspect(casebook)
    kinds = ("page", "take", "defect", "verdict", "status", "attachment", "change", "content")
    print_lines(
        [f"can be read: {', '.join(counted(found.whole[one], one, _MANY.get(one, f'{one}s')) for one in kinds)}"]
    )
    print_lines(f"damaged: {words}" for words in found.damaged)
    if found.damaged:
        raise typer.Exit(Exit.ERROR)
    print_lines(["The casebook is whole."])


@casebooks.command("attachments")
def write_attachments(
    casebook: Annotated[Path, typer.Argument(metavar="CASEBOOK", help="A casebook.")],
    folder: Annotated[Path, typer.Option("--to", metavar="FOLDER", help="Where the files are written.")] = Path(),
    defect: Annotated[int | None, typer.Option("--defect", metavar="NUMBER", help="Only those of one defect.")] = None,
) -> None:
    """Write the pictures, drawings and texts attached to defects into files, and print their paths."""
    from murvel.casebook.attaching import write
    from murvel.casebook.store import Casebook

    with Casebook(casebook, read_only=True) as book:
        if not print_lines(str(path) for path in write(book.attachments(defect), folder)):
            raise typer.Exit(Exit.NOTHING_FOUND)


@casebooks.command("walks")
def write_walks(
    casebook: Annotated[Path, typer.Argument(metavar="CASEBOOK", help="A casebook.")],
    folder: Annotated[Path, typer.Option("--to", metavar="FOLDER", help="Where the files are written.")] = Path(),
    defect: Annotated[int | None, typer.Option("--defect", metavar="NUMBER", help="Only that of one defect.")] = None,
) -> None:
    """Write the acceptance steps of defects as walks, for murvel walk, and print their paths."""
    from murvel.casebook.store import Casebook
    from murvel.work.guards import write_guards

    with Casebook(casebook, read_only=True) as book:
        wanted = [each for each in book.defects() if defect is None or each.id == defect]
        pages = {page.id: page for page in book.pages()}
        if not print_lines(str(path) for path in write_guards(wanted, pages, folder)):
            raise typer.Exit(Exit.NOTHING_FOUND)


@casebooks.command("attach")
def attach_file(
    casebook: Annotated[Path, typer.Argument(metavar="CASEBOOK", help="A casebook that is not open elsewhere.")],
    defect: Annotated[int, typer.Argument(metavar="DEFECT", help="The number of a defect.")],
    file: Annotated[Path, typer.Argument(metavar="FILE", help="A PNG, JPEG, SVG or UTF-8 text of 1 MB at most.")],
    words: Annotated[str, typer.Option("--words", metavar="WORDS", help="What it shows; its name by default.")] = "",
) -> None:
    """Attach a picture, a drawing or a text to a defect, for reports."""
    from murvel.casebook.attaching import attach
    from murvel.casebook.store import Casebook

    with Casebook(casebook) as book:
        attach(book, defect, file, words)
    print_lines([f"It is attached to defect {defect}."])
