"""The manual page, made from the help of the commands (man-pages(7), groff_man(7))."""

from __future__ import annotations

from collections.abc import Iterator
from importlib.metadata import version
from typing import Any

import typer

from murvel.cli.app import app
from murvel.cli.output import Exit


def manual_lines() -> Iterator[str]:
    """Yield the lines of murvel(1) as troff."""
    group: Any = typer.main.get_command(app)
    yield f'.TH MURVEL 1 "" "murvel {version("murvel")}" "User Commands"'
    yield from (".SH NAME", f"murvel \\- {_text(_first_sentence(group.help))}")
    yield from (".SH SYNOPSIS", ".B murvel", "\\fICOMMAND\\fR [\\fIARGUMENT\\fR ...]")
    yield ".SH COMMANDS"
    for name in sorted(group.commands):
        command = group.commands[name]
        arguments = [each for each in command.params if each.param_type_name == "argument"]
        words = " ".join(f"[\\fI{_text(each.metavar)}\\fR]" if not each.required else f"\\fI{_text(each.metavar)}\\fR"
                         for each in arguments)  # fmt: skip
        yield f".SS murvel {_text(name)} {words}"
        yield _text(command.help)
        for each in command.params:
            if each.help:
                yield from (".TP", _signature(each), _text(each.help))
    yield ".SH EXIT STATUS"
    for status in Exit:
        yield from (".TP", f".B {status.value}", _text(status.about))


def _signature(parameter: Any) -> str:
    if parameter.param_type_name == "argument":
        return f"\\fI{_text(parameter.metavar)}\\fR"
    value = (
        "" if parameter.is_flag else f" \\fI{_text(parameter.metavar or parameter.opts[-1].lstrip('-').upper())}\\fR"
    )
    return ", ".join(f"\\fB{_text(each)}\\fR" for each in parameter.opts) + value


def _first_sentence(text: str) -> str:
    return text.partition(". ")[0].rstrip(".")


def _text(text: str) -> str:
    """Return text as troff takes it: no backslash acts, no line begins with a request, a hyphen stays a hyphen."""
    escaped = " ".join(text.split()).replace("\\", "\\e").replace("-", "\\-")
    return f"\\&{escaped}" if escaped.startswith((".", "'")) else escaped
