"""A tester's own voices, as TOML files.

A file holds one voice; what it leaves out is as in the voice it is `based_on`, by default the first built-in one.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from murvel.errors import did_you_mean
from murvel.files.reading import checked, read_toml
from murvel.page.text import visible
from murvel.reader.errors import ReaderError
from murvel.reader.pronunciation import Punctuation
from murvel.reader.timing import FASTEST, SLOWEST
from murvel.reader.voice import BUILT_IN, Piece, Surrounding, Unit, Voice

SUFFIX = ".toml"


class _File(BaseModel):
    """The keys of a voice file, as they are checked."""

    model_config = ConfigDict(extra="forbid")

    name: str = Field(min_length=1, max_length=40)
    about: str = ""
    based_on: str = BUILT_IN[0].name
    order: list[Piece] | None = None
    entering: list[Surrounding] | None = None
    leaving: list[Surrounding] | None = None
    headers: bool | None = None
    coordinates: bool | None = None
    nesting: bool | None = None
    languages: bool | None = None
    punctuation: Literal["none", "some", "most", "all"] | None = None
    blank_lines: bool | None = None
    visited: bool | None = None
    capitals: bool | None = None
    unit: Unit | None = None
    rate: int | None = Field(default=None, ge=SLOWEST, le=FASTEST)


def read_voice(path: Path) -> Voice:
    """Return the voice a file describes.

    Raises:
        ReaderError: it cannot be read or is no voice; the message names the file, the key and what is wrong with it.
    """
    name = visible(str(path))
    file = checked(_File, read_toml(path, "voice", ReaderError), f"The voice {name}", ReaderError)
    base = next((voice for voice in BUILT_IN if voice.name == file.based_on), None)
    if base is None:
        known = ", ".join(voice.name for voice in BUILT_IN)
        raise ReaderError(f"The voice {name} is based on {visible(file.based_on)!r}, but there is only: {known}.")
    return replace(base, name=file.name, about=file.about or base.about, **_changes(file))


def _changes(file: _File) -> dict[str, Any]:
    changes: dict[str, Any] = file.model_dump(exclude_none=True, exclude={"name", "about", "based_on"})
    for key in ("entering", "leaving"):
        if key in changes:
            changes[key] = frozenset(changes[key])
    if "order" in changes:
        changes["order"] = tuple(dict.fromkeys(changes["order"]))
    if "punctuation" in changes:
        changes["punctuation"] = Punctuation[changes["punctuation"].upper()]
    return changes


def all_voices(folder: Path | None) -> tuple[list[Voice], list[str]]:
    """Return the built-in voices and those in a folder, and what is wrong with files there that hold none."""
    own, problems = voices_in(folder) if folder is not None else ([], [])
    return [*BUILT_IN, *own], problems


def voice_named(name: str, folder: Path | None) -> Voice:
    """Return a voice by its name, or from a file.

    Raises:
        ReaderError: there is none of that name, or the file is none.
    """
    if name.endswith(SUFFIX):
        return read_voice(Path(name))
    known = {each.name: each for each in all_voices(folder)[0]}
    if name not in known:
        raise ReaderError(f"There is no voice {visible(name)!r}", did_you_mean(name, known))
    return known[name]


def voices_in(folder: Path) -> tuple[list[Voice], list[str]]:
    """Return the voices in a folder by name, and what is wrong with the files that hold none."""
    voices: list[Voice] = []
    problems: list[str] = []
    for path in sorted(folder.glob(f"*{SUFFIX}")) if folder.is_dir() else ():
        try:
            voices.append(read_voice(path))
        except ReaderError as error:
            problems.append(str(error))
    return voices, problems
