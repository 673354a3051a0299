"""What commands are built of, with Click: groups, arguments, options, choices."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from enum import Enum
from importlib import import_module
from pathlib import Path
from typing import Any, TypeVar

import click

from murvel.errors import did_you_mean

_Command = TypeVar("_Command", bound=Callable[..., Any])

Decorator = Callable[[_Command], _Command]
"""Gives a command a parameter."""


class Words(click.Choice[Any]):
    """One of the values of an enumeration; the command gets the member."""

    def normalize_choice(self, choice: Any, ctx: click.Context | None) -> str:
        """Return the word that stands for a member."""
        return str(choice.value) if isinstance(choice, Enum) else str(choice)


class Group(click.Group):
    """Commands in a given order; for one that is not known, the nearest is named.

    Args:
        known: the module that adds each command, and what the command does; a module is loaded when a command of it is
            asked for, and not for the help of all.
    """

    def __init__(self, *given: Any, known: Mapping[str, tuple[str, str]] | None = None, **more: Any) -> None:
        super().__init__(*given, **more)
        self._known = known or {}

    def list_commands(self, ctx: click.Context) -> list[str]:
        """Return the names of the commands."""
        return [*self._known, *(each for each in self.commands if each not in self._known)]

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        """Return a command by its name, None if there is none."""
        if cmd_name not in self.commands and cmd_name in self._known:
            import_module(self._known[cmd_name][0])
        return super().get_command(ctx, cmd_name)

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        """Write what each command does."""
        if not self._known:
            super().format_commands(ctx, formatter)
            return
        with formatter.section("Commands"):
            formatter.write_dl([(name, about) for name, (_, about) in self._known.items()])

    def resolve_command(self, ctx: click.Context, args: list[str]) -> Any:
        """Return the command that is meant.

        Raises:
            click.UsageError: there is none of this name.
        """
        known = self.list_commands(ctx)
        if args and not args[0].startswith("-") and args[0] not in known:
            hint = did_you_mean(args[0], known, f"{ctx.command_path} --help lists them all.")
            ctx.fail(f"No such command {args[0]!r}. {hint[0].upper()}{hint[1:]}")
        return super().resolve_command(ctx, args)


def argument(
    name: str, metavar: str, about: str, kind: Any = str, *, is_optional: bool = False, is_many: bool = False
) -> Decorator[Any]:
    """Return a decorator that gives a command an argument.

    Args:
        name: the command's parameter.
        metavar: what stands for it in the help.
        about: what it is.
        kind: `Path`, an enumeration, or a type as Click has it.
        is_optional: whether it may be left out.
        is_many: whether it takes all that is left; the command gets a tuple.
    """
    nargs = -1 if is_many else 1
    return click.argument(name, metavar=metavar, help=about, type=_type(kind), required=not is_optional, nargs=nargs)


def option(
    *declared: str,
    about: str,
    kind: Any = str,
    metavar: str | None = None,
    default: Any = None,
    is_required: bool = False,
    is_many: bool = False,
    variable: str | None = None,
) -> Decorator[Any]:
    """Return a decorator that gives a command an option with a value.

    Args:
        declared: its names, and the command's parameter.
        about: what it is for.
        kind: `Path`, an enumeration, or a type as Click has it.
        metavar: what stands for its value in the help.
        default: the value where it is left out.
        is_required: whether it may not be left out.
        is_many: whether it may be given several times; the command gets a tuple.
        variable: the environment variable that stands for it.
    """
    return click.option(
        *declared,
        help=about,
        type=_type(kind),
        metavar=metavar,
        default=default.value if isinstance(default, Enum) else default,
        required=is_required,
        multiple=is_many,
        envvar=variable,
    )


def flag(*declared: str, about: str) -> Decorator[Any]:
    """Return a decorator that gives a command an option without a value.

    Args:
        declared: its names, and the command's parameter.
        about: what it is for.
    """
    return click.option(*declared, is_flag=True, default=False, help=about)


def _type(kind: Any) -> Any:
    if kind is Path:
        return click.Path(path_type=Path)
    return Words(kind) if isinstance(kind, type) and issubclass(kind, Enum) else kind
