"""What the commands share: the application they belong to, common arguments, and folders."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING

import click

from murvel import __version__
from murvel.cli.parameters import Group, argument, flag, option

if TYPE_CHECKING:
    from murvel.reader.speech.voice import Voice


COMMANDS = {
    "read": ("murvel.cli.commands.hearing", "Print what is heard, line by line."),
    "tree": ("murvel.cli.commands.hearing", "Print the accessibility tree of a page."),
    "explain": ("murvel.cli.commands.hearing", "Explain role, name and exposure of elements."),
    "chart": ("murvel.cli.commands.hearing", "Chart a page as text, JSON, SVG or PDF."),
    "capture": ("murvel.cli.commands.hearing", "Keep pages as a real browser shows them, in files."),
    "voices": ("murvel.cli.commands.hearing", "List the voices, or show one."),
    "survey": ("murvel.cli.commands.judging", "Survey a page: headings, links, fields and other lists."),
    "check": ("murvel.cli.commands.judging", "Check pages."),
    "drill": ("murvel.cli.commands.judging", "Work widgets by keyboard as a tester does."),
    "checks": ("murvel.cli.commands.judging", "List the checks, or show one."),
    "contrast": ("murvel.cli.commands.seeing", "Tell the contrast of two colours, and the nearest ones that pass."),
    "walk": ("murvel.cli.commands.walks", "Make walks again."),
    "open": ("murvel.cli.commands.working", "Open a page in the full-screen application."),
    "demo": ("murvel.cli.commands.working", "Open the demo, Fernhollow Allotments."),
    "listen": ("murvel.cli.commands.working", "Read and work a page line by line."),
    "report": ("murvel.cli.commands.working", "Report the documented defects."),
    "takes": ("murvel.cli.commands.working", "List the takes of a casebook, or print one."),
    "keys": ("murvel.cli.commands.working", "List the keys of the application."),
    "man": ("murvel.cli.commands.working", "Print the manual page, for man -l -."),
    "completion": ("murvel.cli.commands.working", "Print what sets up completion in a shell, for its start file."),
    "casebook": ("murvel.cli.commands.casebooks", "Look after casebooks."),
    "retest": ("murvel.cli.commands.retest", "Take pages anew, and say which defects are repaired."),
}
"""The commands in the order of the help: the module that has each, and what it does."""


@click.group(cls=Group, known=COMMANDS, context_settings={"help_option_names": ["-h", "--help"], "show_default": True})
@click.version_option(__version__, message="murvel %(version)s", help="Print the version and exit.")
def app() -> None:
    """Hear a page as a screen reader would announce it, document what is wrong, and report it."""


PAGE_HELP = (
    "A file, a folder with an index.html, an http(s) address, or - for standard input. A tree as JSON will do, too."
)

page_argument = argument("page", "PAGE", PAGE_HELP)

voice_option = option("--voice", "voice", about="Read in a voice, by its name or the path of its file.", metavar="NAME")


def data_folder() -> Path:
    """Return the folder for casebooks and the demo."""
    from platformdirs import user_data_path

    return user_data_path("murvel", appauthor=False)


class Form(StrEnum):
    """How a command prints what it found."""

    TEXT = "text"
    JSON = "json"


output_option = option(
    "-o", "--output", "output", about="Write to FILE instead of standard output; - is that.", kind=Path, metavar="FILE"
)
force_flag = flag("--force", "force", about="Replace a file that Murvel did not write.")

WIDTHS = click.IntRange(200, 10000)
"""The widths that a viewport may have, in CSS pixels."""

widths_option = option(
    "--width", "widths", about="Set the width of the viewport (1280; repeatable).", kind=WIDTHS, metavar="PIXELS",
    is_many=True,
)  # fmt: skip

form_option = option("--format", "form", about="Print lines of text, or JSON.", kind=Form, default=Form.TEXT)


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
    from murvel.reader.speech.voice_files import voice_named

    return voice_named(name, voice_folder())
