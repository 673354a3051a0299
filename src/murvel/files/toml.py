"""Settings that a person wrote: TOML tables, checked against their model; the error says what to change."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from murvel.errors import MurvelError, did_you_mean
from murvel.text import visible

_Model = TypeVar("_Model", bound=BaseModel)


def read_toml(path: Path, what: str, error: type[MurvelError]) -> dict[str, Any]:
    """Return the tables in a TOML file.

    Args:
        path: the file.
        what: what it holds, in one or two words, for the message.
        error: the error of the layer that asks.

    Raises:
        MurvelError: of the class given, where the file cannot be read or is no TOML.
    """
    name = visible(str(path))
    try:
        with path.open("rb") as stream:
            return tomllib.load(stream)
    except OSError as problem:
        raise error(f"The {what} {name} cannot be read ({problem.strerror})", "check the path.") from problem
    except (ValueError, RecursionError, MemoryError) as problem:
        raise error(f"The {what} {name} is no TOML: {visible(str(problem))[:200]}.") from problem


def checked(model: type[_Model], given: object, subject: str, error: type[MurvelError]) -> _Model:
    """Return what a file holds as its model.

    Args:
        model: the keys that may be there, and what they may hold.
        given: what was read.
        subject: the thing that was read, for the message; with its name, made safe.
        error: the error of the layer that asks.

    Raises:
        MurvelError: of the class given; it names the first key that is wrong and, where it is unknown, the key that
            comes nearest.
    """
    try:
        return model.model_validate(given)
    except ValidationError as problem:
        raise error(f"{subject} is not usable: {_first_problem(problem, model)}") from problem


def _first_problem(error: ValidationError, model: type[BaseModel]) -> str:
    problem = error.errors()[0]
    *outer, last = [visible(str(part)) for part in problem["loc"]] or ["the table"]
    where = ".".join([*outer, last])
    if problem["type"] != "extra_forbidden":
        said = visible(problem["msg"]).removeprefix("Value error, ")
        return f"{where}: {said[:1].lower()}{said[1:]}."
    if outer:
        return f"{where} is no key."
    keys = [field.alias or name for name, field in model.model_fields.items()]
    return f"{where} is no key; {did_you_mean(last, keys)}"
