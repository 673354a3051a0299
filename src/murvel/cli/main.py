"""The command `murvel`: how a run begins and ends."""

from __future__ import annotations

import gc
import re
import signal
import sys
from types import FrameType

import click

from murvel.cli.app import app
from murvel.cli.output import Exit, prepare_streams, print_error, reader_went_away
from murvel.errors import MurvelError, did_you_mean
from murvel.patterns import pattern


def run(arguments: list[str] | None = None) -> None:
    """Run a command and end the process with its exit status."""
    prepare_streams()
    for number in (signal.SIGTERM, signal.SIGHUP):
        if signal.getsignal(number) is signal.SIG_DFL:  # who is started with nohup goes on
            signal.signal(number, _end)
    gc.disable()  # a command ends before there is much garbage; those that stay turn the collector on
    status: int = Exit.DONE
    stdout = sys.stdout
    try:
        arguments = (sys.argv[1:] if arguments is None else arguments) or ["--help"]
        status = app.main(args=arguments, prog_name="murvel", standalone_mode=False) or Exit.DONE
        sys.stdout.flush()
    except click.exceptions.NoArgsIsHelpError as error:
        sys.stdout.write(f"{error.format_message()}\n")
    except click.ClickException as error:
        print_error(_explained(error))
        status = Exit.ERROR
    except MurvelError as error:
        print_error(str(error))
        status = Exit.ERROR
    except BrokenPipeError:
        reader_went_away()
        status = Exit.READER_GONE
    except SystemExit:
        if sys.stdout is stdout:
            raise
        # Click has put another stream in place of the broken pipe before it ended.
        reader_went_away()
        status = Exit.READER_GONE
    except OSError as error:
        print_error(f"{error.strerror or error}; the command could not finish.")
        status = Exit.ERROR
    except (click.Abort, KeyboardInterrupt):
        print_error("stopped.")
        status = Exit.STOPPED
    gc.enable()
    sys.exit(status)


def _end(number: int, _frame: FrameType | None) -> None:
    """End as a shell expects it of a signal, with what ends a browser and takes its files away."""
    raise SystemExit(128 + number)


_NO_CHOICE = pattern(r"Invalid value for '?(?P<what>.+?)'?: '(?P<given>.*)' is not one of (?P<known>.+)[.]", re.DOTALL)


def _explained(error: click.ClickException) -> str:
    """Return what is wrong with the arguments; for a word that is not one of those known, the nearest of them."""
    message = error.format_message()
    found = _NO_CHOICE.fullmatch(message)
    if found is None:
        return message
    known = re.findall(r"'([^']*)'", found["known"])
    return f"{found['given']!r} is no value for {found['what']}; {did_you_mean(found['given'], known)}"
