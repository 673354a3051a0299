"""Custom properties and var() (CSS Custom Properties 1), as far as they decide one of our properties."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from functools import lru_cache
from typing import Any, NamedTuple

from murvel.css.sheets.limits import is_deep
from murvel.css.tokens import component_values

_LONGEST = 10_000
"""What a value may grow to by substitution, in characters: a few lines of style sheet could ask for gigabytes."""


class Registered(NamedTuple):
    """What is registered of a custom property (CSS Properties and Values 1 §3)."""

    inherits: bool
    initial: str | None


def refers(tokens: list[Any]) -> bool:
    """Whether a value has a var() in it."""
    return next(_references(tokens), None) is not None


def names_in(text: str) -> set[str]:
    """Return the custom properties that a value refers to, in fallbacks too."""
    return {name for name, _ in _references(_tokens(text))} if "var(" in text.lower() else set()


def substitute(text: str, values: Mapping[str, str]) -> str | None:
    """Return a value with its references replaced (§3), or None if it is invalid at computed-value time (§3.1).

    Args:
        text: the value.
        values: the custom properties of the element, without references.
    """
    if "var(" not in text.lower():
        return text
    tokens = _tokens(text)
    return None if is_deep(tokens) else _written(tokens, values)


def substituted(own: Mapping[str, str], around: Mapping[str, str]) -> dict[str, str]:
    """Return the custom properties that an element declares, without references; those that end invalid are left out.

    Each is worked out once, after those that it refers to. Those that refer to each other in a circle are invalid
    (§2.3).

    Args:
        own: those that it declares, as written.
        around: those that it inherits, without references.
    """
    values = dict(around)
    for name in own:
        values.pop(name, None)
    found: dict[str, str] = {}
    order, circular = _by_dependence(own)
    for name in order:
        text = None if name in circular else substitute(own[name], values)
        if text is not None:
            found[name] = values[name] = text
    return found


def _by_dependence(own: Mapping[str, str]) -> tuple[list[str], set[str]]:
    """Return the names with each after those it refers to, and those that stand in a circle."""
    order: list[str] = []
    circular: set[str] = set()
    done: set[str] = set()
    for start in own:
        if start in done:
            continue
        path: dict[str, Iterator[str]] = {start: iter(_known(names_in(own[start]), own))}
        while path:
            name, waiting = next(reversed(path.items()))
            following = next(waiting, None)
            if following is None:
                path.popitem()
                done.add(name)
                order.append(name)
            elif following in path:
                names = list(path)
                circular.update(names[names.index(following) :])
            elif following not in done:
                path[following] = iter(_known(names_in(own[following]), own))
    return order, circular


def _known(names: Iterable[str], own: Mapping[str, str]) -> list[str]:
    return [name for name in sorted(names) if name in own]


def _written(tokens: list[Any], values: Mapping[str, str]) -> str | None:
    pieces: list[str] = []
    length = 0
    for token in tokens:
        piece: str | None
        if token.type == "function" and token.lower_name == "var":
            piece = _value(token, values)
        elif token.type == "function" and refers(token.arguments):
            inner = _written(token.arguments, values)
            piece = None if inner is None else f"{token.name}({inner})"
        else:
            piece = token.serialize()
        length += len(piece or "")
        if piece is None or length > _LONGEST:
            return None
        pieces.append(piece)
    return "".join(pieces)


def _value(function: Any, values: Mapping[str, str]) -> str | None:
    name, fallback = _parts(function.arguments)
    given = values.get(name)
    if given is not None:
        return given
    if fallback is None:
        return None
    written = _written(fallback, values)
    return None if written is None else written.strip()


def _references(tokens: list[Any]) -> Iterator[tuple[str, list[Any] | None]]:
    """Yield the name and the fallback of each var() in a value, those within fallbacks and functions too."""
    stack = list(tokens)[::-1]
    while stack:
        token = stack.pop()
        if token.type == "function":
            if token.lower_name == "var":
                yield _parts(token.arguments)
            stack.extend(token.arguments)


@lru_cache(4096)
def _tokens(text: str) -> list[Any]:
    return list(component_values(text, skip_comments=True))


def _parts(arguments: list[Any]) -> tuple[str, list[Any] | None]:
    """The custom property's name, and what stands behind the first comma; None if there is no comma."""
    name = next((str(token.value) for token in arguments if token.type == "ident"), "")
    comma = next((at for at, token in enumerate(arguments) if token.type == "literal" and token.value == ","), None)
    return name, None if comma is None else arguments[comma + 1 :]
