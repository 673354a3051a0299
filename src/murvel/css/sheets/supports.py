"""@supports (CSS Conditional 3 §6 and 4 §2), answered as a current Chromium does.

Which properties there are was asked of the browser (`properties.txt`); values are checked for the properties that
change speech, and taken as supported for all others.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from pathlib import Path
from typing import Any

import tinycss2
from tinycss2.color5 import parse_color

from murvel.css.selectors.grammar import parse_selectors
from murvel.css.sheets.conditions import ConditionError, holds, significant, word
from murvel.css.tokens import component_values, one_declaration
from murvel.css.values.declared import CSS_WIDE, PROPERTIES, declared
from murvel.css.values.lengths import UNITS

_FUNCTIONS = frozenset({"font-tech", "font-format", "at-rule"})
"""Other features that may be asked for; browsers have what a page asks for here."""


def supported(prelude: Sequence[Any]) -> bool:
    """Whether the condition of an @supports rule holds; one that cannot be parsed does not.

    Args:
        prelude: tinycss2's tokens of the condition.
    """
    try:
        return holds(significant(prelude), _answer) is True
    except ConditionError:
        return False


def supports_import(arguments: Sequence[Any]) -> bool:
    """Whether the condition in the supports() of an import holds; a declaration needs no parentheses there."""
    tokens = significant(arguments)
    if one_declaration(tokens).type == "declaration":
        return _answer(tokens) is True
    return supported(arguments)


def _answer(tokens: list[Any]) -> bool | None:
    if len(tokens) == 1 and tokens[0].type == "function":
        function = tokens[0]
        if function.lower_name == "selector":
            return _selector(tinycss2.serialize(function.arguments))
        return function.lower_name in _FUNCTIONS
    declaration = one_declaration(tokens)
    if declaration.type != "declaration":
        return False  # <general-enclosed>: unknown, which is not supported
    name = declaration.lower_name
    if name.startswith("--"):
        return True
    values = significant(declaration.value)
    if name not in known_properties() or not values:
        return False
    if name in PROPERTIES:
        return bool(list(declared(tokens)))
    if any(token.type == "dimension" and token.lower_unit not in UNITS for token in values):
        return False
    if name.endswith("color") and len(values) == 1 and values[0].type in ("ident", "hash"):
        return word(values[0]) in CSS_WIDE or parse_color(values[0]) is not None
    return True


def _selector(text: str) -> bool:
    selectors = parse_selectors(component_values(text))
    return selectors is not None and len(selectors) == 1


@cache
def known_properties() -> frozenset[str]:
    """Return the names of the properties that Chromium supports."""
    return frozenset(Path(__file__).with_name("properties.txt").read_text(encoding="ascii").split())
