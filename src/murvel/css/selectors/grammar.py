"""The grammar of selectors (Selectors 4 §18): which a browser takes, and how the forgiving ones are put.

One selector of a list that is not valid takes the whole rule with it; `:is()` and `:where()` leave out what they do not
know (§18.2). The names that Chromium knows were asked of it (docs/standards.md).
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache
from typing import Any, NamedTuple

import tinycss2
import tinycss2.nth

from murvel.css.selectors.pseudo_classes import ASKED_OF_ELEMENTS, NEVER_MATCHING
from murvel.css.sheets.conditions import split
from murvel.css.tokens import component_values
from murvel.patterns import pattern

_STRUCTURAL = frozenset(
    "empty first-child first-of-type last-child last-of-type only-child only-of-type root scope".split()
)
_ALIASES = {"-webkit-any-link": "any-link", "-webkit-any": "is"}
_PSEUDO_CLASSES = _STRUCTURAL | NEVER_MATCHING | ASKED_OF_ELEMENTS | {"host"}
_OTHER_FUNCTIONS = frozenset({"host", "host-context", "state", "active-view-transition-type"})
_NTH = frozenset({"nth-child", "nth-last-child", "nth-of-type", "nth-last-of-type"})

_LEGACY = frozenset({"before", "after", "first-line", "first-letter"})
_PSEUDO_ELEMENTS = _LEGACY | frozenset(
    "marker selection placeholder backdrop file-selector-button details-content cue target-text spelling-error "
    "grammar-error search-text scroll-marker scroll-marker-group checkmark picker-icon column view-transition "
    "permission-icon".split()
)
_PSEUDO_FUNCTIONS = frozenset(
    "highlight scroll-button picker slotted part cue view-transition-group view-transition-image-pair "
    "view-transition-old view-transition-new".split()
)
_MATCHES_NOTHING = ":not(*)"
_COMBINATORS = (">", "+", "~")


class Selector(NamedTuple):
    """A complex selector that is valid.

    Attributes:
        text: its text without a pseudo-element at its end.
        pseudo: the name of that pseudo-element, empty if there is none.
    """

    text: str
    pseudo: str = ""

    def __str__(self) -> str:
        return f"{self.text}::{self.pseudo}" if self.pseudo else self.text


class _InvalidError(Exception):
    """A selector is not valid."""


_COMPOUND = r"(?=[a-zA-Z.#*])(?:\*|[a-zA-Z][\w-]*+)?(?:[.#][a-zA-Z_][\w-]*+)*+"
_PLAIN_ONE = rf"\s*{_COMPOUND}(?:(?:\s*[>+~]\s*|\s+){_COMPOUND})*+(?:(?<=[\w*-])::?(?:before|after))?\s*"
_PLAIN = pattern(rf"{_PLAIN_ONE}(?:,{_PLAIN_ONE})*+", re.ASCII)
_LEGACY_END = pattern(r"::?(before|after)\s*\Z")


def is_plain(text: str) -> bool:
    """Whether the selectors of a list ask for types, classes and ids only: they are valid, and need no tokens."""
    return _PLAIN.fullmatch(text) is not None


@lru_cache(maxsize=8192)
def selectors_in(text: str, *, is_nested: bool = False) -> list[Selector] | None:
    """Return the same as `parse_selectors` for text."""
    if not is_plain(text):
        return parse_selectors(component_values(text, skip_comments=True), is_nested=is_nested)
    found: list[Selector] = []
    for part in text.split(","):
        end = _LEGACY_END.search(part) if ":" in part else None
        whole = part if end is None else part[: end.start()]
        words = _COMBINATOR.sub(r" \g<0> ", whole).split()
        found.append(Selector(" ".join(words), "" if end is None else end.group(1)))
    return found


_COMBINATOR = pattern("[>+~]")


def parse_selectors(tokens: list[Any], *, is_nested: bool = False) -> list[Selector] | None:
    """Return the selectors of a list, None if one of them is not valid.

    Args:
        tokens: tinycss2's tokens of the list.
        is_nested: whether its selectors may begin with a combinator.
    """
    try:
        return [_complex(part, is_relative=is_nested) for part in split(tokens, ",")]
    except _InvalidError:
        return None


def _complex(tokens: list[Any], *, is_relative: bool = False, in_has: bool = False) -> Selector:
    """§18 <complex-selector>: compounds with combinators between them."""
    pieces: list[str] = []
    pseudo = ""
    compound: list[Any] = []
    combinator = ""  # what stands before the next compound; white space gives way to any other
    for token in (*_trimmed(tokens), None):
        found = _combinator(token)
        if token is not None and not found:
            compound.append(token)
            continue
        if compound:
            if pseudo:
                raise _InvalidError  # a pseudo-element ends a selector
            text, pseudo = _compound(compound, in_has=in_has)
            pieces += [combinator, text or ("*" if pieces else "")]
            compound, combinator = [], found
        elif found and not combinator.strip() and (pieces or is_relative):
            combinator = found
        elif not found.isspace():
            raise _InvalidError  # two combinators, or one at an end
    if combinator.strip():
        raise _InvalidError
    return Selector("".join(f" {each} " if each in _COMBINATORS else each for each in pieces).strip(), pseudo)


def _trimmed(tokens: list[Any]) -> list[Any]:
    kept = [token for token in tokens if token.type != "comment"]
    while kept and kept[0].type == "whitespace":
        kept.pop(0)
    while kept and kept[-1].type == "whitespace":
        kept.pop()
    return kept


def _combinator(token: Any) -> str:
    if token is None:
        return ""
    if token.type == "whitespace":
        return " "
    return str(token.value) if token.type == "literal" and token.value in _COMBINATORS else ""


def _compound(tokens: list[Any], *, in_has: bool) -> tuple[str, str]:
    """§18 <compound-selector>: its text, and the pseudo-element at its end."""
    at, text = _type(tokens)
    pseudo = ""
    while at < len(tokens):
        token, following = tokens[at], tokens[at + 1] if at + 1 < len(tokens) else None
        if token.type == "literal" and token.value == ":":
            at, piece, element = _pseudo(tokens, at + 1, in_has=in_has)
            if pseudo and not _may_follow(pseudo, piece, element):
                raise _InvalidError
            if pseudo:
                pseudo += f"::{element}" if element else piece
            else:
                pseudo, text = element, text + piece
            continue
        if pseudo:
            raise _InvalidError
        if token.type == "hash" and token.is_identifier:
            text += token.serialize()
        elif token.type == "literal" and token.value == "." and following is not None and following.type == "ident":
            text += "." + following.serialize()
            at += 1
        elif token.type == "[] block" and _is_attribute(token.content):
            text += token.serialize()
        elif token.type == "literal" and token.value == "&":
            text += "&"
        else:
            raise _InvalidError
        at += 1
    return text, pseudo


def _type(tokens: list[Any]) -> tuple[int, str]:
    """A type selector at the beginning, namespaces taken off: how many tokens it is, and its text."""
    kinds = [token.value if token.type == "literal" else token.type for token in tokens[:3]]
    if kinds[:1] in (["ident"], ["*"]) and kinds[1:2] != ["|"]:
        return 1, tokens[0].serialize()
    if kinds[:2] in (["|", "ident"], ["|", "*"]):
        return 2, tokens[1].serialize()
    if kinds in (["*", "|", "ident"], ["*", "|", "*"]):
        return 3, tokens[2].serialize()
    return 0, ""


def _pseudo(tokens: list[Any], at: int, *, in_has: bool) -> tuple[int, str, str]:
    """What stands behind a colon: the place after it, a pseudo-class as text, or the name of a pseudo-element."""
    is_element = at < len(tokens) and tokens[at].type == "literal" and tokens[at].value == ":"
    at += is_element
    token = tokens[at] if at < len(tokens) else None
    if token is None or token.type not in ("ident", "function"):
        raise _InvalidError
    name = token.lower_value if token.type == "ident" else token.lower_name
    if is_element or (token.type == "ident" and name in _LEGACY):
        known = _PSEUDO_ELEMENTS if token.type == "ident" else _PSEUDO_FUNCTIONS
        if name not in known and not (token.type == "ident" and name.startswith("-webkit-")):
            raise _InvalidError
        if token.type == "function":
            name += f"({tinycss2.serialize(token.arguments).strip()})"
        return at + 1, "", name
    name = _ALIASES.get(name, name)
    if token.type == "function":
        return at + 1, _function(name, token, in_has=in_has), ""
    if name not in _PSEUDO_CLASSES:
        raise _InvalidError
    return at + 1, ":root" if name == "scope" else f":{name}", ""


def _may_follow(pseudo: str, piece: str, element: str) -> bool:
    """Whether something may stand behind a pseudo-element (§3.6.2 and §3.6.3)."""
    if pseudo.startswith(("slotted(", "part(", "details-content", "-webkit-scrollbar")):
        return True
    if pseudo in ("before", "after"):
        return element == "marker" or piece.startswith((":is(", ":where(", _MATCHES_NOTHING))
    return False


def _function(name: str, token: Any, *, in_has: bool) -> str:
    """A pseudo-class with arguments."""
    arguments = token.arguments
    if name in ("is", "where"):
        kept = [each.text for each in _forgiven(arguments, in_has=in_has) if not each.pseudo]
        return f":{name}({', '.join(kept)})" if kept else _MATCHES_NOTHING
    if name in ("not", "has"):
        if name == "has" and in_has:
            raise _InvalidError
        inside = [
            _complex(part, is_relative=name == "has", in_has=in_has or name == "has") for part in split(arguments, ",")
        ]
        if any(each.pseudo for each in inside):
            raise _InvalidError
        return f":{name}({', '.join(each.text for each in inside)})"
    if name in _NTH:
        return f":{name}({_nth(name, arguments, in_has=in_has)})"
    if name in ("lang", "dir"):
        words = _trimmed(arguments)
        if len(words) != 1 or words[0].type != "ident":
            raise _InvalidError
        return f":{name}({words[0].value.lower()})"
    if name in _OTHER_FUNCTIONS:
        return f":{name}({tinycss2.serialize(arguments)})"
    raise _InvalidError


def _forgiven(tokens: list[Any], *, in_has: bool) -> Iterator[Selector]:
    for part in split(tokens, ","):
        try:
            yield _complex(part, in_has=in_has)
        except _InvalidError:
            continue


def _nth(name: str, arguments: list[Any], *, in_has: bool) -> str:
    """§13.3: a formula, and perhaps a list of selectors behind `of`."""
    of = next((i for i, each in enumerate(arguments) if each.type == "ident" and each.lower_value == "of"), None)
    formula = arguments[:of]
    if tinycss2.nth.parse_nth(formula) is None:
        raise _InvalidError
    text = str(tinycss2.serialize(formula)).strip()
    if of is None:
        return text
    inside = [_complex(part, in_has=in_has) for part in split(arguments[of + 1 :], ",")]
    if name not in ("nth-child", "nth-last-child") or any(each.pseudo for each in inside):
        raise _InvalidError
    return f"{text} of {', '.join(each.text for each in inside)}"


def _is_attribute(content: list[Any]) -> bool:
    """§18 <attribute-selector>, without its brackets."""
    tokens = [token for token in content if token.type not in ("whitespace", "comment")]
    kinds = [token.value if token.type == "literal" else token.type for token in tokens]
    while kinds[:1] in (["|"], ["*"]) and kinds[1:2] != ["="]:
        kinds = kinds[1:]
    if kinds[:1] != ["ident"]:
        return False
    if len(kinds) == 1:
        return True
    flag = tokens[-1].lower_value if kinds[3:] == ["ident"] else ""
    return (
        kinds[1] in ("=", "~=", "|=", "^=", "$=", "*=")
        and kinds[2:3] in (["ident"], ["string"])
        and (kinds[3:] == [] or flag == "i")
    )
