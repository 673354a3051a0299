"""What the commands share: the application they belong to, common arguments, and folders."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from murvel.reader.voice import Voice

app = typer.Typer(
    name="murvel",
    help="Hear a page as a screen reader would announce it, document what is wrong, and report it.",
    add_completion=False,
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
)

PAGE_HELP = "A file, a folder with an index.html, - for standard input, or an http(s) address; also a tree as JSON."

PageArgument = Annotated[str, typer.Argument(metavar="PAGE", help=PAGE_HELP)]
WidthOption = Annotated[
    int,
    typer.Option("--width", min=200, max=10000, help="The viewport's width in CSS pixels, for media queries."),
]

VoiceOption = Annotated[
    str | None, typer.Option("--voice", metavar="NAME", help="The voice to read in, by name, or a file of your own.")
]


def data_folder() -> Path:
    """Return the folder for casebooks and the demo."""
    from platformdirs import user_data_path

    return user_data_path("murvel", appauthor=False)


def config_folder() -> Path:
    """Return the folder for settings."""
    from platformdirs import user_config_path

    return user_config_path("murvel", appauthor=False)


def state_folder() -> Path:
    """Return the folder for what one session leaves to the next."""
    from platformdirs import user_state_path

    return user_state_path("murvel", appauthor=False)


def voice_folder() -> Path:
    """Return the folder that holds the person's own voices."""
    return config_folder() / "voices"


def voice_of(name: str) -> Voice:
    """Return a voice by its name, or from a file."""
    from murvel.reader.voice_files import voice_named

    return voice_named(name, voice_folder())
