"""A tester's own voices, as TOML files.

A file holds one voice; what it leaves out is as in the voice it is `based_on`, by default the first built-in one.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from murvel.errors import did_you_mean
from murvel.files.toml import checked, read_toml
from murvel.reader.errors import ReaderError
from murvel.reader.speech.pronunciation import Punctuation
from murvel.reader.speech.timing import FASTEST, SLOWEST
from murvel.reader.speech.voice import BUILT_IN, PAGE, Piece, Surrounding, Unit, Voice, in_language
from murvel.reader.speech.wording.words import ENGLISH, LANGUAGES, words_of
from murvel.text import visible

SUFFIX = ".toml"


class _Forms(BaseModel):
    """The forms of a count by CLDR's plural categories, for languages with more than one and several."""

    model_config = ConfigDict(extra="forbid")

    one: str
    two: str | None = None
    few: str | None = None
    many: str | None = None
    other: str
    none: str


class _OwnWords(BaseModel):
    """Words of a person's own, by table; what is left out is as in the language's own table, or in English."""

    model_config = ConfigDict(extra="forbid")

    roles: dict[str, str] = {}
    states: dict[str, dict[str, str]] = {}
    counts: dict[str, tuple[str, str, str] | _Forms] = {}
    phrases: dict[str, str] = {}
    hints: dict[str, str] = {}
    symbols: dict[str, str] = {}

    @model_validator(mode="after")
    def _known(self) -> _OwnWords:
        for table in _OwnWords.model_fields:
            given, known = getattr(self, table), getattr(ENGLISH, table)
            other = next((name for name in given if name not in known), None)
            if other is not None:
                near = f"{table} has no word for {other!r}"
                hint = did_you_mean(other, known)
                raise ValueError(f"{near} ({hint})" if hint else near)
        return self


class _File(BaseModel):
    """The keys of a voice file, as they are checked."""

    model_config = ConfigDict(extra="forbid")

    name: str = Field(min_length=1, max_length=40)
    about: str = ""
    based_on: str = BUILT_IN[0].name
    order: list[Piece] | None = None
    entering: list[Surrounding] | None = None
    leaving: list[Surrounding] | None = None
    leaving_before_text: list[Surrounding] | None = None
    headers: bool | None = None
    coordinates: bool | None = None
    nesting: bool | None = None
    marks: bool | None = None
    abbreviations: bool | None = None
    languages: bool | None = None
    punctuation: Literal["none", "some", "most", "all"] | None = None
    blank_lines: bool | None = None
    visited: bool | None = None
    capitals: bool | None = None
    unit: Unit | None = None
    rate: int | None = Field(default=None, ge=SLOWEST, le=FASTEST)
    language: str | None = Field(default=None, pattern=r"^([a-z]{2,3}|page)$")
    words: _OwnWords | None = None


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
    changes: dict[str, Any] = file.model_dump(exclude_none=True, exclude={"name", "about", "based_on", "words"})
    if file.language is not None:
        changes["language"] = "" if file.language == PAGE else file.language
    if file.words is not None:
        language = file.language if file.language not in (None, PAGE) else "en"
        own = file.words.model_dump(exclude_defaults=True)
        changes["words"] = words_of(language or "en").with_own(own, language or "en")
    for key in ("entering", "leaving", "leaving_before_text"):
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
    """Return a voice by its name, or from a file; behind that, "in de" or "in page" gives the language of its words.

    Raises:
        ReaderError: there is none of that name, the file is none, or there are no words in that language.
    """
    name, asked, language = name.partition(" in ")
    if asked and language not in (*LANGUAGES, PAGE):
        raise ReaderError(f"There are no words in {visible(language)!r}", did_you_mean(language, (*LANGUAGES, PAGE)))
    voice = _voice_named(name, folder)
    return in_language(voice, language) if asked else voice


def _voice_named(name: str, folder: Path | None) -> Voice:
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
