"""Custom properties and var() (CSS Custom Properties 1), as far as they decide one of our properties."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

import tinycss2

_LONGEST = 10_000
"""What a value may grow to by substitution, in characters: a few lines of style sheet could ask for gigabytes."""

_DEEPEST = 50
"""How many values may refer to each other in a row."""


def refers(tokens: list[Any]) -> bool:
    """Whether a value has a var() in it."""
    return next(_references(tokens), None) is not None


def names_in(text: str) -> set[str]:
    """Return the custom properties that a value refers to."""
    tokens = tinycss2.parse_component_value_list(text, skip_comments=True)
    return {name for name, _ in _references(tokens)}


def substitute(text: str, values: Mapping[str, str], within: tuple[str, ...] = ()) -> str | None:
    """Return a value with its references replaced (§3), or None where it is invalid at computed-value time (§3.1).

    Args:
        text: the value.
        values: the custom properties of the element, as written.
        within: the custom properties whose values this stands in; a reference to one of them is a cycle.
    """
    if "var(" not in text.lower():
        return text
    tokens = tinycss2.parse_component_value_list(text, skip_comments=True)
    written = _written(tokens, values, within)
    return written if written is not None and len(written) <= _LONGEST else None


def _written(tokens: list[Any], values: Mapping[str, str], within: tuple[str, ...]) -> str | None:
    pieces: list[str] = []
    length = 0
    for token in tokens:
        piece: str | None
        if token.type == "function" and token.lower_name == "var":
            piece = _value(token, values, within)
        elif token.type == "function" and refers(token.arguments):
            inner = _written(token.arguments, values, within)
            piece = None if inner is None else f"{token.name}({inner})"
        else:
            piece = token.serialize()
        length += len(piece or "")
        if piece is None or length > _LONGEST:
            return None
        pieces.append(piece)
    return "".join(pieces)


def _value(function: Any, values: Mapping[str, str], within: tuple[str, ...]) -> str | None:
    name, fallback = _parts(function.arguments)
    given = values.get(name)
    if given is not None and name not in within and len(within) < _DEEPEST:
        found = substitute(given, values, (*within, name))
        if found is not None:
            return found
    return None if fallback is None else substitute(tinycss2.serialize(fallback).strip(), values, within)


def _references(tokens: list[Any]) -> Iterator[tuple[str, list[Any] | None]]:
    """Yield the name and the fallback of each var() in a value, those within fallbacks and functions too."""
    stack = list(tokens)[::-1]
    while stack:
        token = stack.pop()
        if token.type == "function":
            if token.lower_name == "var":
                yield _parts(token.arguments)
            stack.extend(token.arguments)


def _parts(arguments: list[Any]) -> tuple[str, list[Any] | None]:
    """The custom property's name, and what stands behind the first comma; None where there is no comma."""
    name = next((str(token.value) for token in arguments if token.type == "ident"), "")
    comma = next((at for at, token in enumerate(arguments) if token.type == "literal" and token.value == ","), None)
    return name, None if comma is None else arguments[comma + 1 :]
