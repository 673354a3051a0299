"""Declarations of the properties that change what is exposed or said, their values checked and kept as text."""

from __future__ import annotations

from collections.abc import Container, Iterable, Iterator
from dataclasses import dataclass
from typing import Any, NamedTuple

import tinycss2

from murvel.css.generated.content import Content, content_of
from murvel.css.sheets.limits import is_deep
from murvel.css.tokens import block_contents, component_values
from murvel.css.values.variables import refers

INHERITED = ("visibility", "white-space", "text-transform", "list-style-type", "quotes")
"""Our properties that children take over from their parent."""

KEYWORDS: dict[str, frozenset[str]] = {
    "visibility": frozenset({"visible", "hidden", "collapse"}),
    "white-space": frozenset({"normal", "pre", "nowrap", "pre-wrap", "pre-line", "break-spaces"}),
    "text-transform": frozenset({"none", "capitalize", "uppercase", "lowercase", "full-width"}),
    "content-visibility": frozenset({"visible", "auto", "hidden"}),
    "float": frozenset({"none", "left", "right", "inline-start", "inline-end"}),
    "position": frozenset({"static", "relative", "absolute", "fixed", "sticky", "-webkit-sticky"}),
    "display": frozenset(
        [
            "none",
            "contents",
            "block",
            "inline",
            "flow-root",
            "inline-block",
            "list-item",
            "flex",
            "inline-flex",
            "grid",
            "inline-grid",
            "table",
            "inline-table",
            "table-row-group",
            "table-header-group",
            "table-footer-group",
            "table-row",
            "table-cell",
            "table-column-group",
            "table-column",
            "table-caption",
            "ruby",
            "ruby-text",
            "math",
        ]
    ),
}

INITIAL = {
    "display": "inline",
    "visibility": "visible",
    "white-space": "normal",
    "text-transform": "none",
    "content-visibility": "visible",
    "float": "none",
    "position": "static",
    "content": "normal",
    "list-style-type": "disc",
    "counter-reset": "none",
    "counter-increment": "none",
    "counter-set": "none",
    "quotes": "auto",
}

PROPERTIES = frozenset(INITIAL) | {"list-style", "all"}
"""What is read of a declaration block; the shorthands among them stand for others."""

CSS_WIDE = frozenset({"inherit", "initial", "unset", "revert", "revert-layer"})

# Two-value syntax of display (CSS Display 3 §2) and prefixed keywords, as the single keyword they mean.
_DISPLAY_ALIASES = {
    "block flow": "block",
    "inline flow": "inline",
    "block flex": "flex",
    "block grid": "grid",
    "inline flow-root": "inline-block",
    "block flow-root": "flow-root",
    "-webkit-box": "flex",
    "-webkit-flex": "flex",
    "-webkit-inline-box": "inline-flex",
}


class Pending(NamedTuple):
    """A value that is known only for an element: one with var() in it, or that of a custom property."""

    text: str


Value = str | Content | Pending
"""A keyword or a text; for `content`, its pieces; or a value that is known only for an element."""


@dataclass(frozen=True, slots=True)
class Declared:
    """One declaration."""

    name: str
    value: Value
    important: bool


def declared(tokens: Any, custom: Container[str] = ()) -> Iterator[Declared]:
    """Yield the valid declarations of our properties in the content of a rule or a style attribute.

    Args:
        tokens: tinycss2's tokens of a block's content, or the text of a style attribute.
        custom: the custom properties that are of interest too.
    """
    yield from declared_in(block_contents(tokens), custom)


def declared_in(nodes: Iterable[Any], custom: Container[str] = ()) -> Iterator[Declared]:
    """Yield the same for tinycss2's nodes of a block's content."""
    for node in nodes:
        if node.type != "declaration" or is_deep(node.value):
            continue
        if node.name in custom:
            yield Declared(node.name, Pending(tinycss2.serialize(node.value).strip()), node.important)
            continue
        if node.lower_name not in PROPERTIES:
            continue
        values = [token for token in node.value if token.type not in ("whitespace", "comment")]
        value: Value | None
        if refers(values):
            value = Pending(tinycss2.serialize(node.value).strip())
        elif len(values) == 1 and values[0].type == "ident" and values[0].lower_value in CSS_WIDE:
            value = values[0].lower_value
        else:
            value = _value(node.lower_name, values)
        if value is not None:
            for name in _STANDS_FOR.get(node.lower_name, (node.lower_name,)):
                yield Declared(name, value, node.important)


_STANDS_FOR = {"list-style": ("list-style-type",), "all": tuple(INITIAL)}
"""Our properties that a shorthand sets."""


def _value(name: str, tokens: list[Any]) -> Value | None:
    """Return the value of a declaration, None if it is not valid."""
    if name == "content":
        return content_of(tokens)
    if name in KEYWORDS:
        words = " ".join(token.lower_value if token.type == "ident" else "?" for token in tokens)
        words = _DISPLAY_ALIASES.get(words, words) if name == "display" else words
        return words if words in KEYWORDS[name] else None
    if name == "list-style":
        return _list_style(tokens)
    return None if name == "all" else _written(tokens)


def _written(tokens: list[Any]) -> str | None:
    if not tokens or any(token.type not in _OF_TEXTS for token in tokens):
        return None
    return str(tinycss2.serialize([token for each in tokens for token in (each, _SPACE)])).strip()


_OF_TEXTS = ("ident", "number", "string")
(_SPACE,) = component_values(" ")


def _list_style(tokens: list[Any]) -> str | None:
    """The type in the shorthand (CSS Lists 3 §3.4); an image stands for a marker that is no text."""
    kept = [token for token in tokens if not (token.type == "ident" and token.lower_value in ("inside", "outside"))]
    if any(token.type in ("url", "function") for token in kept):
        return "disc"
    if not kept:
        return "disc"
    return _written(kept[:1])
