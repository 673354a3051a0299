"""A voice as plain lines, in the words of its file."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields

from murvel.reader.speech.pronunciation import Punctuation
from murvel.reader.speech.voice import PAGE, Voice
from murvel.text import visible


def voice_lines(voice: Voice) -> Iterator[str]:
    """Yield a line for each setting, as it would stand in a voice file."""
    for field in fields(Voice):
        value = getattr(voice, field.name)
        if field.name == "words":
            continue  # a table of its own in the file
        value = value or PAGE if field.name == "language" else value
        yield f"{field.name} = {_written(value)}"


def _written(value: object) -> str:
    if isinstance(value, bool):
        return str(value).lower()
    if isinstance(value, Punctuation):
        return f'"{value.name.lower()}"'
    if isinstance(value, (tuple, frozenset)):
        items = sorted(value) if isinstance(value, frozenset) else value
        words = ", ".join(f'"{item}"' for item in map(str, items))
        return f"[{words}]"
    return str(value) if isinstance(value, int) else f'"{visible(str(value))}"'
