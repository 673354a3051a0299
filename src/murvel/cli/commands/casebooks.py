"""Commands that look after casebooks."""

from __future__ import annotations

from pathlib import Path

import click

from murvel.cli.app import app
from murvel.cli.output import Exit, print_lines
from murvel.cli.parameters import Group, argument, flag, option

_MANY = {"status": "statuses"}


@app.group("casebook", cls=Group)
def casebooks() -> None:
    """Look after casebooks."""


@casebooks.command("check")
@argument("casebook", "CASEBOOK", "The casebook; it is not changed.", Path)
def check_casebook(casebook: Path) -> None:
    """Say what can be read of a casebook that may be damaged. Exit status 2: not all of it."""
    from murvel.casebook.inspection import inspect
    from murvel.text import counted

    found = inspect(casebook)
    kinds = ("page", "take", "defect", "verdict", "status", "attachment", "change", "content")
    print_lines(
        [f"can be read: {', '.join(counted(found.whole[one], one, _MANY.get(one, f'{one}s')) for one in kinds)}"]
    )
    print_lines(f"damaged: {words}" for words in found.damaged)
    if found.damaged:
        raise click.exceptions.Exit(Exit.ERROR)
    print_lines(["The casebook is whole."])


@casebooks.command("attachments")
@argument("casebook", "CASEBOOK", "A casebook.", Path)
@option("--to", "folder", about="Where the files are written.", kind=Path, metavar="FOLDER", default=Path())
@option("--defect", "defect", about="Only those of one defect.", kind=int, metavar="NUMBER")
@flag("--force", "force", about="Replace files that hold something else.")
def write_attachments(casebook: Path, folder: Path, defect: int | None, force: bool) -> None:
    """Write the pictures, drawings and texts attached to defects into files, and print their paths."""
    from murvel.casebook.attaching import write
    from murvel.casebook.store import Casebook

    with Casebook(casebook, read_only=True) as book:
        if not print_lines(str(path) for path in write(book.attachments(defect), folder, force=force)):
            raise click.exceptions.Exit(Exit.NOTHING_FOUND)


@casebooks.command("walks")
@argument("casebook", "CASEBOOK", "A casebook.", Path)
@option("--to", "folder", about="Where the files are written.", kind=Path, metavar="FOLDER", default=Path())
@option("--defect", "defect", about="Only that of one defect.", kind=int, metavar="NUMBER")
@flag("--force", "force", about="Replace files that hold something else.")
def write_walks(casebook: Path, folder: Path, defect: int | None, force: bool) -> None:
    """Write the acceptance steps of defects as walks, for murvel walk, and print their paths."""
    from murvel.casebook.store import Casebook
    from murvel.cli.configured import catalogue_of, settings_of
    from murvel.work.guards import write_guards

    with Casebook(casebook, read_only=True) as book:
        wanted = [each for each in book.defects() if defect is None or each.id == defect]
        written = write_guards(book, wanted, folder, catalogue_of(settings_of()), force=force)
        if not print_lines(map(str, written)):
            raise click.exceptions.Exit(Exit.NOTHING_FOUND)


@casebooks.command("attach")
@argument("casebook", "CASEBOOK", "A casebook that is not open elsewhere.", Path)
@argument("defect", "DEFECT", "The number of a defect.", int)
@argument("file", "FILE", "A PNG, JPEG, SVG or UTF-8 text of 1 MB at most.", Path)
@option("--words", "words", about="What it shows; its name by default.", metavar="WORDS", default="")
def attach_file(casebook: Path, defect: int, file: Path, words: str) -> None:
    """Attach a picture, a drawing or a text to a defect, for reports."""
    from murvel.casebook.attaching import attach
    from murvel.casebook.store import Casebook

    with Casebook(casebook) as book:
        attach(book, defect, file, words)
    print_lines([f"It is attached to defect {defect}."])
