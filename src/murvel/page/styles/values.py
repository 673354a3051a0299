"""Declarations of the properties that change what is exposed or said, their values checked and kept as text."""

from __future__ import annotations

from collections.abc import Container, Iterator
from dataclasses import dataclass
from typing import Any, NamedTuple

import tinycss2

from murvel.page.styles.limits import is_deep
from murvel.page.styles.variables import refers

INHERITED = ("visibility", "white-space", "text-transform")
"""Our properties that children take over from their parent."""

KEYWORDS: dict[str, frozenset[str]] = {
    "visibility": frozenset({"visible", "hidden", "collapse"}),
    "white-space": frozenset({"normal", "pre", "nowrap", "pre-wrap", "pre-line", "break-spaces"}),
    "text-transform": frozenset({"none", "capitalize", "uppercase", "lowercase", "full-width"}),
    "content-visibility": frozenset({"visible", "auto", "hidden"}),
    "display": frozenset(
        [
            "none",
            "contents",
            "block",
            "inline",
            "flow-root",
            "inline-block",
            "run-in",
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
            "ruby-base",
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
    "content": "normal",
}

PAINTED, PLAIN = "painted", "plain"

DECORATION = {
    **dict.fromkeys(("border", "border-top", "border-right", "border-bottom", "border-left", "border-style"), "border"),
    **dict.fromkeys(("background", "background-color"), "background"),
    "border-collapse": "border-collapse",
}
"""Properties that make a table look like data, as the one that each stands for."""

_PLAIN_WORDS = frozenset({"none", "hidden", "transparent", "inherit", "initial", "unset", "separate"})

PROPERTIES = frozenset(INITIAL)
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

ContentPart = str | tuple[str, str]
"""A piece of generated content: text, ("attr", name), or ("alt", text), an alternative that stands apart."""


class Pending(NamedTuple):
    """A value that is known only for an element: one with var() in it, or that of a custom property."""

    text: str


Value = str | tuple[ContentPart, ...] | Pending
"""A keyword; for `content`, its pieces; or a value that is known only for an element."""


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
    for node in tinycss2.parse_blocks_contents(tokens, skip_comments=True, skip_whitespace=True):
        if node.type != "declaration" or is_deep(node.value):
            continue
        if node.name in custom:
            yield Declared(node.name, Pending(tinycss2.serialize(node.value).strip()), node.important)
            continue
        if node.lower_name in DECORATION:
            yield Declared(DECORATION[node.lower_name], _decoration(node.value), node.important)
            continue
        if node.lower_name not in PROPERTIES:
            continue
        values = [token for token in node.value if token.type not in ("whitespace", "comment")]
        value: Value | None
        if refers(values):
            value = Pending(tinycss2.serialize(node.value).strip())
        elif len(values) == 1 and values[0].type == "ident" and values[0].lower_value in CSS_WIDE:
            value = values[0].lower_value
        elif node.lower_name == "content":
            value = _content(values)
        else:
            words = " ".join(token.lower_value if token.type == "ident" else "?" for token in values)
            words = _DISPLAY_ALIASES.get(words, words) if node.lower_name == "display" else words
            value = words if words in KEYWORDS[node.lower_name] else None
        if value is not None:
            yield Declared(node.lower_name, value, node.important)


def _decoration(tokens: list[Any]) -> str:
    words = {token.lower_value for token in tokens if token.type == "ident"}
    zero = any(token.type in ("number", "dimension") and token.value == 0 for token in tokens)
    return PLAIN if zero or words & _PLAIN_WORDS else PAINTED


def _content(values: list[Any]) -> str | tuple[ContentPart, ...] | None:
    """CSS Content 3 §2: text, or what stands behind a slash as its alternative text."""
    if len(values) == 1 and values[0].type == "ident":
        word = str(values[0].lower_value)
        return word if word in ("none", "normal") else _keyword_part(word)
    slash = next((i for i, token in enumerate(values) if token.type == "literal" and token.value == "/"), None)
    parts: list[ContentPart] = []
    for token in values if slash is None else values[slash + 1 :]:
        if token.type == "string":
            parts.append(str(token.value) if slash is None else ("alt", str(token.value)))
        elif token.type == "function" and token.lower_name == "attr":
            names = [argument for argument in token.arguments if argument.type == "ident"]
            if names:
                parts.append(("attr", str(names[0].value)))
        elif token.type in ("url", "function", "ident"):
            continue  # images, counters and quotes add a box but no text of the author's
        else:
            return None
    return tuple(parts)


def _keyword_part(word: str) -> tuple[ContentPart, ...] | None:
    quotes = {"open-quote": "“", "close-quote": "”", "no-open-quote": "", "no-close-quote": ""}
    return (quotes[word],) if word in quotes else None
