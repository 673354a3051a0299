"""What the commands share: the application they belong to, common arguments, and folders."""

from __future__ import annotations

import sys
from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from murvel import __version__

if TYPE_CHECKING:
    from murvel.reader.voice import Voice

app = typer.Typer(
    name="murvel",
    help="Hear a page as a screen reader would announce it, document what is wrong, and report it.",
    context_settings={"help_option_names": ["-h", "--help"]},
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
)


def _print_version(is_asked: bool) -> None:
    if is_asked:
        sys.stdout.write(f"murvel {__version__}\n")
        raise typer.Exit


@app.callback()
def murvel(
    _version: Annotated[
        bool, typer.Option("--version", help="Print the version and exit.", is_eager=True, callback=_print_version)
    ] = False,
) -> None:
    """Hear a page as a screen reader would announce it, document what is wrong, and report it."""


PAGE_HELP = (
    "A file, a folder with an index.html, an http(s) address, or - for standard input. A tree as JSON will do, too."
)

PageArgument = Annotated[str, typer.Argument(metavar="PAGE", help=PAGE_HELP)]

VoiceOption = Annotated[
    str | None, typer.Option("--voice", metavar="NAME", help="Read in a voice, by its name or the path of its file.")
]


def data_folder() -> Path:
    """Return the folder for casebooks and the demo."""
    from platformdirs import user_data_path

    return user_data_path("murvel", appauthor=False)


class Form(StrEnum):
    """How a command prints what it found."""

    TEXT = "text"
    JSON = "json"


OutputOption = Annotated[
    Path | None,
    typer.Option("-o", "--output", metavar="FILE", help="Write to FILE instead of standard output; - is that."),
]
ForceOption = Annotated[bool, typer.Option("--force", help="Replace a file that Murvel did not write.")]

WidthsOption = Annotated[
    list[int] | None,
    typer.Option(
        "--width", min=200, max=10000, metavar="PIXELS", help="Set the width of the viewport (1280; repeatable)."
    ),
]

FormOption = Annotated[Form, typer.Option("--format", help="Print lines of text, or JSON.")]


def config_folder() -> Path:
    """Return the folder for settings."""
    from platformdirs import user_config_path

    return user_config_path("murvel", appauthor=False)


def state_folder() -> Path:
    """Return the folder for what one session leaves to the next."""
    from platformdirs import user_state_path

    return user_state_path("murvel", appauthor=False)


def cache_folder() -> Path:
    """Return the folder for what can be made again."""
    from platformdirs import user_cache_path

    return user_cache_path("murvel", appauthor=False)


def voice_folder() -> Path:
    """Return the folder that holds the person's own voices."""
    return config_folder() / "voices"


def voice_of(name: str) -> Voice:
    """Return a voice by its name, or from a file."""
    from murvel.reader.voice_files import voice_named

    return voice_named(name, voice_folder())
