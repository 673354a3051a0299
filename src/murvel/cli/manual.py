"""The manual page and the reference of the commands, made from their help (man-pages(7), groff_man(7))."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import click

from murvel import __version__
from murvel.cli.app import app
from murvel.cli.output import Exit
from murvel.cli.parameters import Words


def manual_lines() -> Iterator[str]:
    """Yield the lines of murvel(1) as troff."""
    yield f'.TH MURVEL 1 "" "murvel {__version__}" "User Commands"'
    yield from (".SH NAME", f"murvel \\- {_text(_first_sentence(app.help or ''))}")
    yield from (".SH SYNOPSIS", ".B murvel", "\\fICOMMAND\\fR [\\fIARGUMENT\\fR ...]")
    yield ".SH COMMANDS"
    for name, command in _commands():
        words = " ".join(
            f"\\fI{_text(each.metavar)}\\fR" if each.required else f"[\\fI{_text(each.metavar)}\\fR]"
            for each in _arguments(command)
        )
        yield f".SS murvel {_text(name)} {words}"
        yield _text(command.help)
        for each in command.params:
            if each.help:
                yield from (".TP", _signature(each), _text(_about(each)))
    yield ".SH EXIT STATUS"
    for status in Exit:
        yield from (".TP", f".B {status.value}", _text(status.about))


def reference_lines() -> Iterator[str]:
    """Yield the lines of docs/reference/commands.md."""
    yield from ("# Commands", "", "Made by `murvel man --markdown`. A test keeps the two alike.", "")
    yield "`-h` behind a command prints its help. Standard output is data only. Errors are one line on standard error."
    yield from ("", "## Exit statuses", "", "| status | meaning |", "| --- | --- |")
    yield from (f"| {status.value} | {status.about} |" for status in Exit)
    for name, command in _commands():
        words = " ".join(each.metavar if each.required else f"[{each.metavar}]" for each in _arguments(command))
        yield from ("", f"## {name}", "", f"`murvel {name} {words}`".replace(" `", "`"), "", command.help)
        rows = [(each, _about(each)) for each in command.params if each.help]
        if rows:
            yield from ("", "| argument or option | meaning |", "| --- | --- |")
        for each, about in rows:
            name_ = each.metavar if each.param_type_name == "argument" else ", ".join(each.opts)
            value = "" if each.param_type_name == "argument" or each.is_flag else f" {_value(each)}"
            yield f"| `{name_}{value}` | {about.replace('|', chr(92) + '|')} |"


def _commands() -> list[tuple[str, Any]]:
    """All commands by name; those of a group behind its name."""
    found: list[tuple[str, Any]] = []
    context = click.Context(app)
    for name in app.list_commands(context):
        command = app.get_command(context, name)
        inside = getattr(command, "commands", None)
        found += [(name, command)] if inside is None else [(f"{name} {each}", one) for each, one in inside.items()]
    return sorted(found)


def _arguments(command: Any) -> list[Any]:
    return [each for each in command.params if each.param_type_name == "argument"]


def _about(parameter: Any) -> str:
    """Return the help of a parameter, with the words it takes where it takes only some."""
    words = [each.value for each in parameter.type.choices] if isinstance(parameter.type, Words) else []
    return f"{parameter.help} One of: {', '.join(words)}." if words else str(parameter.help)


def _value(option: Any) -> str:
    return str(option.metavar or option.opts[-1].lstrip("-").upper())


def _signature(parameter: Any) -> str:
    if parameter.param_type_name == "argument":
        return f"\\fI{_text(parameter.metavar)}\\fR"
    value = "" if parameter.is_flag else f" \\fI{_text(_value(parameter))}\\fR"
    return ", ".join(f"\\fB{_text(each)}\\fR" for each in parameter.opts) + value


def _first_sentence(text: str) -> str:
    return text.partition(". ")[0].rstrip(".")


def _text(text: str) -> str:
    """Return text as troff takes it: no backslash acts, no line begins with a request, a hyphen stays a hyphen."""
    escaped = " ".join(text.split()).replace("\\", "\\e").replace("-", "\\-")
    return f"\\&{escaped}" if escaped.startswith((".", "'")) else escaped
